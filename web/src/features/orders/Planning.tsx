import type { OrderView, Plan } from '@kestfog/core';
import { useEffect, useRef, useState } from 'react';
import { fetchOrderFile } from '../../api/queries.js';
import { dayClock } from '../../text/time.js';
import { Loading } from '../../ui/Notice.js';
import { type Beside, planBeside } from '../../workers/plan-client.js';

const SECONDS = 5;
const ROUNDS = 1200;

/** While the server makes the plan that counts, the page makes one beside itself: the first answer comes almost at once. */
export function Planning({ order, onStop }: { readonly order: OrderView; readonly onStop: () => void }) {
  const [first, setFirst] = useState<Plan | null>(null);
  const [progress, setProgress] = useState('reading the drawings');
  const running = useRef<Beside<Plan> | null>(null);
  useEffect(() => {
    let stopped = false;
    void fetchOrderFile(order.id)
      .then((file) => {
        if (!stopped)
          running.current = planBeside(
            file.order,
            file.drawings,
            SECONDS,
            ROUNDS,
            (text) => !stopped && setProgress(text),
            (plan) => !stopped && setFirst(plan),
          );
      })
      // The server's own answer is on its way and says what is wrong.
      .catch(() => undefined);
    return () => {
      stopped = true;
      running.current?.cancel();
    };
  }, [order.id]);
  const endMs = first ? Date.parse(first.epoch as string) + first.endS * 1000 : 0;
  return (
    <div>
      {first && (
        <p className="text-4xl font-semibold">
          It fits: packed by {dayClock(endMs)} <span className="text-2xl font-normal opacity-80">at the latest; looking for a better evening</span>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-4">
        <Loading what={`planning: ${progress}`} />
        <button type="button" className="btn" onClick={onStop}>
          Stop
        </button>
      </div>
    </div>
  );
}
