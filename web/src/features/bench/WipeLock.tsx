import { msg } from '@kestfog/core/words';
import { Droplets } from 'lucide-react';
import { useEffect, useState } from 'react';
import { msgNodes } from '../../ui/msg-nodes.js';

/** Touch is off for so long while the screen is wiped; keys and pedal go on working. */
export const WIPE_S = 10;

export function WipeLock() {
  const [left, setLeft] = useState(0);
  useEffect(() => {
    if (left <= 0) return;
    const timer = setTimeout(() => setLeft(left - 1), 1000);
    return () => clearTimeout(timer);
  }, [left]);
  return (
    <>
      <button type="button" className="btn btn-ghost min-h-16 min-w-16 text-xl px-2" onClick={() => setLeft(WIPE_S)}>
        <Droplets aria-hidden size={30} />
        <span className="sr-only lg:not-sr-only">{msg`wipe the screen`}</span>
      </button>
      {left > 0 && (
        <div role="status" className="fixed inset-0 z-50 bg-base-100/95 grid place-content-center text-center touch-none select-none">
          <p className="text-[44px] font-semibold">{msg`Wipe it now`}</p>
          <p className="text-2xl mt-2">{msgNodes`Touch is off for ${left} s; space bar and pedal still work.`}</p>
        </div>
      )}
    </>
  );
}
