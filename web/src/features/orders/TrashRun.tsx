import type { OrderView, RunSummary } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useRemoveRun } from '../../api/queries.js';
import { say } from '../../ui/toasts.js';
import { usePutBack } from '../../ui/use-put-back.js';

/** Puts the run of an order into the trash: what was begun by mistake, or as a trial. */
export function TrashRun({ order, run }: { readonly order: OrderView; readonly run: RunSummary }) {
  const remove = useRemoveRun();
  const putBack = usePutBack('runs');
  const name = msg`The run of ${order.name}`;
  return (
    <button
      type="button"
      className="btn btn-ghost btn-lg"
      disabled={remove.isPending}
      onClick={() =>
        remove.mutate(
          { id: run.id, name: order.name },
          {
            onSuccess: () =>
              putBack(
                { id: run.id, name },
                msg`${run.done} of ${run.total} steps were done: nothing is learned from them, and the order can be changed and begun
                  anew.`,
              ),
            onError: (e) => say(e.message),
          },
        )
      }
    >
      {msg`Throw the run away`}
    </button>
  );
}
