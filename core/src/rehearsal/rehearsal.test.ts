import { describe, expect, it } from 'vitest';
import { anyKitchen } from '../../test/kitchen.js';
import { epochOf, logOf, made, type Said } from '../../test/play.js';
import { foldRun, GrowingRun, type RunEvent, type StoredEvent } from '../bench/index.js';
import { type Design, readDesign } from '../design/index.js';
import { type Plan, type PlanTask, parseOrder } from '../formats/index.js';
import { planOrder } from '../planning/index.js';
import type { Bag, Gap } from '../steps/index.js';
import { seededRng } from '../time/index.js';
import type { TaskId } from '../units/index.js';
import { playMany } from './evenings.js';
import { judge } from './judge.js';
import { BY_THE_BOOK, believedKitchen, slower } from './kitchen.js';
import { IMPATIENT, PERFECT, playEvening, TRUSTING } from './play.js';
import { isMistimed } from './spoilt.js';
import { truthOf } from './truth.js';

const plan = made(['lighthouse', 'mackerel', 'gull', 'sea-glass']);
const EVENINGS = 12;
const kitchenOf = (seed: number) => anyKitchen(seededRng(seed));
/** A log with one task begun at another time than planned; all others stay where they are. */
const withOne = (of: Plan, taskId: string, atS: number) => logOf(of, (t) => (t.id === taskId ? atS : t.startS));

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

describe('risks that were let grow', () => {
  const svg = (inner: string) =>
    readDesign(
      `<svg xmlns="http://www.w3.org/2000/svg" width="70mm" height="50mm" viewBox="0 0 70 50"><path id="cookie" data-part="cookie" fill="#d9a566" d="M0 0H70V50H0Z"/>${inner}</svg>`,
      'portholes',
    );
  const portholes = svg(
    [15, 35, 55].map((x, i) => `<circle id="hole${i}" data-part="section" fill="#1f4e79" cx="${x}" cy="25" r="4"/>`).join(''),
  );
  const halves = svg(
    '<path id="left" data-part="section" fill="#1f4e79" d="M4 4H35V46H4Z"/><path id="right" data-part="section" fill="#f5ead7" d="M35 4H66V46H35Z"/>',
  );
  const planFor = (design: Design, school: string, more: object = {}) =>
    planOrder({
      order: parseOrder({
        format: 'kestfog-order/3',
        designs: [{ file: 'd', count: 6 }],
        trays: [{ id: 'A', places: 6 }],
        openingHours: [['2026-06-05T08:00:00Z', '2026-06-06T22:00:00Z']],
        margin: 'normal',
        school,
        ...more,
      }),
      designs: [design],
      passes: 5,
    });
  const seenOf = (of: Plan, log: StoredEvent[]) => judge(of, log, truthOf(BY_THE_BOOK, 1)).spoilt.filter((s) => s.when === 'risk');

  it('small pools that are not quick-set crater, and the change that would have saved them is named', () => {
    const quick = planFor(portholes, 'warm-box', { dehydrator: { places: 1, tempC: 35, airMPerS: 1 } });
    const away = quick.tasks.filter((t) => t.kind === 'carry' || t.kind === 'take-out').map((t) => t.id);
    expect(away.length).toBeGreaterThan(0);
    expect(seenOf(quick, logOf(quick))).toEqual([]);
    const forgotten = seenOf(
      quick,
      logOf(quick).filter((e) => !('taskId' in e.data && away.includes(e.data.taskId as TaskId))),
    );
    expect(forgotten.length).toBeGreaterThan(3);
    for (const s of forgotten)
      expect(s).toMatchObject({
        seen: 'crater',
        when: 'risk',
        change: expect.stringMatching(/warm air|thicker/),
        reasons: expect.stringMatching(/hole/),
      });
    for (const s of forgotten) expect(s.risk).toBeGreaterThan(s.plannedRisk + 0.15);
  });
  it('a bag that turned out much too loose craters small pools, and one much too stiff is dragged along in lumps', () => {
    const counted = (of: Plan, countedS: number, isOf: (b: Bag) => boolean) => {
      const bag = of.tasks.flatMap((t) => t.bags).find(isOf) as Bag;
      const said: Said = { atS: 1, body: { type: 'bagCounted', data: { colour: bag.colour, seconds: bag.seconds, countedS } } };
      return seenOf(of, logOf(of, undefined, [said]));
    };
    const pools = planFor(portholes, 'two-bags');
    expect(seenOf(pools, logOf(pools))).toEqual([]);
    expect(counted(pools, 5, (b) => b.colour === '#1f4e79' && b.seconds < 20).map((s) => s.seen)).toContain('crater');
    const feather = planFor(
      svg(
        '<path id="sea" data-part="section" fill="#1f4e79" d="M4 4H66V46H4Z"/><path id="foam" data-part="mark" data-technique="wet-line" fill="none" stroke="#ffffff" stroke-width="2" d="M10 25H60"/><path id="pull" data-part="mark" data-technique="drag" fill="none" stroke="#000000" d="M35 10V40"/>',
      ),
      'two-bags',
    );
    expect(seenOf(feather, logOf(feather))).toEqual([]);
    const lumps = counted(feather, 40, (b) => b.colour === '#ffffff');
    expect(lumps.map((s) => s.seen)).toContain('dragged-lumps');
    for (const s of lumps) expect([s.risk > s.plannedRisk, s.change]).toEqual([true, expect.any(String)]);
  });
  it('fine marks of icing that turned out too loose spread', () => {
    const fine = planFor(
      svg(
        '<path id="sea" data-part="section" fill="#1f4e79" d="M4 4H66V46H4Z"/><path id="thread" data-part="mark" data-technique="wet-line" data-seconds="30" fill="none" stroke="#ffffff" stroke-width="0.8" d="M10 25H60"/>',
      ),
      'two-bags',
    );
    const bag = fine.tasks.flatMap((t) => t.bags).find((b) => b.colour === '#ffffff') as Bag;
    const loose: Said = { atS: 1, body: { type: 'bagCounted', data: { colour: bag.colour, seconds: bag.seconds, countedS: 8 } } };
    expect(seenOf(fine, logOf(fine))).toEqual([]);
    expect(seenOf(fine, logOf(fine, undefined, [loose])).map((s) => s.seen)).toContain('spread');
  });
  it('a strong colour beside a pale one that has not set bleeds; a piece lifted before it is dry breaks', () => {
    const soon = (of: Plan, is: (t: PlanTask) => boolean) => {
      const task = of.tasks.filter(is).at(-1) as PlanTask;
      const before = of.tasks.filter((t) => t.endS <= task.startS).at(-1) as PlanTask;
      return judge(of, withOne(of, task.id, before.endS + 5), truthOf(BY_THE_BOOK, 1)).spoilt.filter(isMistimed);
    };
    const pair = planFor(halves, 'two-bags');
    expect(soon(pair, (t) => t.motions.some((m) => m.technique === 'flood')).map((s) => s.seen)).toContain('bled');
    const piece = readDesign(
      '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm" viewBox="0 0 30 30" data-transfer="true"><circle id="ball" cx="15" cy="15" r="8" fill="#b3261e"/></svg>',
      'ball',
    );
    const lifted = soon(planFor(piece, 'two-bags'), (t) => t.kind === 'pack');
    expect(lifted.map((s) => s.seen)).toContain('transfer-broke');
    for (const s of lifted) expect(s.rightS).toBeGreaterThan(s.atS);
  });
  it('who shakes a tray beside a flood that has a crust by now gets ridges; as planned that was accepted', () => {
    const kit = planFor(halves, 'kit');
    const second = kit.tasks.filter((t) => t.motions.some((m) => m.technique === 'flood')).at(-1) as PlanTask;
    expect(seenOf(kit, logOf(kit))).toEqual([]);
    const late = seenOf(
      kit,
      logOf(kit, (t) => (t.startS >= second.startS ? t.startS + 1800 : t.startS)),
    );
    expect(late.map((s) => s.seen)).toContain('ridges');
    for (const s of late) expect(s.change).not.toBeNull();
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
    const share = (verdicts: ReturnType<typeof of>) =>
      verdicts.reduce((n, v) => n + v.saved, 0) / verdicts.reduce((n, v) => n + v.cookies, 0);
    const [trusting, impatient] = [of(TRUSTING), of(IMPATIENT)];
    expect(share(trusting)).toBeGreaterThan(0.55);
    expect(share(impatient)).toBeLessThan(share(trusting) - 0.3);
    const early = impatient.flatMap((v) => v.spoilt.filter(isMistimed)).filter((s) => s.when === 'too-early');
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
    const { spoilt, windows } = judge(wet, logOf(wet), truth);
    const late = spoilt.filter(isMistimed).filter((s) => s.when === 'too-late');
    expect(late.length).toBeGreaterThan(0);
    expect(windows.lost).toBeGreaterThan(0);
    for (const s of late) {
      expect(['stood-up', 'dragged-lumps', 'missed-patch']).toContain(s.seen);
      expect(s.rightS).not.toBeNull();
      expect(s.rightS as number).toBeLessThan(s.atS);
    }
    expect(new Set(late.map((s) => s.why.rule))).toContain('wet-window');
  });
  it('who answers the telephone between a flood and its marks loses those that come behind it', () => {
    const wet = made(['mackerel']);
    const task = wet.tasks.find((t) => t.motions.some((m) => m.windowS !== null)) as PlanTask;
    const truth = truthOf(BY_THE_BOOK, 1);
    expect(judge(wet, logOf(wet), truth).spoilt.filter((s) => s.when === 'too-late')).toEqual([]);
    // In the middle of the visit, for a quarter of an hour.
    const ringsS = task.startS + (task.endS - task.startS) / 2;
    const rung = logOf(wet, (t) => t.startS, [
      { atS: ringsS, body: { type: 'paused', data: {} } },
      { atS: ringsS + 900, body: { type: 'resumed', data: {} } },
    ]).map((e) => (e.atMs > epochOf(wet) + ringsS * 1000 && e.type !== 'resumed' ? { ...e, atMs: e.atMs + 900_000 } : e));
    const late = judge(wet, rung, truth).spoilt.filter((s) => s.when === 'too-late');
    expect(late.length).toBeGreaterThan(0);
    expect(late.every((s) => s.taskId === task.id && s.atS > ringsS)).toBe(true);
  });
  it('what is given up is lost, and not held by being left out', () => {
    const wet = made(['mackerel']);
    const truth = truthOf(BY_THE_BOOK, 1);
    const all = judge(wet, logOf(wet), truth);
    expect([all.saved, all.lacking, all.windows.lost]).toEqual([6, 0, 0]);
    const twoLost = { held: all.windows.held - 2, lost: 2 };
    const task = wet.tasks.find((t) => t.motions.some((m) => m.windowS !== null)) as PlanTask;
    const shut = (choice: 'skip' | 'relief') => [
      {
        atS: task.startS + 1,
        body: { type: 'windowShut', data: { taskId: task.id, cookies: [1, 2], choice } } as Pick<RunEvent, 'type' | 'data'>,
      },
    ];
    const skipped = judge(
      wet,
      logOf(wet, (t) => t.startS, shut('skip')),
      truth,
    );
    expect([skipped.saved, skipped.lacking, skipped.windows]).toEqual([4, 2, twoLost]);
    // In relief later they lack nothing, and their windows were lost all the same.
    const later = logOf(wet, (t) => t.startS, shut('relief'));
    const relief = foldRun(wet, later).plan.tasks.find((t) => t.motions.some((m) => m.technique === 'relief')) as PlanTask;
    const piped = (atS: number) =>
      judge(
        wet,
        logOf(wet, (t) => t.startS, [
          ...shut('relief'),
          { atS, body: { type: 'taskBegun', data: { taskId: relief.id } } },
          { atS: atS + relief.endS - relief.startS, body: { type: 'taskDone', data: { taskId: relief.id } } },
        ]),
        truth,
      );
    expect([piped(relief.startS).spoilt, piped(relief.startS).saved, piped(relief.startS).windows]).toEqual([[], 6, twoLost]);
    const hasty = piped(task.endS + 10).spoilt;
    expect(new Set(hasty.map((s) => `${s.technique} ${s.when} ${s.seen} ${s.cookie}`))).toEqual(
      new Set(['relief too-early sank 1', 'relief too-early sank 2']),
    );
    // A whole step that is given up takes every cookie with it.
    const detail = wet.tasks.find((t) => t.kind === 'detail') as PlanTask;
    const without = logOf(wet).flatMap((e) =>
      (e.type === 'taskBegun' || e.type === 'taskDone') && e.data.taskId === detail.id
        ? e.type === 'taskBegun'
          ? [{ ...e, type: 'skipped', data: { taskId: detail.id } } as StoredEvent]
          : []
        : [e],
    );
    expect([judge(wet, without, truth).saved, judge(wet, without, truth).lacking]).toEqual([0, 6]);
  });
  it('minutes that were to pass between two steps, or were over, count as well', () => {
    const wet = made(['mackerel']);
    const [first, second] = wet.tasks.filter((t) => t.kind === 'detail') as [PlanTask, PlanTask];
    const asking = (more: Partial<Gap>): Plan => ({
      ...wet,
      designs: wet.designs.map((d) => {
        const gap: Gap = {
          from: first.motions[0]?.stepId as string,
          to: second.motions[0]?.stepId as string,
          rule: 'laid-over',
          facts: { kind: 'as-drawn', earlier: 'gill', later: 'fin' },
          ...more,
        };
        return { ...d, graph: { ...d.graph, gaps: [...d.graph.gaps, gap] } };
      }),
    });
    const told = (more: Partial<Gap>, laterS: number) =>
      judge(
        asking(more),
        logOf(wet, (t) => (t === second ? t.startS + laterS : t.startS)),
        truthOf(BY_THE_BOOK, 1),
      ).spoilt.filter(isMistimed);
    expect(told({ minSeconds: 600 }, 0)).toHaveLength(6);
    expect(told({ minSeconds: 600 }, 0)[0]).toMatchObject({ when: 'too-early', state: null, taskId: second.id });
    const [early] = told({ minSeconds: 600 }, 0);
    expect(told({ minSeconds: 600 }, (early?.rightS as number) - (early?.atS as number) + 60)).toEqual([]);
    expect(told({ maxSeconds: 600 }, 0)).toEqual([]);
    expect(told({ maxSeconds: 600 }, 900).map((s) => [s.when, s.state, s.cookie])).toEqual(
      [0, 1, 2, 3, 4, 5].map((c) => ['too-late', null, c]),
    );
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
    const finger = playMany(plan, 60, PERFECT);
    expect([
      trusting.evenings,
      trusting.saved < finger.saved,
      trusting.savedInTen <= trusting.saved,
      trusting.whole <= finger.whole,
    ]).toEqual([60, true, true, true]);
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
