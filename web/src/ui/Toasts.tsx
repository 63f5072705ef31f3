import { Toast } from '@base-ui/react/toast';
import { msg } from '@kestfog/core/words';
import { useEffect } from 'react';
import { type Said, takeSaid, useSaid } from './toasts.js';

/** *Assumed*: as long as one needs to read it and think again; what it offers is also found elsewhere (the trash). */
const SAID_FOR_MS = 12_000;
const toasts = Toast.createToastManager();

function show({ text, undo }: Said): void {
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

/** What was just done: it leaves by itself, waits under pointer and keyboard, and is read out; F6 goes to it. */
export function Toasts() {
  const said = useSaid();
  useEffect(() => {
    if (said.length > 0) takeSaid().forEach(show);
  }, [said]);
  return (
    <Toast.Provider toastManager={toasts} limit={3}>
      <Toast.Portal>
        <Toast.Viewport className="no-print fixed bottom-4 left-4 right-4 sm:left-auto sm:w-[28rem] grid gap-2 z-50">
          <List />
        </Toast.Viewport>
      </Toast.Portal>
    </Toast.Provider>
  );
}

function List() {
  return Toast.useToastManager().toasts.map((t) => (
    <Toast.Root key={t.id} toast={t} aria-label={msg`just done`} className="bg-neutral text-neutral-content rounded-box text-lg">
      <Toast.Content className="px-5 py-3 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Toast.Description className="grow" />
        <Toast.Action className="btn" />
        <Toast.Close className="btn btn-outline border-current text-inherit">{msg`close`}</Toast.Close>
      </Toast.Content>
    </Toast.Root>
  ));
}
