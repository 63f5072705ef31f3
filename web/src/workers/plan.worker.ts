import { BadInput, type Design, NoAnswer, type OrderFile, type Plan, planOrder } from '@kestfog/core';
import { expose } from 'comlink';

export type PlanAnswer = { readonly ok: true; readonly plan: Plan } | { readonly ok: false; readonly message: string };

const work = {
  /** Plans beside the page. Errors lose their class on the way between threads, so they travel as data. */
  plan(order: OrderFile, designs: readonly Design[], seconds: number, rounds: number, onProgress: (text: string) => void): PlanAnswer {
    const began = performance.now();
    try {
      return { ok: true, plan: planOrder({ order, designs, rounds, timeUsed: () => (performance.now() - began) / 1000 / seconds, onProgress }) };
    } catch (error) {
      if (error instanceof BadInput || error instanceof NoAnswer) return { ok: false, message: error.message };
      throw error;
    }
  },
};
export type PlanWork = typeof work;
expose(work);
