import { notReached, openCookies, pipedMarks, type ShutChoice } from '@kestfog/core/bench';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { capital } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import type { Run } from './use-run.js';

interface Props {
  readonly bench: Run;
  readonly taskId: string;
  /** a finger found it so, rather than the clock */
  readonly found: boolean;
  readonly onClose: () => void;
}

/** The surface has gone too far for wet work, or for a whole step: which cookies are without it, and what becomes of them. */
export function ShutSheet({ bench, taskId, found, onClose }: Props) {
  const { state, nowMs } = bench;
  const task = state?.plan.tasks.find((t) => t.id === taskId);
  const record = state?.tasks.get(taskId);
  const open = task ? openCookies(task, record?.ticked) : [];
  const [cookies, setCookies] = useState<readonly number[]>(() => (task ? notReached(task, record, nowMs) : []));
  if (!state || !task) return null;
  const wet = task.motions.some((m) => m.kind === 'mark');
  const piped = pipedMarks(state.plan, task).length > 0;
  const choose = (choice: ShutChoice) => {
    if (found) bench.send({ type: 'touched', data: { taskId, cookie: null, part: null, state: null, found: 'past' } });
    if (!wet && choice === 'skip' && cookies.length === open.length) bench.send({ type: 'skipped', data: { taskId } });
    else bench.send({ type: 'windowShut', data: { taskId, cookies, choice } });
    onClose();
  };
  const none = cookies.length === 0;
  return (
    <Sheet title={capital(task.title)} onClose={onClose}>
      <p className="text-2xl">
        {msgNodes`${wet ? msg`Where the surface only just skins, press the marks in with the scribe and go on. ` : ''}Which cookies of
          tray ${task.trayId} are without it?`}
      </p>
      <div className="flex flex-wrap gap-2 mt-3">
        {open.map((c) => (
          <button
            key={c}
            type="button"
            className={`btn min-h-16 min-w-16 text-2xl ${cookies.includes(c) ? 'btn-primary' : ''}`}
            aria-pressed={cookies.includes(c)}
            onClick={() => setCookies(cookies.includes(c) ? cookies.filter((x) => x !== c) : [...cookies, c].sort((a, b) => a - b))}
          >
            {c + 1}
          </button>
        ))}
      </div>
      <div className="grid sm:grid-cols-3 gap-3 mt-5">
        <button type="button" className="btn min-h-24 h-auto text-2xl" disabled={none} onClick={() => choose('skip')}>
          {msg`leave it out on them`}
        </button>
        {piped && (
          <button type="button" className="btn min-h-24 h-auto text-2xl" disabled={none} onClick={() => choose('relief')}>
            {msg`pipe it in relief once they have crusted`}
          </button>
        )}
        <button type="button" className="btn min-h-24 h-auto text-2xl" disabled={none} onClick={() => choose('again')}>
          {msg`scrape them and begin again`}
        </button>
      </div>
    </Sheet>
  );
}
