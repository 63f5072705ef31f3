import { msg } from '@kestfog/core/words';
import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import { useKey } from '../app/keys.js';

/** Fetched when it is first asked for, as most never do. */
const KeysSheet = lazy(async () => ({ default: (await import('./KeysSheet.js')).KeysSheet }));

interface Props {
  readonly keys: readonly (readonly [string, string])[];
  readonly onSwapTheme: () => void;
}

/** `?` lists the keys of the place; letters can be switched off. */
export function KeysHelp({ keys, onSwapTheme }: Props) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  useKey('shift+?,?', () => setOpen(true));
  useKey('o', () => void navigate('/orders'));
  useKey('n', () => void navigate('/orders/new'));
  useKey('d', () => void navigate('/designs'));
  useKey('k', () => void navigate('/kitchen'));
  useKey('j', () => void navigate('/notebook'));
  useKey('x', () => void navigate('/practice'));
  useKey('l', onSwapTheme);
  return (
    <>
      <button type="button" className="btn btn-ghost btn-square text-xl" aria-label={msg`Keys`} onClick={() => setOpen(true)}>
        ?
      </button>
      {open && (
        <Suspense>
          <KeysSheet keys={keys} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
