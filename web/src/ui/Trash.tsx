import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { type Named, type Trashed, useRemoveForGood, useRestore } from '../api/queries.js';

/** What was deleted and can still be put back, for thirty days. */
export function TrashList({ kind, items }: { readonly kind: Trashed; readonly items: readonly Named[] }) {
  return (
    <>
      <p className="text-lg opacity-85 mb-3">{msg`What is deleted lies here for 30 days.`}</p>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {items.map((x) => (
          <Row key={x.id} kind={kind} of={x} />
        ))}
      </ul>
    </>
  );
}

function Row({ kind, of }: { readonly kind: Trashed; readonly of: Named }) {
  const restore = useRestore(kind);
  const remove = useRemoveForGood(kind);
  const [sure, setSure] = useState(false);
  const failure = restore.error ?? remove.error;
  return (
    <li className="py-4 flex flex-wrap items-center gap-3">
      <span className="text-2xl font-semibold grow">{of.name}</span>
      {sure ? (
        <>
          <button type="button" className="btn btn-lg btn-error" disabled={remove.isPending} onClick={() => remove.mutate(of)}>
            {msg`Delete it for good`}
          </button>
          <button type="button" className="btn btn-lg btn-ghost" onClick={() => setSure(false)}>
            {msg`Leave it here`}
          </button>
        </>
      ) : (
        <>
          <button type="button" className="btn btn-lg" disabled={restore.isPending} onClick={() => restore.mutate(of)}>
            {msg`Put it back`}
          </button>
          <button type="button" className="btn btn-lg btn-ghost" onClick={() => setSure(true)}>
            {msg`Delete for good`}
          </button>
        </>
      )}
      {failure && (
        <p role="alert" className="w-full text-error font-medium text-lg">
          {failure.message}
        </p>
      )}
    </li>
  );
}
