import { msg } from '@kestfog/core/words';
import { useEffect, useState } from 'react';
import { takeUpNewer, takeUpUnseen, useNewerPage } from '../app/newer-page.js';

/** Says that the server has a newer page, and takes it up: now, or by itself once nobody looks. */
export function NewerPage() {
  const newer = useNewerPage();
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    if (!newer) return;
    takeUpUnseen();
    document.addEventListener('visibilitychange', takeUpUnseen);
    return () => document.removeEventListener('visibilitychange', takeUpUnseen);
  }, [newer]);
  if (!newer) return null;
  return (
    <div
      role="status"
      className="no-print border-l-8 border-base-content/60 px-4 py-2 mx-6 md:mx-10 text-lg flex flex-wrap items-center gap-x-6 gap-y-2"
    >
      <span>{msg`Kestfog was renewed on the server; this page is from before. What you typed stays.`}</span>
      <button
        type="button"
        className="btn"
        disabled={busy}
        onClick={() => {
          setBusy(true);
          void takeUpNewer();
        }}
      >
        {busy ? msg`Getting the new page …` : msg`Take up the new page`}
      </button>
    </div>
  );
}
