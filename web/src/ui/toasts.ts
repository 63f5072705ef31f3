import { Toast } from '@base-ui/react/toast';

/** *Assumed*: as long as one needs to read it and think again; what it offers is also found elsewhere (the trash). */
const SAID_FOR_MS = 12_000;

export const toasts = Toast.createToastManager();

/** Tells what was just done, in a corner, with the way back where there is one. */
export function say(text: string, undo?: { readonly label: string; readonly act: () => void }): void {
  const id = toasts.add({
    description: text,
    timeout: SAID_FOR_MS,
    ...(undo && {
      actionProps: {
        children: undo.label,
        onClick: () => {
          toasts.close(id);
          undo.act();
        },
      },
    }),
  });
}
