import { Dialog } from '@base-ui/react/dialog';
import { msg } from '@kestfog/core/words';
import type { ReactNode } from 'react';

interface Props {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/** Something asked over the whole screen, with room for a knuckle; Escape or the one button closes it. */
export function Sheet({ title, onClose, children }: Props) {
  return (
    <Asking onClose={onClose} className="w-full max-w-6xl max-h-[96dvh] p-4 sm:p-6 text-xl leading-snug">
      <header className="flex items-start gap-4 mb-3">
        <Dialog.Title className="text-3xl font-semibold grow">{title}</Dialog.Title>
        <Dialog.Close className="btn min-h-16 min-w-24 text-xl">{msg`close`}</Dialog.Close>
      </header>
      {children}
    </Asking>
  );
}

/** The frame of everything that is asked over a page: it has the keyboard to itself and gives it back. A `Dialog.Title` names it. */
export function Asking({ onClose, className = '', children }: Omit<Props, 'title'> & { readonly className?: string }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Viewport className="modal modal-open">
          <Dialog.Popup className={`modal-box ${className}`}>{children}</Dialog.Popup>
        </Dialog.Viewport>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
