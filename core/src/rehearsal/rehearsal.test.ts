import { describe, expect, it } from 'vitest';
import { made } from '../../test/play.js';
import { foldRun, GrowingRun, type RunEvent, type StoredEvent } from '../bench/index.js';
import { type Plan, type PlanTask, planIndex } from '../formats/index.js';
import { seededRng } from '../time/index.js';
import { playMany } from './evenings.js';
import { judge } from './judge.js';
import { anyKitchen, BY_THE_BOOK, believedKitchen, slower } from './kitchen.js';
import { IMPATIENT, PERFECT, playEvening, TRUSTING } from './play.js';
import { truthOf } from './truth.js';

const plan = made(['lighthouse', 'mackerel', 'gull', 'sea-glass']);
const EVENINGS = 12;
const kitchenOf = (seed: number) => anyKitchen(seededRng(seed));
/** A log with one task begun at another time than planned; all others stay where they are. */
function withOne(of: Plan, taskId: string, atS: number): StoredEvent[] {
  const events: StoredEvent[] = [];
  const epochMs = Date.parse(of.epoch as string);
  const say = (s: number, body: Pick<RunEvent, 'type' | 'data'>) =>
    events.push({
      id: `e${events.length}`,
      deviceId: 'd',
      deviceSeq: events.length + 1,
      seq: events.length + 1,
      atMs: epochMs + s * 1000,
      ...body,
    } as StoredEvent);
  say(0, { type: 'runStarted', data: {} });
  const times = of.tasks.map((t) => ({ t, s: t.id === taskId ? atS : t.startS })).sort((a, b) => a.s - b.s);
  for (const { t, s } of times) {
    say(s, { type: 'taskBegun', data: { taskId: t.id } });
    say(s + t.endS - t.startS, { type: 'taskDone', data: { taskId: t.id } });
  }
  return events;
}

describe('icing that only the rehearsal knows', () => {
  it('is the same for the same seed, in whatever order it is looked at, and another for another', () => {
    const names = ['A 0 flood', 'A 1 flood', 'B 0 line'];
    const [a, b, c] = [truthOf(BY_THE_BOOK, 7), truthOf(BY_THE_BOOK, 7), truthOf(BY_THE_BOOK, 8)];
    const forward = names.map((n) => a.factor(n, 'crusted'));
    expect(
      [...names]
        .reverse()
        .map((n) => b.factor(n, 'crusted'))
        .reverse(),
    ).toEqual(forward);
    expect(names.map((n) => c.factor(n, 'crusted'))).not.toEqual(forward);
    expect(truthOf(slower(1.5), 7).factor('A 0 flood', 'crusted') / (forward[0] as number)).toBeCloseTo(1.5, 9);
  });
  it('a run that only goes on stands where its log folds to', () => {
    for (const player of [PERFECT, TRUSTING, IMPATIENT]) {
      const events = playEvening(plan, truthOf(kitchenOf(4), 4), player);
      const going = new GrowingRun(plan);
      for (const e of events) going.say(e);
      expect(going.state()).toEqual(foldRun(plan, events));
    }
  });
  it('the same taps give the same cookies', () => {
    const events = playEvening(plan, truthOf(kitchenOf(3), 3), TRUSTING);
    expect(judge(plan, events, truthOf(kitchenOf(3), 3))).toEqual(judge(plan, events, truthOf(kitchenOf(3), 3)));
  });
});

describe('an evening judged', () => {
  it('a perfect player loses nothing where icing dries as the plan believes, and in any kitchen nothing by haste', () => {
    // Cracks open and shut on every cookie for itself: one visit to all of them cannot always meet them all.
    const calm = made(['lighthouse', 'mackerel', 'sailboat', 'sea-glass']);
    for (let seed = 1; seed <= EVENINGS; seed++) {
      const truth = truthOf(BY_THE_BOOK, seed);
      const verdict = judge(calm, playEvening(calm, truth, PERFECT), truth);
      expect([seed, verdict.spoilt, verdict.saved]).toEqual([seed, [], verdict.cookies]);
      const other = truthOf(kitchenOf(seed), seed);
      expect(judge(plan, playEvening(plan, other, PERFECT), other).spoilt.filter((s) => s.when === 'too-early')).toEqual([]);
    }
  });
  it('who trusts the plan loses few, who waits half as long loses what the rules say', () => {
    const of = (player: typeof TRUSTING) =>
      [...Array(EVENINGS).keys()].map((i) => {
        const truth = truthOf(kitchenOf(i + 1), i + 1);
        return judge(plan, playEvening(plan, truth, player), truth);
      });
    const share = (verdicts: ReturnType<typeof of>) => verdicts.reduce((n, v) => n + v.saved, 0) / verdicts.reduce((n, v) => n + v.cookies, 0);
    const [trusting, impatient] = [of(TRUSTING), of(IMPATIENT)];
    expect(share(trusting)).toBeGreaterThan(0.55);
    expect(share(impatient)).toBeLessThan(share(trusting) - 0.3);
    const early = impatient.flatMap((v) => v.spoilt).filter((s) => s.when === 'too-early');
    expect(early.length / impatient.flatMap((v) => v.spoilt).length).toBeGreaterThan(0.9);
    expect(early.every((s) => s.rightS !== null && s.rightS > s.atS)).toBe(true);
    // A score orders them as their cookies do.
    expect(Math.max(...impatient.map((v) => v.score))).toBeLessThan(trusting.reduce((n, v) => n + v.score, 0) / EVENINGS);
  });
  it('a window that is missed spoils with the name of its rule, and says until when it was open', () => {
    const wet = made(['mackerel', 'sea-glass']);
    const task = wet.tasks.find((t) => t.motions.some((m) => m.windowS !== null));
    expect(task).toBeDefined();
    const truth = truthOf(slower(0.2), 1);
    // In a kitchen that skins five times as fast as the book the marks come too late.
    const { spoilt, windows } = judge(wet, withOne(wet, '', 0), truth);
    const late = spoilt.filter((s) => s.when === 'too-late');
    expect(late.length).toBeGreaterThan(0);
    expect(windows.lost).toBeGreaterThan(0);
    for (const s of late) {
      expect(['stood-up', 'dragged-lumps', 'missed-patch']).toContain(s.seen);
      expect(s.rightS).not.toBeNull();
      expect(s.rightS as number).toBeLessThan(s.atS);
    }
    expect(new Set(late.map((s) => s.why.rule))).toContain('wet-window');
  });
  it.each([
    ['pen', 'pen-slipped'],
    ['flood', 'ran-together'],
    ['piped-line', 'sank'],
    ['crackle', 'dent'],
    ['dust', 'rough'],
    ['pack', 'bumped'],
  ] as const)('%s too early is %s, with its rule and the moment that would have saved it', (technique, seen) => {
    const cookies = made(['gull', 'lighthouse']);
    const into = cookies.tasks.filter((t) => t.motions.some((m) => m.technique === technique) || (technique === 'pack' && t.kind === 'pack'));
    // The last of them, put right behind the flood it lies on.
    const task = into.at(-1);
    expect(task).toBeDefined();
    const own0 = new Set(task?.motions.map((m) => m.stepId));
    const onto = new Set(
      planIndex(cookies)
        .graphOf(task as PlanTask)
        ?.gaps.flatMap((g) => (own0.has(g.to) && g.minState ? [g.from] : [])),
    );
    const laidS = Math.max(...cookies.tasks.flatMap((t) => (t.lotId === task?.lotId && t.motions.some((m) => onto.has(m.stepId)) ? [t.endS] : [])));
    const { spoilt } = judge(cookies, withOne(cookies, task?.id ?? '', laidS + 5), truthOf(BY_THE_BOOK, 5));
    const own = spoilt.filter((s) => s.taskId === task?.id);
    expect(own.map((s) => s.seen)).toContain(seen);
    for (const s of own) expect([s.why.rule.length > 0, s.rightS !== null && s.rightS > s.atS]).toEqual([true, true]);
  });
  it('who answers the telephone between a flood and its marks loses those that come behind it', () => {
    const wet = made(['mackerel']);
    const task = wet.tasks.find((t) => t.motions.some((m) => m.windowS !== null)) as PlanTask;
    const truth = truthOf(BY_THE_BOOK, 1);
    const calm = withOne(wet, '', 0);
    expect(judge(wet, calm, truth).spoilt.filter((s) => s.when === 'too-late')).toEqual([]);
    // In the middle of the visit, for a quarter of an hour.
    const epochMs = Date.parse(wet.epoch as string);
    const ringsS = task.startS + (task.endS - task.startS) / 2;
    const later = calm.map((e) => (e.atMs > epochMs + ringsS * 1000 ? { ...e, atMs: e.atMs + 900_000 } : e));
    const where = later.findIndex((e) => e.atMs > epochMs + ringsS * 1000);
    const at = (type: 'paused' | 'resumed', s: number) =>
      ({ id: type, deviceId: 'p', deviceSeq: 1, seq: 0, atMs: epochMs + s * 1000, type, data: {} }) as StoredEvent;
    const rung = [...later.slice(0, where), at('paused', ringsS), at('resumed', ringsS + 900), ...later.slice(where)].map((e, i) => ({ ...e, seq: i + 1 }));
    const late = judge(wet, rung, truth).spoilt.filter((s) => s.when === 'too-late');
    expect(late.length).toBeGreaterThan(0);
    expect(late.every((s) => s.taskId === task.id && s.atS > ringsS)).toBe(true);
  });
  it('what waits although it is ready is counted, and no more than that', () => {
    const truth = truthOf(slower(0.5), 2);
    const calm = judge(plan, playEvening(plan, truth, TRUSTING), truth);
    expect(calm.needlessS).toBeGreaterThan(600);
    expect(judge(plan, playEvening(plan, truth, PERFECT), truth).needlessS).toBeLessThan(calm.needlessS / 5);
  });
});

describe('a plan played many times', () => {
  it('tells how much comes out right, and its worst moments with an evening to step into', () => {
    const trusting = playMany(plan, 60, TRUSTING);
    const finger = playMany(plan, 60, PERFECT, { kitchen: BY_THE_BOOK });
    expect([trusting.evenings, trusting.saved < finger.saved, trusting.savedInTen <= trusting.saved, trusting.whole <= finger.whole]).toEqual([
      60,
      true,
      true,
      true,
    ]);
    expect(trusting.worst.length).toBeGreaterThan(2);
    expect(trusting.worst.length).toBeLessThanOrEqual(10);
    const [worst] = trusting.worst;
    // Stepped into, the evening that is named loses cookies at that very moment.
    const seed = worst?.worstSeed as number;
    const truth = truthOf(believedKitchen(plan.factors, seededRng(seed)), seed);
    const again = judge(plan, playEvening(plan, truth, TRUSTING), truth);
    expect(again.spoilt.some((s) => s.taskId === worst?.taskId && s.seen === worst.seen)).toBe(true);
    expect(playMany(plan, 60, TRUSTING)).toEqual(trusting);
  });
});
