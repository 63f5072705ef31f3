import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { outbox, useOutbox } from '../outbox/index.js';
import { readWaitingFile, waitingFile } from '../outbox/waiting-file.js';
import { FileButton } from '../ui/FileButton.js';
import { Notice } from '../ui/Notice.js';
import { Refused, WhatItIs } from '../ui/NotKept.js';
import { saveFile } from '../ui/save-file.js';
import { say } from '../ui/toasts.js';
import { useTitle } from '../ui/use-title.js';

/** What the server has not said yes to: what waits, and what it refused, with the reason and what can be done. */
export function NotKeptPage() {
  useTitle(msg`Not kept yet`);
  const entries = useOutbox();
  const refused = entries.filter((e) => e.refused !== null);
  const waiting = entries.filter((e) => e.refused === null);
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-6">{msg`Not kept yet`}</h1>
      {entries.length === 0 && (
        <Notice title={msg`All is kept`}>{msg`Nothing you typed or tapped on this device waits for the server.`}</Notice>
      )}
      {refused.length > 0 && (
        <section aria-label={msg`refused`} className="mb-10">
          <h2 className="text-2xl font-semibold mb-2">{msg`Refused`}</h2>
          <p className="text-lg opacity-85 mb-3">{msg`The server said no to these, and why. They stay on this device until you have
            decided.`}</p>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {refused.map((e) => (
              <Refused key={e.id} entry={e} />
            ))}
          </ul>
        </section>
      )}
      {waiting.length > 0 && (
        <section aria-label={msg`waiting`}>
          <h2 className="text-2xl font-semibold mb-2">{msg`Waiting for the server`}</h2>
          <p className="text-lg opacity-85 mb-3">
            {msg`They are kept on this device and sent by themselves, in this order, as soon as the server answers. `}
            <button type="button" className="link" onClick={() => void outbox.send()}>
              {msg`Try now`}
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
      <Moved isAnythingWaiting={waiting.length > 0} />
    </>
  );
}

/** A browser keeps things by the address they were typed at. Where Kestfog has another one, they are carried over by hand. */
function Moved({ isAnythingWaiting }: { readonly isAnythingWaiting: boolean }) {
  const [problem, setProblem] = useState<string | null>(null);
  const takeIn = async (file: File) => {
    try {
      const entries = readWaitingFile(await file.text());
      outbox.takeIn(entries);
      setProblem(null);
      say(entries.length === 1 ? msg`One thing was taken in, and is sent.` : msg`${entries.length} things were taken in, and are sent.`);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <section aria-label={msg`Another address`} className="mt-10 grid gap-3 text-lg max-w-3xl">
      <h2 className="text-2xl font-semibold">{msg`Has Kestfog another address now?`}</h2>
      <p>
        {msg`A browser keeps what waits under the address it was typed at. Save it there, open Kestfog at its new address, and take it in
          under this same heading. Taken in twice, it is kept once.`}
      </p>
      <div className="flex flex-wrap gap-3">
        {isAnythingWaiting && (
          <button
            type="button"
            className="btn btn-lg"
            onClick={() => saveFile('kestfog-waiting.json', 'application/json', waitingFile(outbox.all()))}
          >
            {msg`Save what waits`}
          </button>
        )}
        <FileButton className="btn-lg" label={msg`Take in what was saved`} accept=".json,application/json" onFile={(f) => void takeIn(f)} />
      </div>
      {problem && (
        <p role="alert" className="text-error font-medium">
          {problem}
        </p>
      )}
    </section>
  );
}
