import { msg } from '@kestfog/core/words';
import { useState } from 'react';

/** On an address the browser does not trust it withholds what the bench needs: said once, plainly; the bench runs all the same. */
export function InsecureNotice() {
  const [seen, setSeen] = useState(false);
  if (globalThis.isSecureContext || seen) return null;
  return (
    <p role="status" className="border-l-8 border-error pl-4 flex flex-wrap items-center gap-x-6 gap-y-2">
      <span>
        {msg`This address is not a secure one: the screen may go to sleep, and a reload without the network shows nothing. Taps are still
          kept. Start Kestfog with its certificate, or use it on the machine itself.`}
      </span>
      <button type="button" className="btn min-h-16 text-xl" onClick={() => setSeen(true)}>
        {msg`understood`}
      </button>
    </p>
  );
}
