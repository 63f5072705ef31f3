import { useState } from 'react';
import { allowSound, isSoundAllowed } from './knock.js';

/** After a load the browser keeps silent until it is touched: one large place to do so. */
export function SoundTouch() {
  const [allowed, setAllowed] = useState(isSoundAllowed);
  if (allowed) return null;
  return (
    <button
      type="button"
      className="btn btn-primary h-20 w-full text-2xl sm:text-3xl font-semibold"
      onClick={() => void allowSound().then(() => setAllowed(true))}
      onPointerDown={() => void allowSound().then(() => setAllowed(true))}
    >
      Touch once for sound
    </button>
  );
}
