import '../platform/begin-words.js';
import type { Design } from '@kestfog/core/design';
import type { OrderFile, Plan } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { BadInput, NoAnswer } from '@kestfog/core/units';
import { refusalText } from '@kestfog/core/wording';

export interface PlanJob {
  readonly order: OrderFile;
  readonly designs: readonly Design[];
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
    return {
      ok: true,
      plan: planOrder({ order: job.order, designs: job.designs, timeUsed: () => (performance.now() - began) / 1000 / job.seconds }),
    };
  } catch (error) {
    if (error instanceof BadInput) return { ok: false, kind: 'bad-input', code: error.code, message: refusalText(error) };
    if (error instanceof NoAnswer) return { ok: false, kind: 'no-answer', code: error.code, message: refusalText(error) };
    throw error;
  }
}
