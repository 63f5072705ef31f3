import { gramsOf, withWasteG } from '../icing/amounts.js';
import { type Grade, gradeOfSeconds } from '../icing/grade.js';
import type { StepGraph } from './derive.js';
import { type Bag, bagKey } from './step.js';
import type { TechniqueId } from './techniques/index.js';
import type { Opening } from './tips.js';

/** What one bag must hold for so many cookies. */
export interface BagAmount {
  readonly colour: string;
  readonly grade: Grade['id'];
  readonly seconds: number;
  /** what lands on the cookies */
  readonly g: number;
  readonly ml: number;
  /** to mix: with what stays in the bag, is wiped off and tried out */
  readonly mixG: number;
  /** what its jobs are piped through, the narrowest first */
  readonly openings: readonly Opening[];
  /** where it goes: one entry a step, volumes for all cookies */
  readonly uses: readonly BagUse[];
}

export interface BagUse {
  readonly technique: TechniqueId;
  readonly label: string;
  readonly ml: number;
}

/** Amounts for `count` cookies, a bag for each colour and consistency, largest first. */
export function bagAmounts(graph: Pick<StepGraph, 'steps'>, count: number): BagAmount[] {
  const bags = new Map<string, { bag: Bag; openings: Opening[]; uses: BagUse[] }>();
  for (const step of graph.steps) {
    if (!step.bag) continue;
    const known = bags.get(bagKey(step.bag)) ?? { bag: step.bag, openings: [], uses: [] };
    if (step.tip !== undefined && step.openingMm !== undefined) known.openings.push({ name: step.tip, openingMm: step.openingMm });
    known.uses.push({ technique: step.technique, label: step.label, ml: (step.ml ?? 0) * count });
    bags.set(bagKey(step.bag), known);
  }
  return [...bags.values()]
    .map(({ bag, openings, uses }): BagAmount => {
      const ml = uses.reduce((sum, u) => sum + u.ml, 0);
      const g = gramsOf(ml);
      return {
        colour: bag.colour,
        grade: gradeOfSeconds(bag.seconds).id,
        seconds: bag.seconds,
        g,
        ml,
        mixG: withWasteG(g),
        openings: distinctOpenings(openings),
        uses,
      };
    })
    .sort((a, b) => b.g - a.g);
}

/** Each opening once, the narrowest first: a bag is snipped small and widened, never the other way. */
export const distinctOpenings = (openings: readonly Opening[]): Opening[] =>
  openings
    .filter((o, i) => openings.findIndex((x) => x.name === o.name && x.openingMm === o.openingMm) === i)
    .sort((a, b) => a.openingMm - b.openingMm);
