import { Volume2 } from 'lucide-react';
import { useState } from 'react';
import { allowSound, isSoundAllowed } from './knock.js';

/** After a load the browser keeps silent until it is touched: one large place to do so. */
export function SoundTouch() {
  const [, setAllowed] = useState(false);
  if (isSoundAllowed()) return null;
  return (
    <button
      type="button"
      className="btn btn-outline h-16 sm:h-20 w-full text-2xl font-semibold"
      onPointerDown={() => void allowSound().then(() => setAllowed(true))}
      onClick={() => void allowSound().then(() => setAllowed(true))}
    >
      <Volume2 aria-hidden size={34} />
      Touch once for sound
    </button>
  );
}
