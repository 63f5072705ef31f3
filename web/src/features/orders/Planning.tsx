import type { Plan } from '@kestfog/core/formats';
import type { OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useEffect, useRef, useState } from 'react';
import { useOrderFile } from '../../api/queries.js';
import { dayClock } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Loading } from '../../ui/Notice.js';
import { type Beside, planBeside, warmPlanner } from '../../workers/plan-client.js';

const SECONDS = 5;
const ROUNDS = 1200;

/** What a first plan needs, had before it is asked for: then it is there within the second. */
export function PlanAhead({ order }: { readonly order: OrderView }) {
  const file = useOrderFile(order, true).data;
  useEffect(() => {
    if (file) warmPlanner(file.order, file.drawings);
  }, [file]);
  return null;
}

/** While the server makes the plan that counts, the page makes one beside itself: the first answer comes almost at once. */
export function Planning({ order, onStop }: { readonly order: OrderView; readonly onStop: () => void }) {
  const [first, setFirst] = useState<Plan | null>(null);
  const [progress, setProgress] = useState(msg`reading the drawings`);
  const running = useRef<Beside<Plan> | null>(null);
  // Where it cannot be had, the server's own answer is on its way and says what is wrong.
  const file = useOrderFile(order, true).data;
  useEffect(() => {
    if (!file) return;
    let stopped = false;
    running.current = planBeside(
      file.order,
      file.drawings,
      SECONDS,
      ROUNDS,
      (text) => !stopped && setProgress(text),
      (plan) => !stopped && setFirst(plan),
    );
    return () => {
      stopped = true;
      running.current?.cancel();
    };
  }, [file]);
  const endMs = first ? Date.parse(first.epoch as string) + first.endS * 1000 : 0;
  return (
    <div>
      {first && (
        <p className="text-4xl font-semibold">
          {msgNodes`It fits: packed by ${dayClock(endMs)} ${(
            <span className="text-2xl font-normal opacity-80">{msg`at the latest; looking
            for a better evening`}</span>
          )}`}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-4">
        <Loading what={msg`planning: ${progress}`} />
        <button type="button" className="btn" onClick={onStop}>
          {msg`Stop`}
        </button>
      </div>
    </div>
  );
}
