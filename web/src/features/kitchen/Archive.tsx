import type { ClashWay, TakenIn } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ApiFailure, api } from '../../api/client.js';
import { FileButton } from '../../ui/FileButton.js';
import { say } from '../../ui/toasts.js';

/** Everything the kitchen has, out into one file and in again: to move to another machine, or to keep elsewhere. */
export function Archive() {
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const take = useMutation({
    mutationFn: ({ of, clashes }: { readonly of: File; readonly clashes: ClashWay }) =>
      api<TakenIn>(`/archive?clashes=${clashes}`, { method: 'POST', file: new Blob([of], { type: 'application/zip' }) }),
    onSuccess: ({ rows, files }) => {
      setFile(null);
      say(
        rows + files === 0
          ? msg`Everything in the archive was here already.`
          : msg`The archive was taken in: ${rows} ${plural(rows, 'thing', 'things')}, ${files} ${plural(files, 'photo or recording', 'photos and recordings')}.`,
      );
      return client.invalidateQueries();
    },
  });
  const isClash = take.error instanceof ApiFailure && take.error.code === 'archive-clash';
  const ask = (of: File, clashes: ClashWay) => {
    setFile(of);
    take.mutate({ of, clashes });
  };
  return (
    <section id="archive" aria-label={msg`Archive`}>
      <h2 className="text-2xl font-semibold">{msg`Archive`}</h2>
      <p className="text-lg">
        {msg`Everything in one file: orders, designs, runs, the notebook with its photos, what was learned. Taken in elsewhere, it answers
          as it does here. Besides, backups are made by themselves.`}
      </p>
      <div className="flex flex-wrap gap-3 mt-3">
        <a className="btn" href="/api/archive" download>
          {msg`Save an archive`}
        </a>
        <FileButton label={msg`Take an archive in`} accept=".zip,application/zip" onFile={(of) => ask(of, 'refuse')} />
      </div>
      {take.isPending && (
        <p role="status" className="mt-2 text-lg">
          {msg`Taking it in …`}
        </p>
      )}
      {take.error && !take.isPending && (
        <div role="alert" className="mt-2 text-lg">
          <p className="text-error font-medium">{take.error.message}</p>
          {isClash && file && (
            <div className="flex flex-wrap items-center gap-3 mt-2">
              <p className="w-full">
                {msg`What gives way to the archive’s is gone: `}
                <a className="link" href="/api/archive" download>
                  {msg`save an archive of what is here`}
                </a>
                {msg` first.`}
              </p>
              <button type="button" className="btn" onClick={() => ask(file, 'keep')}>
                {msg`Keep what is here`}
              </button>
              <button type="button" className="btn" onClick={() => ask(file, 'replace')}>
                {msg`Take the archive’s`}
              </button>
              <button type="button" className="btn btn-ghost" onClick={() => take.reset()}>
                {msg`Take nothing in`}
              </button>
            </div>
          )}
        </div>
      )}
    </section>
  );
}
