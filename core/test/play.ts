import { readFileSync } from 'node:fs';
import { foldRun, type RoomAir, type RunEvent, type RunState, retimed, type StoredEvent } from '../src/bench/index.js';
import { brokenRules } from '../src/cli/check-plan.js';
import { readDesign } from '../src/design/index.js';
import type { Finding } from '../src/drying/index.js';
import { type Plan, type PlanTask, parseOrder } from '../src/formats/index.js';
import { bagChanges, bagUsesOf, planOrder } from '../src/planning/index.js';
import { seededRng } from '../src/time/index.js';

/** Runs played for tests: plans of the demo's drawings, worked with slips, and judged by the trade's own rules. */

export const drawing = (file: string) => readDesign(readFileSync(new URL(`../../server/demo/${file}.svg`, import.meta.url), 'utf8'), file);
export const made = (files: readonly string[], more: object = {}): Plan =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: files.map((file) => ({ file, count: 6 })),
      trays: files.map((_, i) => ({ id: 'ABCD'[i], places: 6 })),
      openingHours: [
        ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
        ['2026-06-06T07:00:00Z', '2026-06-06T19:00:00Z'],
      ],
      packBy: '2026-06-06T12:00:00Z',
      margin: 'normal',
      ...more,
    }),
    designs: files.map(drawing),
    passes: 60,
  });
/** Two pairs of hands that share their bags, and a tray that may not be begun early. */
export const twoHands = made(['lighthouse', 'mackerel', 'gull'], {
  decorators: [{ id: 'Ada' }, { id: 'Bo', pace: 0.8 }],
  openBags: 6,
  pins: [{ kind: 'not-before', tray: 'C', at: '2026-06-05T16:00:00Z' }],
});
export const epochOf = (p: Plan) => Date.parse(p.epoch as string);

/** Something said at a moment of a plan, seconds. */
export interface Said {
  readonly atS: number;
  readonly body: Pick<RunEvent, 'type' | 'data'>;
}
const logged = (p: Plan, said: readonly Said[]): StoredEvent[] =>
  said.map(
    ({ atS, body }, i) =>
      ({ id: `e${i}`, deviceId: 'd', deviceSeq: i + 1, seq: i + 1, atMs: epochOf(p) + atS * 1000, ...body }) as StoredEvent,
  );
/** The log of a plan worked as planned, each task begun when `beginsS` says; with whatever else was said meanwhile. */
export function logOf(p: Plan, beginsS: (t: PlanTask, i: number) => number = (t) => t.startS, more: readonly Said[] = []): StoredEvent[] {
  const tasks = p.tasks
    .map((t, i) => ({ t, s: beginsS(t, i) }))
    .sort((a, b) => a.s - b.s)
    .flatMap(({ t, s }): Said[] => [
      { atS: s, body: { type: 'taskBegun', data: { taskId: t.id } } },
      { atS: s + t.endS - t.startS, body: { type: 'taskDone', data: { taskId: t.id } } },
    ]);
  return logged(
    p,
    [{ atS: 0, body: { type: 'runStarted', data: {} } } as Said, ...tasks, ...more].sort((a, b) => a.atS - b.atS),
  );
}

/** What a finger found on what a task waits for, with nobody saying on which body. */
export const touched = (taskId: string, found: Finding): Pick<Extract<RunEvent, { type: 'touched' }>, 'type' | 'data'> => ({
  type: 'touched',
  data: { taskId, cookie: null, part: null, state: null, found },
});

/** A run worked in the plan's order up to a task, each step as late and as slow as chance has it; what has to dry is waited for. */
export function played(plan: Plan, steps: number, seed: number, slip: number, inHand: boolean): { state: RunState; nowS: number } {
  const rng = seededRng(seed);
  const epoch = epochOf(plan);
  const events: RunEvent[] = [];
  const add = (atS: number, body: Pick<RunEvent, 'type' | 'data'>) =>
    events.push({
      id: `e${events.length}`,
      deviceId: 'd',
      deviceSeq: events.length + 1,
      atMs: Math.round(epoch + atS * 1000),
      ...body,
    } as RunEvent);
  const begun = new Map<string, { startS: number; endS: number }>();
  let handsS = 0;
  add(0, { type: 'runStarted', data: {} });
  const all = plan.tasks.slice(0, steps + 1);
  let nowS = 0;
  for (const [i, t] of all.entries()) {
    let startS = Math.max(handsS, t.startS);
    for (const w of plan.waits) {
      const from = begun.get(w.from);
      if (w.to === t.id && from) startS = Math.max(startS, from.endS - durationOf(plan, w.from) + w.minS);
    }
    startS = Math.ceil(startS + (rng() < 0.2 ? rng() * slip * 600 : 0));
    const endS = Math.ceil(startS + (t.endS - t.startS) * (1 + rng() * slip));
    add(startS, { type: 'taskBegun', data: { taskId: t.id } });
    nowS = startS + (endS - startS) / 2;
    if (i === all.length - 1 && inHand) break;
    add(endS, { type: 'taskDone', data: { taskId: t.id } });
    begun.set(t.id, { startS, endS });
    handsS = endS;
    nowS = endS;
  }
  return { state: foldRun(plan, events), nowS };
}
export const durationOf = (plan: Plan, id: string) => {
  const t = plan.tasks.find((x) => x.id === id) as PlanTask;
  return t.endS - t.startS;
};
export const doneS = (plan: Plan, state: RunState, id: string): number | null => {
  const ms = state.tasks.get(id)?.doneAtMs ?? null;
  return ms === null ? null : (ms - epochOf(plan)) / 1000;
};

/**
 * The whole evening as it was and as it is now meant to be: what is done stands so that it ended when it did, and bags are put away and
 * opened as the bench tells.
 */
export function asItWillBe(plan: Plan, state: RunState, starts: Readonly<Record<string, number>>): Plan {
  const was = Object.fromEntries(
    plan.tasks.flatMap((t) => {
      const end = doneS(plan, state, t.id);
      return end === null ? [] : [[t.id, end - (t.endS - t.startS)]];
    }),
  );
  const again = retimed(plan, { ...was, ...starts });
  if (plan.order.openBags === null) return again;
  const changes = bagChanges(bagUsesOf(again), plan.order.openBags);
  const opening = (t: PlanTask) => ({ bags: changes.get(t.id)?.opens ?? [], seconds: t.opening?.seconds ?? 0 });
  return { ...again, tasks: again.tasks.map((t) => ({ ...t, opening: opening(t) })) };
}

/**
 * Whether a rule was broken between steps that are done or in hand: with all that is still to begin ten days later, what is left is
 * theirs.
 */
export function alreadyBroken(plan: Plan, state: RunState, rule: string, room: readonly RoomAir[] = []): boolean {
  const open = plan.tasks.filter((t) => doneS(plan, state, t.id) === null);
  const at = (t: PlanTask) => {
    const begunAtMs = state.tasks.get(t.id)?.begunAtMs ?? null;
    return begunAtMs === null ? t.startS + 864_000 : (begunAtMs - epochOf(plan)) / 1000;
  };
  return brokenRules(asItWillBe(plan, state, Object.fromEntries(open.map((t) => [t.id, at(t)]))), room).includes(rule);
}
