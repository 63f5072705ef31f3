import type { OrderView, RunSummary } from '@kestfog/core/wire';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useRemoveRun } from '../../api/queries.js';
import type { DeletedState } from '../../ui/Trash.js';

/** Puts the run of an order into the trash: what was begun by mistake, or as a trial. */
export function TrashRun({ order, run }: { readonly order: OrderView; readonly run: RunSummary }) {
  const remove = useRemoveRun();
  const navigate = useNavigate();
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <button type="button" className="btn btn-ghost btn-lg" onClick={() => setAsked(true)}>
        Throw the run away
      </button>
    );
  const name = `The run of ${order.name}`;
  return (
    <span className="flex flex-wrap items-center gap-2 text-lg">
      <span>
        {run.done} of {run.total} steps are done. Thrown away, nothing is learned from it, and the order can be changed and begun anew.
      </span>
      <button
        type="button"
        className="btn btn-error"
        disabled={remove.isPending}
        onClick={() =>
          remove.mutate(
            { id: run.id, name: order.name },
            { onSuccess: () => void navigate(`/orders/${order.id}`, { replace: true, state: { deleted: { id: run.id, name } } satisfies DeletedState }) },
          )
        }
      >
        Throw it away
      </button>
      <button type="button" className="btn" onClick={() => setAsked(false)}>
        Keep it
      </button>
      {remove.isError && (
        <span role="alert" className="text-error font-medium">
          {remove.error.message}
        </span>
      )}
    </span>
  );
}
