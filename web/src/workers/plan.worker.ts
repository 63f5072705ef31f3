import { type Replanned, type RunState, replan, runIndex } from '@kestfog/core/bench';
import { type Design, type DesignDocument, foldDesign } from '@kestfog/core/design';
import type { Air, Factors } from '@kestfog/core/drying';
import type { OrderFile, Plan } from '@kestfog/core/formats';
import {
  type Chance,
  chanceOf,
  checkDesign,
  type DesignSuggestion,
  type DesignTotals,
  designTotals,
  type FitSuggestion,
  latestSafeStart,
  type PlannedCheck,
  plannedChecks,
  planOrder,
  preparePlanning,
  suggestFewerRounds,
  suggestFit,
  triedArrangements,
} from '@kestfog/core/planning';
import { believedKitchen, type Evenings, type Proof, playMany, proofOf, TRUSTING } from '@kestfog/core/rehearsal';
import { deriveSteps, type School, type Tip } from '@kestfog/core/steps';
import type { Rng } from '@kestfog/core/time';
import { BadInput, NoAnswer } from '@kestfog/core/units';
import { refusalText } from '@kestfog/core/wording';
import { expose } from 'comlink';

export type Answered<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly code: string; readonly message: string };

/** Errors lose their class on the way between threads, so they travel as data. */
function answered<T>(work: () => T): Answered<T> {
  try {
    return { ok: true, value: work() };
  } catch (error) {
    if (error instanceof BadInput || error instanceof NoAnswer) return { ok: false, code: error.code, message: refusalText(error) };
    throw error;
  }
}

/** A suggestion as the page shows it: with the edits to the design, where those are the change. */
export interface Fit extends FitSuggestion {
  readonly edits?: DesignDocument['edits'];
}

export interface InSchool {
  readonly totals: DesignTotals;
  readonly likely: number;
  readonly watch: number;
}
/** The kitchen a design is looked at in. */
export interface DesignNow {
  readonly air: Air;
  readonly airAt: { readonly fan: Air; readonly dehydrator: Air };
  readonly factors: Factors;
  readonly tips: readonly Tip[];
}

const work = {
  /** Plans beside the page; each plan that holds is reported as it comes. */
  plan: (
    order: OrderFile,
    designs: readonly Design[],
    seconds: number,
    passes: number,
    onProgress: (text: string) => void,
    onPlan: (plan: Plan) => void,
  ): Answered<Plan> => {
    const began = performance.now();
    return answered(() =>
      planOrder({ order, designs, passes, timeUsed: () => (performance.now() - began) / 1000 / seconds, onProgress, onPlan }),
    );
  },
  /** Goes the way of a first plan once, unasked: the engine is warm when it counts. */
  warm: (order: OrderFile, designs: readonly Design[]): boolean =>
    answered(() => triedArrangements(preparePlanning({ order, designs })).ways[0].solution.makespan).ok,
  replan: (state: RunState, nowS: number): Answered<Replanned> => answered(() => replan(runIndex(state), nowS)),
  /** What would save a round of drying in a design: dozens of changes are tried, each a fold and a colouring. */
  fewerRounds: (document: DesignDocument, school: School, air: Air): Answered<readonly DesignSuggestion[]> =>
    answered(() => suggestFewerRounds(document, school, air, school.margin)),
  /** What a design takes in a school, and what may go wrong in it. */
  inSchool: (design: Design, school: School, now: DesignNow): Answered<InSchool> =>
    answered(() => {
      const graph = deriveSteps(design, school, { tips: now.tips });
      const checks = checkDesign(design, graph, { ...now, school, margin: school.margin });
      return {
        totals: designTotals(graph, now.air, school.margin, now.factors),
        likely: checks.filter((c) => c.word === 'likely').length,
        watch: checks.filter((c) => c.word === 'watch').length,
      };
    }),
  /** What a design would take with something more done to it; only its totals travel back. */
  trial: (document: DesignDocument, school: School, now: DesignNow): Answered<DesignTotals> =>
    answered(() => designTotals(deriveSteps(foldDesign(document), school, { tips: now.tips }), now.air, school.margin, now.factors)),
  checks: (plan: Plan): Answered<readonly PlannedCheck[]> => answered(() => plannedChecks(plan)),
  chance: (plan: Plan): Answered<Chance> => answered(() => chanceOf(plan)),
  evenings: (plan: Plan, evenings: number, onProgress: (share: number) => void): Answered<Evenings> =>
    answered(() => playMany(plan, evenings, TRUSTING, onProgress)),
  proof: (plan: Plan, evenings: number, onProgress: (share: number) => void): Answered<readonly [Proof, Proof]> =>
    answered(() => {
      const ask = { evenings, seed: 1, kitchen: (rng: Rng) => believedKitchen(plan.factors, rng) };
      // The same evenings, once in the planned order and once planned again; nearly all of the time goes into the latter.
      return [proofOf(plan, { ...ask, works: 'looks' }), proofOf(plan, { ...ask, works: 'replans', onProgress })] as const;
    }),
  latestStart: (plan: Plan): Answered<number | null> =>
    answered(() => latestSafeStart({ order: plan.order, designs: plan.designs.map((d) => d.drawing) }, plan)),
  /** What would make it fit; `documents` are those of the designs, where joins may be suggested. */
  fit: (
    order: OrderFile,
    designs: readonly Design[],
    documents: readonly (DesignDocument | null)[],
    onProgress: (text: string) => void,
  ): Answered<readonly Fit[]> =>
    answered(() => {
      const air = { tempC: order.air.tempC, humidityFrac: order.air.humidityPct / 100, airMPerS: order.air.airMPerS };
      const joins = documents.map((doc) =>
        doc ? (suggestFewerRounds(doc, order.school, air, order.margin).find((s) => s.kind === 'flush-join') ?? null) : null,
      );
      const flush = joins.map((join, i) => {
        const doc = documents[i];
        return join && doc
          ? { design: foldDesign({ ...doc, edits: [...doc.edits, ...join.edits] }), text: `${designs[i]?.name}: ${join.text}` }
          : null;
      });
      return suggestFit({ order, designs, flush, onProgress }).map((s): Fit => {
        const edits = s.changedDesign === undefined ? undefined : joins[s.changedDesign]?.edits;
        return edits ? { ...s, edits } : s;
      });
    }),
};
export type PlanWork = typeof work;
expose(work);
