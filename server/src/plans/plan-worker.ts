import { BadInput, NoAnswer, type OrderFile, type Plan, planOrder, readDesign } from '@kestfog/core';

export interface PlanJob {
  readonly order: OrderFile;
  readonly drawings: readonly { readonly name: string; readonly svg: string }[];
  readonly seconds: number;
}
/** Errors lose their class on the way between threads, so they travel as data. */
export type PlanAnswer =
  | { readonly ok: true; readonly plan: Plan }
  | { readonly ok: false; readonly kind: 'bad-input' | 'no-answer'; readonly code: string; readonly message: string };

/** Runs in a thread of its own, so that planning never holds up a tap at the bench. */
export default function plan(job: PlanJob): PlanAnswer {
  const began = performance.now();
  try {
    const designs = job.drawings.map((d) => readDesign(d.svg, d.name));
    return { ok: true, plan: planOrder({ order: job.order, designs, timeUsed: () => (performance.now() - began) / 1000 / job.seconds }) };
  } catch (error) {
    if (error instanceof BadInput) return { ok: false, kind: 'bad-input', code: error.code, message: error.message };
    if (error instanceof NoAnswer) return { ok: false, kind: 'no-answer', code: error.code, message: error.message };
    throw error;
  }
}
