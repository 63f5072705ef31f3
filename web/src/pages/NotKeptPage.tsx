import { outbox, useOutbox } from '../outbox/index.js';
import { Notice } from '../ui/Notice.js';
import { Refused, WhatItIs } from '../ui/NotKept.js';
import { useTitle } from '../ui/use-title.js';

/** What the server has not said yes to: what waits, and what it refused, with the reason and what can be done. */
export function NotKeptPage() {
  useTitle('Not kept yet');
  const entries = useOutbox();
  const refused = entries.filter((e) => e.refused !== null);
  const waiting = entries.filter((e) => e.refused === null);
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-6">Not kept yet</h1>
      {entries.length === 0 && <Notice title="All is kept">Nothing you typed or tapped on this device waits for the server.</Notice>}
      {refused.length > 0 && (
        <section aria-label="refused" className="mb-10">
          <h2 className="text-2xl font-semibold mb-2">Refused</h2>
          <p className="text-lg opacity-85 mb-3">The server said no to these, and why. They stay on this device until you have decided.</p>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {refused.map((e) => (
              <Refused key={e.id} entry={e} />
            ))}
          </ul>
        </section>
      )}
      {waiting.length > 0 && (
        <section aria-label="waiting">
          <h2 className="text-2xl font-semibold mb-2">Waiting for the server</h2>
          <p className="text-lg opacity-85 mb-3">
            They are kept on this device and sent by themselves, in this order, as soon as the server answers.{' '}
            <button type="button" className="link" onClick={() => void outbox.send()}>
              Try now
            </button>
          </p>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {waiting.map((e) => (
              <li key={e.id} className="py-4 flex flex-wrap items-baseline gap-x-6 text-lg">
                <WhatItIs entry={e} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
