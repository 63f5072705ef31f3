import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { Link } from 'react-router';
import { useUnits } from '../app/units.js';
import { type Choice, choiceOf } from '../outbox/choice.js';
import { outbox, typedAtMs, useOutbox } from '../outbox/index.js';
import type { Entry } from '../outbox/outbox.js';
import { briefly } from '../text/briefly.js';
import { dayClock } from '../text/time.js';
import { capital } from '../text/words.js';
import { Notice } from './Notice.js';

/** What was typed for this place and the server does not have: that it waits, and what was refused with what can be done about it. */
export function NotKeptHere({ place }: { readonly place: string }) {
  const here = useOutbox().filter((e) => e.place === place && e.kind !== 'tap');
  const waiting = here.filter((e) => e.refused === null && e.kind !== 'design');
  const refused = here.filter((e) => e.refused !== null);
  if (waiting.length === 0 && refused.length === 0) return null;
  return (
    <div className="no-print grid gap-4 mb-6">
      {waiting.length > 0 && (
        <Notice title={msg`Kept on this device, and sent by itself as soon as the server answers`}>
          {waiting.map((e) => e.what).join('; ')}
        </Notice>
      )}
      {refused.length > 0 && (
        <ul aria-label={msg`refused here`} className="divide-y divide-base-300 border-y border-base-300">
          {refused.map((e) => (
            <Refused key={e.id} entry={e} />
          ))}
        </ul>
      )}
    </div>
  );
}

/** What it is, when it was typed, and the way to where it belongs. */
export function WhatItIs({ entry }: { readonly entry: Entry }) {
  return (
    <>
      <span className="clock opacity-80">{dayClock(typedAtMs(entry))}</span>
      <Link to={entry.place} className="link text-xl font-medium">
        {capital(entry.what)}
      </Link>
    </>
  );
}

/** Something the server said no to: the reason, and what can be done. */
export function Refused({ entry }: { readonly entry: Entry }) {
  const [sure, setSure] = useState(false);
  const isChoice = entry.refused?.code === 'changed-elsewhere';
  const [choice, setChoice] = useState<Choice | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const look = () => {
    setProblem(null);
    choiceOf(entry).then(setChoice, (error: Error) => setProblem(error.message));
  };
  return (
    <li className="py-4 grid gap-2">
      <p className="flex flex-wrap items-baseline gap-x-6 text-lg">
        <WhatItIs entry={entry} />
      </p>
      <p className="text-lg text-error font-medium">{entry.refused?.reason}</p>
      {choice && <Both choice={choice} />}
      {problem && (
        <p role="alert" className="text-error font-medium text-lg">
          {problem}
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        {isChoice &&
          (choice ? (
            <button type="button" className="btn btn-lg" onClick={() => outbox.sendInstead(entry.id, choice.mine)}>
              {entry.kind === 'design' ? msg`Do mine on top of what is there now` : msg`Keep what I typed`}
            </button>
          ) : (
            <button type="button" className="btn btn-lg" onClick={look}>
              {msg`Look at both`}
            </button>
          ))}
        {!isChoice && (
          <button type="button" className="btn btn-lg" onClick={() => outbox.tryAgain(entry.id)}>
            {msg`Try it again`}
          </button>
        )}
        {sure ? (
          <>
            <button type="button" className="btn btn-lg btn-error" onClick={() => outbox.letGo(entry.id)}>
              {msg`Let it go for good`}
            </button>
            <button type="button" className="btn btn-lg btn-ghost" onClick={() => setSure(false)}>
              {msg`Keep it here`}
            </button>
          </>
        ) : (
          <button type="button" className="btn btn-lg btn-ghost" onClick={() => setSure(true)}>
            {isChoice ? msg`Keep what is there now` : msg`Let it go`}
          </button>
        )}
      </div>
    </li>
  );
}

/** Mine and what somebody else made of it meanwhile, side by side. */
function Both({ choice }: { readonly choice: Choice }) {
  const [units] = useUnits();
  if (choice.differs.length === 0) return <p className="text-lg">{msg`What you typed and what is there now are the same.`}</p>;
  return (
    <table className="table w-auto text-lg">
      <thead>
        <tr className="text-lg text-base-content">
          <th scope="col" className="font-normal">
            {msg`where they differ`}
          </th>
          <th scope="col">{msg`mine`}</th>
          <th scope="col">{msg`there now`}</th>
        </tr>
      </thead>
      <tbody>
        {choice.differs.map((d) => (
          <tr key={d.what}>
            <th scope="row" className="font-normal">
              {d.what}
            </th>
            <td>{briefly(d.mine, units)}</td>
            <td>{briefly(d.theirs, units)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
