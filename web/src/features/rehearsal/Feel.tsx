import { type AskedBody, askedNow, bodiesAsked, type LaidBody, type RunIndex } from '@kestfog/core/bench';
import { bodyKey, cookieKey } from '@kestfog/core/formats';
import { isThere, type Truth, trueState } from '@kestfog/core/rehearsal';
import type { TaskId } from '@kestfog/core/units';
import { msg, plural, word } from '@kestfog/core/words';
import { useState } from 'react';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { SURFACES, stateToShow } from '../bench/defect-text.js';
import type { Run } from '../bench/use-run.js';

interface Props {
  readonly bench: Run;
  readonly index: RunIndex;
  readonly taskId: TaskId;
  readonly truth: Truth;
  readonly onClose: () => void;
}
const nameOf = (b: LaidBody) => bodyKey(b.lotId, b.cookie, b.stepId);
const cookieOf = (b: LaidBody) => cookieKey(b.lotId, b.cookie);

/** A finger put to what is waited for: it finds what is really there, and one tap reports it to the bench. */
export function Feel({ bench, index, taskId, truth, onClose }: Props) {
  const [atMs] = useState(bench.nowMs);
  const task = index.plan.task(taskId);
  const atS = index.plan.sOf(atMs);
  const asked = task ? bodiesAsked(index, task) : [];
  const first = task ? askedNow(index, task, atS) : null;
  const isFirst = (a: AskedBody) => first !== null && nameOf(a.body) === nameOf(first.body);
  const groups = new Map<string, AskedBody[]>();
  // The one the bench would send the finger to comes first, and alone.
  for (const a of [...asked].sort((x, y) => Number(isFirst(y)) - Number(isFirst(x)) || x.body.cookie - y.body.cookie)) {
    const key = isFirst(a) ? 'first' : `${a.body.stepId} ${a.state} ${trueState(truth, cookieOf(a.body), a.body, atS)}`;
    const known = groups.get(key) ?? [];
    if (!known.some((x) => x.body.cookie === a.body.cookie)) groups.set(key, [...known, a]);
  }
  const rows = [...groups.values()];
  return (
    <Sheet title={msg`A finger on it`} onClose={onClose}>
      {rows.length === 0 ? (
        <p>{msg`Nothing has to dry before this: there is nothing to feel.`}</p>
      ) : (
        <ul className="divide-y divide-base-300">
          {rows.map((group) => {
            const a = group[0] as AskedBody;
            const found = stateToShow(trueState(truth, cookieOf(a.body), a.body, atS));
            const ready = isThere(truth, cookieOf(a.body), a.body, a.state, atS);
            return (
              <li key={nameOf(a.body)} className="py-2 flex flex-wrap items-center gap-x-6 gap-y-2">
                <span className="grow">
                  {msgNodes`${plural(group.length, 'cookie', 'cookies')} ${group.map((x) => x.body.cookie + 1).join(', ')},
                    ${task ? index.plan.step(task, a.body.stepId)?.label : ''}:
                      ${<b>{SURFACES.find((s) => s.state === found)?.label ?? found}</b>}, asked is ${word(a.state)}`}
                </span>
                <button
                  type="button"
                  className="btn min-h-16 text-xl"
                  onClick={() => {
                    bench.send({
                      type: 'touched',
                      data: { taskId, cookie: a.body.cookie, part: a.body.stepId, state: a.state, found: ready ? 'reached' : 'not-yet' },
                    });
                    onClose();
                  }}
                >
                  {msgNodes`tell the bench: ${ready ? msg`it is there` : msg`not yet`}`}
                </button>
              </li>
            );
          })}
        </ul>
      )}
    </Sheet>
  );
}
