import { type ReactNode, useEffect, useRef } from 'react';

interface Props {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/** Something asked over the whole screen, with room for a knuckle; Escape or the one button closes it. */
export function Sheet({ title, onClose, children }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const box = dialog.current;
    if (box && !box.open) box.showModal();
  }, []);
  return (
    <dialog ref={dialog} className="modal" aria-label={title} onClose={onClose}>
      <div className="modal-box w-full max-w-6xl max-h-[96dvh] p-4 sm:p-6 text-xl leading-snug">
        <header className="flex items-start gap-4 mb-3">
          <h2 className="text-3xl font-semibold grow">{title}</h2>
          <button type="button" className="btn min-h-16 min-w-24 text-xl" onClick={() => dialog.current?.close()}>
            close
          </button>
        </header>
        {children}
      </div>
    </dialog>
  );
}
