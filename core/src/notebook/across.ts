import { Z_90 } from '../drying/normal.js';
import type { DefectId } from '../steps/defects/index.js';
import type { AccountSummary, Honesty } from './account.js';

/** So many of so many, with the ends of its 80 % interval (Wilson, JASA 22, 1927, 209–212): a few cases say little, and this shows it. */
export interface Rate {
  readonly of: number;
  readonly all: number;
  readonly share: number;
  readonly least: number;
  readonly most: number;
}
export function rateOf(of: number, all: number): Rate {
  if (all === 0) return { of, all, share: 0, least: 0, most: 1 };
  const z2 = Z_90 * Z_90;
  const p = of / all;
  const middle = (p + z2 / (2 * all)) / (1 + z2 / all);
  const half = (Z_90 / (1 + z2 / all)) * Math.sqrt((p * (1 - p)) / all + z2 / (4 * all * all));
  return { of, all, share: p, least: Math.max(0, middle - half), most: Math.min(1, middle + half) };
}

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
  readonly anHour: number | null;
  /** packed by when they were due, of runs that were due */
  readonly inTime: Rate;
  readonly windows: Rate;
  /** one row a margin that was planned with */
  readonly honesty: readonly (Rate & { readonly promised: number })[];
  /** cookies with a defect, the most frequent first */
  readonly defects: readonly (Rate & { readonly seen: DefectId })[];
  readonly designs: readonly AcrossDesign[];
}

const perHour = (cookies: number, seconds: number): number | null => (seconds > 0 ? cookies / (seconds / 3600) : null);
const sum = <T>(of: readonly T[], value: (x: T) => number): number => of.reduce((s, x) => s + value(x), 0);

/** Rates and paces over runs, each with how sure it is. */
export function across(runs: readonly AccountSummary[]): Across {
  const cookies = sum(runs, (r) => r.cookies);
  const due = runs.filter((r) => r.packByS !== null);
  const held = sum(runs, (r) => r.windows.held);
  const seen = new Map<DefectId, Set<string>>();
  for (const [i, r] of runs.entries())
    for (const d of r.defects) seen.set(d.seen, (seen.get(d.seen) ?? new Set()).add(`${i} ${d.design} ${d.trayId} ${d.cookie}`));
  const margins = new Map<number, Honesty>();
  for (const { honesty: h } of runs) {
    const known = margins.get(h.promised) ?? { promised: h.promised, held: 0, failed: 0 };
    margins.set(h.promised, { promised: h.promised, held: known.held + h.held, failed: known.failed + h.failed });
  }
  const names = [...new Set(runs.flatMap((r) => r.designs.map((d) => d.name)))];
  return {
    runs: runs.length,
    cookies,
    packed: sum(runs, (r) => r.packed),
    anHour: perHour(
      sum(runs, (r) => r.packed),
      sum(runs, (r) => r.handsOnS),
    ),
    inTime: rateOf(due.filter((r) => r.endedS <= (r.packByS as number)).length, due.length),
    windows: rateOf(held, held + sum(runs, (r) => r.windows.lost)),
    honesty: [...margins.values()].filter((h) => h.held + h.failed > 0).map((h) => ({ ...rateOf(h.held, h.held + h.failed), promised: h.promised })),
    defects: [...seen].map(([id, on]) => ({ ...rateOf(on.size, cookies), seen: id })).sort((a, b) => b.of - a.of),
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
