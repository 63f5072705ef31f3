import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';

interface Props {
  readonly keys: readonly (readonly [string, string])[];
  readonly onSwapTheme: () => void;
}

/** `?` lists the keys of the place; letters typed into a field stay letters. */
export function KeysHelp({ keys, onSwapTheme }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName)) return;
      if (e.key === '?') dialog.current?.showModal();
      else if (e.key === 'o') void navigate('/orders');
      else if (e.key === 'n') void navigate('/orders/new');
      else if (e.key === 'd') void navigate('/designs');
      else if (e.key === 'l') onSwapTheme();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [navigate, onSwapTheme]);
  return (
    <>
      <button type="button" className="btn btn-ghost btn-square text-xl" aria-label="Keys" onClick={() => dialog.current?.showModal()}>
        ?
      </button>
      <dialog ref={dialog} className="modal" aria-label="Keys">
        <div className="modal-box">
          <h2 className="text-2xl font-semibold mb-4">Keys</h2>
          <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2 text-lg">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="kbd">{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <form method="dialog" className="modal-action">
            <button type="submit" className="btn">
              Close
            </button>
          </form>
        </div>
      </dialog>
    </>
  );
}
