import { Dialog } from '@base-ui/react/dialog';
import { msg } from '@kestfog/core/words';
import { setLetters, useLetters } from '../app/keys.js';
import { Asking } from './Sheet.js';

interface Props {
  readonly keys: readonly (readonly [string, string])[];
  readonly onClose: () => void;
}

/** The keys of the place, and whether letters are any. */
export function KeysSheet({ keys, onClose }: Props) {
  const letters = useLetters();
  return (
    <Asking onClose={onClose}>
      <Dialog.Title className="text-2xl font-semibold mb-4">{msg`Keys`}</Dialog.Title>
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
        {msg`letters are keys, on this device`}
      </label>
      <p className="opacity-85">{msg`Off, no single letter does anything: for who speaks to the page or rests a hand on the keys.`}</p>
      <div className="modal-action">
        <Dialog.Close className="btn">{msg`Close`}</Dialog.Close>
      </div>
    </Asking>
  );
}
