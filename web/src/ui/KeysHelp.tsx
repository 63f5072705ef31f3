import { Dialog } from '@base-ui/react/dialog';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { setLetters, useKey, useLetters } from '../app/keys.js';
import { Asking } from './Sheet.js';

interface Props {
  readonly keys: readonly (readonly [string, string])[];
  readonly onSwapTheme: () => void;
}

/** `?` lists the keys of the place; letters can be switched off. */
export function KeysHelp({ keys, onSwapTheme }: Props) {
  const [open, setOpen] = useState(false);
  const letters = useLetters();
  const navigate = useNavigate();
  useKey('shift+?,?', () => setOpen(true));
  useKey('o', () => void navigate('/orders'));
  useKey('n', () => void navigate('/orders/new'));
  useKey('d', () => void navigate('/designs'));
  useKey('k', () => void navigate('/kitchen'));
  useKey('l', onSwapTheme);
  return (
    <>
      <button type="button" className="btn btn-ghost btn-square text-xl" aria-label="Keys" onClick={() => setOpen(true)}>
        ?
      </button>
      {open && (
        <Asking onClose={() => setOpen(false)}>
          <Dialog.Title className="text-2xl font-semibold mb-4">Keys</Dialog.Title>
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
          <label className="flex items-center gap-3 text-lg mt-4 min-h-11">
            <input type="checkbox" className="toggle" checked={letters} onChange={(e) => setLetters(e.target.checked)} />
            letters are keys, on this device
          </label>
          <p className="opacity-85">Off, no single letter does anything: for who speaks to the page or rests a hand on the keys.</p>
          <div className="modal-action">
            <Dialog.Close className="btn">Close</Dialog.Close>
          </div>
        </Asking>
      )}
    </>
  );
}
