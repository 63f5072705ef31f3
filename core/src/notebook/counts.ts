import type { RunIndex } from '../bench/run-index.js';
import type { RunPlan } from '../bench/run-plan.js';
import { Z_90 } from '../drying/normal.js';
import { bagKey } from '../steps/step.js';
import { monthIn } from '../time/month.js';

/** A bag that was counted: what it was meant to count and what it did. */
export interface BagCount {
  /** seconds since 1970; of a bag that was counted as it was mixed, when the run began */
  readonly atS: number;
  readonly colour: string;
  readonly plannedS: number;
  readonly countedS: number;
  /** whose hands held it, or would; null where that is not known */
  readonly who: string | null;
}

/** Spread of the logarithm of one count against what was meant, *assumed*: stirred, dripped and counted by eye. */
const COUNT_SPREAD = 0.15;

/** Every count of a run: as the bags were mixed, and again at the bench. `startedMs` is when it began. */
export function bagCounts(run: RunIndex, plan: RunPlan, startedMs: number): Readonly<Record<'mixed' | 'atBench', readonly BagCount[]>> {
  const alone = plan.order.decorators.length === 1 ? (plan.order.decorators[0]?.id ?? null) : null;
  const whose = (bag: { readonly colour: string; readonly seconds: number }, atMs: number): string | null => {
    const holds = run.state.plan.tasks.filter((t) => t.bags.some((b) => bagKey(b) === bagKey(bag)));
    const inHand = holds.filter((t) => (run.begunMs(t.id) ?? Number.POSITIVE_INFINITY) <= atMs && (run.doneMs(t.id) ?? atMs) >= atMs);
    // A bag that two pairs of hands share was counted by either.
    const [who, ...others] = new Set(inHand.map((t) => t.by));
    return who !== undefined && others.length === 0 ? who : alone;
  };
  return {
    mixed: plan.order.bags.map(
      (b): BagCount => ({ atS: startedMs / 1000, colour: b.colour, plannedS: b.seconds, countedS: b.countedS, who: alone }),
    ),
    atBench: run.state.standing.flatMap((e): BagCount[] =>
      e.type === 'bagCounted'
        ? [{ atS: e.atMs / 1000, colour: e.data.colour, plannedS: e.data.seconds, countedS: e.data.countedS, who: whose(e.data, e.atMs) }]
        : [],
    ),
  };
}

/** What a month's bags counted beside what they were meant to: how many times as long, eight times in ten between `least` and `most`. */
export interface CountMonth {
  /** "2026-06" */
  readonly month: string;
  readonly bags: number;
  readonly times: number;
  readonly least: number;
  readonly most: number;
}
/** How a recipe counts in somebody's hands, month by month. */
export interface CountsOf {
  /** by its name in the kitchen; null of runs that were kept before it was */
  readonly recipe: string | null;
  readonly who: string | null;
  readonly bags: number;
  readonly months: readonly CountMonth[];
}

/**
 * Counts of several runs by recipe and person, who counted most first, by the months of a time zone; the mean of the logarithms, whose
 * spread for one is assumed.
 */
export function countsOver(
  runs: readonly { readonly recipe: string | null; readonly counts: readonly BagCount[] }[],
  zone: string,
): CountsOf[] {
  const groups = new Map<string, { readonly recipe: string | null; readonly who: string | null; readonly months: Map<string, number[]> }>();
  for (const { recipe, counts } of runs)
    for (const c of counts) {
      const key = JSON.stringify([recipe, c.who]);
      const group = groups.get(key) ?? { recipe, who: c.who, months: new Map<string, number[]>() };
      groups.set(key, group);
      const month = monthIn(c.atS * 1000, zone);
      group.months.set(month, [...(group.months.get(month) ?? []), Math.log(c.countedS / c.plannedS)]);
    }
  return [...groups.values()]
    .map(({ recipe, who, months }): CountsOf => {
      const bags = [...months.values()].reduce((n, l) => n + l.length, 0);
      return {
        recipe,
        who,
        bags,
        months: [...months].sort(([a], [b]) => (a < b ? -1 : 1)).map(([month, logs]) => countMonth(month, logs)),
      };
    })
    .sort((a, b) => b.bags - a.bags);
}

function countMonth(month: string, logs: readonly number[]): CountMonth {
  const mean = logs.reduce((s, x) => s + x, 0) / logs.length;
  const unsure = (Z_90 * COUNT_SPREAD) / Math.sqrt(logs.length);
  return { month, bags: logs.length, times: Math.exp(mean), least: Math.exp(mean - unsure), most: Math.exp(mean + unsure) };
}
