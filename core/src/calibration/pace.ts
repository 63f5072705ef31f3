import { PACE_SPREAD, within } from '../drying/uncertainty.js';
import { dot, inverse } from './linear.js';

/** What hands do, as far as they may be quick at one and slow at another; handling is picking cookies up and changing bags. */
export const paceKinds = ['prepare', 'dam', 'flood', 'mark', 'detail', 'pack', 'handling'] as const;
export type PaceKind = (typeof paceKinds)[number];

/** One visit that somebody worked: how long it took, interruptions cut off, beside what each kind of motion was assumed to take. */
export interface VisitPace {
  readonly who: string;
  /** what it shares an evening with */
  readonly day: string;
  readonly tookS: number;
  /** at the pace that was said of these hands, without what was learned of them */
  readonly assumedS: Readonly<Partial<Record<PaceKind, number>>>;
}

/**
 * A plan takes hands to be no quicker and no slower than this, times the assumed seconds: whatever was learned from strange evenings must
 * not keep the next one from being planned.
 */
export const TAKES = [0.2, 5] as const;

/**
 * How many times the assumed seconds somebody takes for a kind of motion, within {@link TAKES}, and how sure that is (spread of its
 * logarithm).
 */
export interface LearnedPace {
  readonly takes: number;
  readonly sigma: number;
  /** visits in which that motion came */
  readonly visits: number;
}
export type PaceOf = Readonly<Record<PaceKind, LearnedPace>>;

/**
 * Each person's own pace by kind of motion. The logarithm of a visit's time over what was assumed is the mean of its kinds' factors,
 * weighted by their share of it, with a term for the evening and one for the visit:
 *   ln(took / assumed) = θ_person + Σ share_kind · δ_kind + evening + visit
 * all normal, with the spreads of `drying/uncertainty.ts`, so that the belief follows in closed form (Bayesian linear regression; Bishop
 * 2006, §3.3). Evenings are eliminated one by one.
 */
export function learnPace(visits: readonly VisitPace[]): ReadonlyMap<string, PaceOf> {
  const out = new Map<string, PaceOf>();
  for (const who of new Set(visits.map((v) => v.who))) out.set(who, paceOf(visits.filter((v) => v.who === who)));
  return out;
}

const SIZE = 1 + paceKinds.length;

function paceOf(visits: readonly VisitPace[]): PaceOf {
  const precision = Array.from({ length: SIZE }, (_, i) =>
    Array.from({ length: SIZE }, (__, j) => (i !== j ? 0 : 1 / (i === 0 ? PACE_SPREAD.person : PACE_SPREAD.kind) ** 2)),
  );
  const shift = Array<number>(SIZE).fill(0);
  const noise = 1 / PACE_SPREAD.visit ** 2;
  for (const day of new Set(visits.map((v) => v.day))) {
    const own = visits.filter((v) => v.day === day).map((v) => ({ row: rowOf(v), y: Math.log(v.tookS / assumedOf(v)) }));
    const weight = 1 / PACE_SPREAD.evening ** 2 + own.length * noise;
    const shared = Array.from({ length: SIZE }, (_, i) => own.reduce((s, o) => s + noise * (o.row[i] as number), 0));
    const sum = own.reduce((s, o) => s + noise * o.y, 0);
    for (let i = 0; i < SIZE; i++) {
      shift[i] =
        (shift[i] as number) + own.reduce((s, o) => s + noise * (o.row[i] as number) * o.y, 0) - ((shared[i] as number) * sum) / weight;
      for (let j = 0; j < SIZE; j++) {
        const line = precision[i] as number[];
        line[j] =
          (line[j] as number) +
          own.reduce((s, o) => s + noise * (o.row[i] as number) * (o.row[j] as number), 0) -
          ((shared[i] as number) * (shared[j] as number)) / weight;
      }
    }
  }
  const covariance = inverse(precision);
  const mean = covariance.map((row) => dot(row, shift));
  const at = (i: number, j: number) => (covariance[i] as number[])[j] as number;
  return Object.fromEntries(
    paceKinds.map((kind, k) => {
      const i = k + 1;
      const learned: LearnedPace = {
        takes: within(Math.exp((mean[0] as number) + (mean[i] as number)), TAKES),
        sigma: Math.sqrt(at(0, 0) + 2 * at(0, i) + at(i, i)),
        visits: visits.filter((v) => (v.assumedS[kind] ?? 0) > 0).length,
      };
      return [kind, learned];
    }),
  ) as Record<PaceKind, LearnedPace>;
}

const assumedOf = (v: VisitPace): number => Object.values(v.assumedS).reduce((s, x) => s + x, 0);
const rowOf = (v: VisitPace): number[] => [1, ...paceKinds.map((k) => (v.assumedS[k] ?? 0) / assumedOf(v))];
