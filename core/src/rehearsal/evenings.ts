import type { Plan } from '../formats/plan.js';
import { seededRng } from '../time/rng.js';
import { judge } from './judge.js';
import { believedKitchen } from './kitchen.js';
import { type Player, playEvening } from './play.js';
import type { Spoilt } from './spoilt.js';
import { truthOf } from './truth.js';

/** A moment of the plan at which cookies are lost, evening after evening. */
export interface WorstMoment {
  readonly taskId: Spoilt['taskId'];
  readonly seen: Spoilt['seen'];
  readonly when: Spoilt['when'];
  /** cookies lost by it in all evenings, and the share of the evenings in which it lost any */
  readonly cookies: number;
  readonly share: number;
  /** the evening in which it lost most, to step into */
  readonly worstSeed: number;
}
/** What became of a plan that was played many times. */
export interface Evenings {
  readonly evenings: number;
  /** share of cookies that came out right, in the mean, and in the worst of ten evenings */
  readonly saved: number;
  readonly savedInTen: number;
  /** evenings in which nothing came wrong, share */
  readonly whole: number;
  /** the ten that lose most, the worst first */
  readonly worst: readonly WorstMoment[];
}

const MOST_MOMENTS = 10;
/** Progress is reported behind so many evenings. */
const REPORTED_EVERY = 50;

/** Plays a plan many times, each evening in a kitchen as likely as any by what the plan believes, by a player that does not re-plan. */
export function playMany(plan: Plan, evenings: number, player: Player, onProgress: (share: number) => void = () => undefined): Evenings {
  const moments = new Map<string, { of: Spoilt; cookies: number; evenings: number; most: number; worstSeed: number }>();
  const saved: number[] = [];
  for (let own = 1; own <= evenings; own++) {
    const truth = truthOf(believedKitchen(plan.factors, seededRng(own)), own);
    const verdict = judge(plan, playEvening(plan, truth, player), truth, 'left-out');
    saved.push(verdict.saved / Math.max(1, verdict.cookies));
    const here = new Map<string, { of: Spoilt; cookies: Set<number> }>();
    for (const s of verdict.spoilt) {
      const key = `${s.taskId} ${s.seen} ${s.when}`;
      const known = here.get(key) ?? { of: s, cookies: new Set() };
      known.cookies.add(s.cookie);
      here.set(key, known);
    }
    for (const [key, { of, cookies }] of here) {
      const known = moments.get(key) ?? { of, cookies: 0, evenings: 0, most: 0, worstSeed: own };
      const isMost = cookies.size > known.most;
      moments.set(key, {
        of,
        cookies: known.cookies + cookies.size,
        evenings: known.evenings + 1,
        most: Math.max(known.most, cookies.size),
        worstSeed: isMost ? own : known.worstSeed,
      });
    }
    if (own % REPORTED_EVERY === 0) onProgress(own / evenings);
  }
  const sorted = [...saved].sort((a, b) => a - b);
  return {
    evenings,
    saved: saved.reduce((s, x) => s + x, 0) / Math.max(1, evenings),
    savedInTen: sorted[Math.floor(evenings / 10)] ?? 1,
    whole: saved.filter((x) => x === 1).length / Math.max(1, evenings),
    worst: [...moments.values()]
      .sort((a, b) => b.cookies - a.cookies)
      .slice(0, MOST_MOMENTS)
      .map(({ of, cookies, evenings: n, worstSeed }) => ({
        taskId: of.taskId,
        seen: of.seen,
        when: of.when,
        cookies,
        share: n / evenings,
        worstSeed,
      })),
  };
}
