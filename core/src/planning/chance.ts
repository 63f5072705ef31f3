import type { Plan } from '../formats/plan.js';
import { type Why, whyOf } from '../steps/why.js';
import { seededRng } from '../time/rng.js';
import { cureOfWait, cureOfWindow } from './chance-cures.js';
import { type Edge, edgesOf } from './chance-edges.js';
import { live } from './chance-evening.js';

/** One way in which an evening goes wrong, with how often and what would help. */
export interface WeakPoint {
  readonly kind: 'window' | 'wait';
  /** the step to look at */
  readonly taskId: string;
  readonly trayId: string;
  /** the motion whose window is missed, or what is waited for */
  readonly what: string | Why;
  /** share of the evenings in which it happens, 0–1 */
  readonly share: number;
  readonly cure: string;
}

export interface Chance {
  readonly draws: number;
  /** share of the evenings in which everything is packed when it is due; null where nothing is */
  readonly onTime: number | null;
  /** every window with how often it is missed, 0–1, the weakest first */
  readonly windows: readonly WindowChance[];
  /** the three weakest points */
  readonly weakest: readonly WeakPoint[];
  /** lateness of the four-in-five evening, seconds; 0 where that is in time */
  readonly late80S: number;
}
export interface WindowChance {
  readonly taskId: string;
  readonly trayId: string;
  readonly label: string;
  readonly missed: number;
}

export interface ChanceOptions {
  readonly draws?: number;
  readonly seed?: number;
  readonly onProgress?: (share: number) => void;
}

export const CHANCE_DRAWS = 400;
const WEAKEST = 3;

/**
 * The evening lived many times over: paces and drying drawn from what is believed of them, the plan's order kept and shifted
 * right, as hands do that wait for a crust. No new plan is made meanwhile, so a real evening that re-plans does better.
 */
export function chanceOf(plan: Plan, { draws = CHANCE_DRAWS, seed = 1, onProgress }: ChanceOptions = {}): Chance {
  const rng = seededRng(seed);
  const tasks = [...plan.tasks].sort((a, b) => a.startS - b.startS || a.endS - b.endS);
  const edges = edgesOf(plan, tasks);
  const missed = new Map<Edge, number>();
  const blamed = new Map<Edge, number>();
  const lateness: number[] = [];
  for (let draw = 0; draw < draws; draw++) {
    const evening = live(plan, tasks, edges, rng);
    lateness.push(evening.lateS);
    for (const e of evening.missed) missed.set(e, (missed.get(e) ?? 0) + 1);
    for (const e of evening.blamed) blamed.set(e, (blamed.get(e) ?? 0) + 1);
    if (draw % 50 === 49) onProgress?.((draw + 1) / draws);
  }
  lateness.sort((a, b) => a - b);
  const isDue = plan.packBy !== null || plan.designs.some((d) => d.packBy !== null);
  const onTime = isDue ? lateness.filter((l) => l <= 0).length / draws : null;
  const windows = edges
    .filter((e) => e.closes)
    .map((e) => ({ edge: e, taskId: e.to.id, trayId: e.to.trayId, label: e.label, missed: (missed.get(e) ?? 0) / draws }))
    .sort((a, b) => b.missed - a.missed);
  // A step of many cookies has one window a mark; the worst of them speaks for it.
  const worst = windows.filter((w, i) => windows.findIndex((o) => o.taskId === w.taskId && o.label === w.label) === i);
  const weak: WeakPoint[] = [
    ...worst.map(({ edge, label, ...w }) => ({
      ...w,
      kind: 'window' as const,
      what: label,
      share: w.missed,
      cure: cureOfWindow(edge, plan),
    })),
    ...[...blamed].map(([e, n]) => ({
      kind: 'wait' as const,
      taskId: e.to.id,
      trayId: e.to.trayId,
      what: whyOf(e.gap),
      share: n / draws,
      cure: cureOfWait(e, plan, lateness, onTime),
    })),
  ];
  return {
    draws,
    onTime,
    windows: worst.map(({ edge: _, ...w }) => w),
    weakest: weak
      .filter((w) => w.share > 0)
      .sort((a, b) => b.share - a.share)
      .slice(0, WEAKEST),
    late80S: Math.max(0, Math.round(lateness[Math.floor(0.8 * draws)] as number)),
  };
}
