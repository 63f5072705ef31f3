import type { DefectId } from '../steps/defects/index.js';
import type { AccountSummary } from './account.js';
import { type CountsOf, countsOver } from './counts.js';
import { longEnough, type WaitKnown } from './honesty.js';
import { type Rate, rateOf } from './rate.js';

export interface AcrossDesign {
  readonly name: string;
  readonly runs: number;
  readonly packed: number;
  /** cookies an hour of hands; null where no work on it was seen */
  readonly anHour: number | null;
  /** time of hands as it was, over what was planned; null likewise */
  readonly takes: number | null;
  readonly lost: Rate;
  readonly defects: Rate;
  /** what went wrong in an hour of hands on it: cookies with a defect, and windows lost; null where no work on it was seen */
  readonly nervesAnHour: number | null;
}
/** What runs tell together. */
export interface Across {
  readonly runs: number;
  readonly cookies: number;
  readonly packed: number;
  /** packed by when they were due, of runs that were due */
  readonly inTime: Rate;
  readonly windows: Rate;
  /** waits that were long enough, one row a margin that was planned with */
  readonly honesty: readonly (Rate & { readonly promised: number })[];
  /** cookies with a defect, the most frequent first */
  readonly defects: readonly (Rate & { readonly seen: DefectId })[];
  readonly designs: readonly AcrossDesign[];
  readonly counts: readonly CountsOf[];
  /** icing that was to be mixed, and what of it came onto cookies, g, of the runs that know it */
  readonly icing: { readonly toMixG: number; readonly onCookiesG: number };
}

const perHour = (cookies: number, seconds: number): number | null => (seconds > 0 ? cookies / (seconds / 3600) : null);
const sum = <T>(of: readonly T[], value: (x: T) => number): number => of.reduce((s, x) => s + value(x), 0);

/** Rates and paces over runs, each with how sure it is; months are those of a time zone. */
export function across(runs: readonly AccountSummary[], zone = 'UTC'): Across {
  const cookies = sum(runs, (r) => r.cookies);
  const due = runs.filter((r) => r.packByS !== null);
  const held = sum(runs, (r) => r.windows.held);
  const seen = new Map<DefectId, Set<string>>();
  for (const [i, r] of runs.entries())
    for (const d of r.defects) seen.set(d.seen, (seen.get(d.seen) ?? new Set()).add(`${i} ${d.design} ${d.trayId} ${d.cookie}`));
  const margins = new Map<number, WaitKnown[]>();
  for (const { honesty: h } of runs) margins.set(h.promised, [...(margins.get(h.promised) ?? []), ...h.waits]);
  const names = [...new Set(runs.flatMap((r) => r.designs.map((d) => d.name)))];
  return {
    runs: runs.length,
    cookies,
    packed: sum(runs, (r) => r.packed),
    inTime: rateOf(due.filter((r) => r.endedS <= (r.packByS as number)).length, due.length),
    windows: rateOf(held, held + sum(runs, (r) => r.windows.lost)),
    honesty: [...margins].map(([promised, waits]) => ({ ...longEnough(waits), promised })).filter((h) => h.all > 0),
    defects: [...seen].map(([id, on]) => ({ ...rateOf(on.size, cookies), seen: id })).sort((a, b) => b.of - a.of),
    counts: countsOver(
      runs.flatMap((r) => r.counts ?? []),
      zone,
    ),
    icing: { toMixG: sum(runs, (r) => r.icing?.toMixG ?? 0), onCookiesG: sum(runs, (r) => r.icing?.onCookiesG ?? 0) },
    designs: names
      .map((name): AcrossDesign => {
        const own = runs.flatMap((r) => r.designs.filter((d) => d.name === name));
        const made = sum(own, (d) => d.planned);
        const packed = sum(own, (d) => d.packed);
        const spoilt = runs.flatMap((r, i) => r.defects.filter((d) => d.design === name).map((d) => `${i} ${d.trayId} ${d.cookie}`));
        const [was, planned] = [sum(own, (d) => d.handsOnS), sum(own, (d) => d.plannedHandsOnS)];
        return {
          name,
          runs: own.length,
          packed,
          anHour: perHour(packed, was),
          takes: planned > 0 ? was / planned : null,
          lost: rateOf(Math.max(0, made - packed), made),
          defects: rateOf(new Set(spoilt).size, made),
          nervesAnHour: perHour(new Set(spoilt).size + sum(own, (d) => d.windowsLost), was),
        };
      })
      .sort((a, b) => b.packed - a.packed),
  };
}
