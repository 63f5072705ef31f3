import { useSyncExternalStore } from 'react';

/** Something that was done, shown for a moment; with the way back where there is one. */
export interface Said {
  readonly text: string;
  readonly undo?: { readonly label: string; readonly act: () => void } | undefined;
}

// What shows it is fetched when there is something to show.
let said: readonly Said[] = [];
const listeners = new Set<() => void>();
const put = (next: readonly Said[]) => {
  said = next;
  for (const l of listeners) l();
};

/** Tells what was just done, in a corner, with the way back where there is one. */
export const say = (text: string, undo?: Said['undo']): void => put([...said, { text, undo }]);
/** What was said since last asked; whoever asks shows it. */
export function takeSaid(): readonly Said[] {
  const all = said;
  if (all.length > 0) put([]);
  return all;
}
export const useSaid = (): readonly Said[] =>
  useSyncExternalStore(
    (on) => {
      listeners.add(on);
      return () => listeners.delete(on);
    },
    () => said,
  );
