import type { Design, OrderFile } from '@kestfog/core';
import { proxy, wrap } from 'comlink';
import type { PlanAnswer, PlanWork } from './plan.worker.js';

export interface Planning {
  /** null where it was cancelled */
  readonly answer: Promise<PlanAnswer | null>;
  readonly cancel: () => void;
}

/** Plans an order in a worker of its own, so that cancelling it is ending it. */
export function planBeside(order: OrderFile, designs: readonly Design[], seconds: number, rounds: number, onProgress: (text: string) => void): Planning {
  const worker = new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module', name: 'plan' });
  let cancel = () => {};
  const cancelled = new Promise<null>((done) => {
    cancel = () => {
      worker.terminate();
      done(null);
    };
  });
  // Without this a worker that cannot be loaded would look like one that is still thinking.
  const broken = new Promise<PlanAnswer>((done) => {
    worker.addEventListener('error', () =>
      done({ ok: false, message: 'It could not be tried: the part of the page that plans did not start. Load the page again.' }),
    );
  });
  const answer = wrap<PlanWork>(worker)
    .plan(order, designs, seconds, rounds, proxy(onProgress))
    .finally(() => worker.terminate());
  return { answer: Promise.race([answer, cancelled, broken]), cancel };
}
