import { msg } from '@kestfog/core/words';
import { type Named, type Trashed, useRestore } from '../api/queries.js';
import { say } from './toasts.js';

/** Says that something lies in the trash now, with the way back. Nothing is asked before: it lies there for thirty days. */
export function usePutBack(kind: Trashed): (of: Named, more?: string) => void {
  const restore = useRestore(kind);
  return (of, more) =>
    say(msg`${of.name} is in the trash for 30 days.${more ? ` ${more}` : ''}`, {
      label: msg`Put it back`,
      // A promise: whoever said it may be gone when the answer comes.
      act: () =>
        void restore.mutateAsync(of).then(
          () => say(msg`${of.name} is back.`),
          (e: Error) => say(e.message),
        ),
    });
}

interface TakenAway {
  readonly remove: { readonly mutateAsync: (id: string) => Promise<unknown> };
  readonly restore: { readonly mutateAsync: (id: string) => Promise<unknown> };
}
/** Takes a line of a list away, says so, and offers the way back. What the server refuses is said where the list is. */
export function takeAway({ remove, restore }: TakenAway, id: string, done: string): void {
  const sayWhy = (e: Error) => say(e.message);
  const putBack = () => void restore.mutateAsync(id).then(() => say(msg`It is back.`), sayWhy);
  void remove.mutateAsync(id).then(
    () => say(done, { label: msg`Put it back`, act: putBack }),
    () => undefined,
  );
}
