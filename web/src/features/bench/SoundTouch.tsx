import { msg } from '@kestfog/core/words';
import { Volume2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { allowSound, isSoundAllowed } from './knock.js';

/** After a load the browser keeps silent until it is touched: one large place to do so, though any touch will do. */
export function SoundTouch() {
  const [, setAllowed] = useState(false);
  useEffect(() => {
    const touched = () => void allowSound().then(() => setAllowed(true));
    // After the click, not at its beginning: what was aimed at must not move away under the finger.
    window.addEventListener('click', touched, { once: true });
    return () => window.removeEventListener('click', touched);
  }, []);
  if (isSoundAllowed()) return null;
  return (
    <button
      type="button"
      className="btn btn-outline h-16 sm:h-20 w-full text-2xl font-semibold"
      onClick={() => void allowSound().then(() => setAllowed(true))}
    >
      <Volume2 aria-hidden size={34} />
      {msg`Touch once for sound`}
    </button>
  );
}
