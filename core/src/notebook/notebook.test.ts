import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { anyKitchen } from '../../test/kitchen.js';
import { logOf, made, twoHands } from '../../test/play.js';
import type { RunEvent, StoredEvent } from '../bench/index.js';
import type { Plan, PlanTask } from '../formats/index.js';
import { bagsOf } from '../planning/index.js';
import { BY_THE_BOOK, type Kitchen, slower, worked } from '../rehearsal/index.js';
import { seededRng } from '../time/index.js';
import { runAccount, type SlipKind } from './account.js';
import { across } from './across.js';
import { countsOver } from './counts.js';
import { honestyWord, longEnough, shareWithin, type WaitKnown } from './honesty.js';
import { lessonsFor } from './lessons.js';
import { rateOf } from './rate.js';
import { runTable } from './run-table.js';

const plan = made(['lighthouse', 'mackerel']);
const epochS = Date.parse(plan.epoch as string) / 1000;
const evening = (seed: number, more: Parameters<typeof worked>[3] = { early: 0 }, kitchen = BY_THE_BOOK) =>
  worked(plan, kitchen, seededRng(seed), more);
const secondsOf = (events: readonly StoredEvent[], kind: SlipKind) =>
  runAccount(plan, events)
    .slips.filter((s) => s.kind === kind)
    .reduce((n, s) => n + s.seconds, 0);

describe('a run compared with its plan', () => {
  it('done to the second it has no slips, every cookie and every window', () => {
    const { summary, slips, visits } = runAccount(plan, logOf(plan));
    expect(slips).toEqual([]);
    expect([summary.packed, summary.cookies, summary.windows.lost]).toEqual([12, 12, 0]);
    // A visit taken up right behind another begins with the change of bags.
    expect(summary.handsOnS / summary.plannedHandsOnS).toBeCloseTo(1, 1);
    expect(visits.every((v) => v.said === 'seen')).toBe(true);
    expect(summary.windows.held).toBeGreaterThan(0);
  });
  it.each([1, 2, 3, 4, 5])('whatever happened, its slips add up to how late the hands were at the end (seed %d)', (seed) => {
    const events = evening(seed, { early: 0.3, takes: 0.8 + 0.1 * seed, calledAway: { share: 0.1, s: 400 } }, slower(0.7 + 0.15 * seed));
    const { slips, visits } = runAccount(plan, events);
    const last = [...visits]
      .filter((v) => v.doneS !== null)
      .sort((a, b) => (a.doneS as number) - (b.doneS as number))
      .at(-1);
    const lateS = (last?.doneS as number) - (last?.plannedEndS as number);
    const told = slips.reduce((n, s) => n + s.seconds, 0);
    // What is below half a minute is no slip.
    expect(Math.abs(told - lateS)).toBeLessThan(30 * 2 * visits.length);
    expect(Math.sign(lateS) === Math.sign(told) || Math.abs(lateS) < 900).toBe(true);
  });
  it('says of lateness where it came from', () => {
    // From one moment on everything is twenty minutes later: nobody was at the bench.
    const from = plan.tasks[7]?.startS as number;
    const later = (t: PlanTask, i: number) => t.startS + (i >= 7 ? 1200 : 0);
    const late = runAccount(plan, logOf(plan, later));
    expect(late.slips.map((s) => [s.kind, s.seconds])).toEqual([['hands', 1200]]);
    // Said to be a pause, it is one.
    const told = logOf(plan, later, [
      { atS: from + 10, body: { type: 'paused', data: {} } },
      { atS: from + 1190, body: { type: 'resumed', data: {} } },
    ]);
    expect(secondsOf(told, 'pause')).toBeGreaterThan(1100);
    // Hands a third slower: their work took longer.
    const slow = evening(3, { early: 0, takes: 1.33 });
    expect(secondsOf(slow, 'longer')).toBeGreaterThan(0.2 * runAccount(plan, slow).summary.plannedHandsOnS);
    // A kitchen that dries at half the speed of the book: what was found wet says so.
    expect(secondsOf(evening(4, { early: 0 }, slower(1.8)), 'not-ready')).toBeGreaterThan(600);
  });
  it('keeps what went wrong and what was found, and a table has every line of it', () => {
    const lot = plan.trays[0]?.lots[0]?.id as string;
    const more: readonly Pick<RunEvent, 'type' | 'data'>[] = [
      { type: 'defect', data: { lotId: lot, cookie: 2, part: null, seen: 'crater', surface: 'wet', outcome: 'mended' } } as never,
      { type: 'defect', data: { lotId: lot, cookie: 3, part: null, seen: 'broken', surface: 'dry', outcome: 'shorter' } } as never,
      { type: 'bagCounted', data: { colour: '#ffffff', seconds: 15, countedS: 13 } },
      { type: 'airRead', data: { tempC: 24, humidityPct: 61 } },
    ];
    const atS = (plan.tasks.at(-8)?.startS as number) + 1;
    const events = logOf(
      plan,
      (t) => t.startS,
      more.map((body) => ({ atS, body })),
    );
    const account = runAccount(plan, events);
    expect([account.summary.packed, account.summary.defects.map((d) => [d.seen, d.cookie])]).toEqual([
      11,
      [
        ['crater', 3],
        ['broken', 4],
      ],
    ]);
    // Nothing was named on a part: no drawing is kept for it. A broken cookie's icing lies on it all the same.
    const as = (part: string | null) =>
      runAccount(
        plan,
        logOf(plan, undefined, [
          {
            atS,
            body: { type: 'defect', data: { lotId: lot, cookie: 2, part, seen: 'crater', surface: 'wet', outcome: 'mended' } } as never,
          },
        ]),
      );
    const drawn = plan.designs.find((d) => lot.endsWith(`.${d.id}`))?.drawing;
    const part = drawn?.parts.find((p) => p.role === 'section');
    expect([account.drawings, as(part?.id ?? '').drawings.map((d) => d.name), as(part?.id ?? '').summary.defects[0]?.partId]).toEqual([
      [],
      [drawn?.name],
      part?.id,
    ]);
    const mixed = bagsOf(plan);
    expect(as(null).summary.icing?.toMixG).toBeCloseTo(
      mixed.reduce((g, b) => g + b.mixG, 0),
      6,
    );
    expect(as(null).summary.icing?.onCookiesG).toBeCloseTo(
      mixed.reduce((g, b) => g + b.g, 0),
      6,
    );
    const rows = parse(runTable(account, 'found'), { columns: true }) as Record<string, string>[];
    expect(rows.map((r) => r['kind']).sort()).toEqual(['air', 'count', 'defect', 'defect']);
    // All of it was said at one moment.
    expect(new Set(rows.map((r) => r['at']))).toEqual(new Set([new Date((epochS + atS) * 1000).toISOString()]));
    const looked = runAccount(plan, evening(4, { early: 1 }));
    const [startS, endS] = [looked.summary.startedS, looked.summary.endedS];
    expect(looked.found.length).toBeGreaterThan(0);
    for (const f of looked.found) expect([f.atS >= startS, f.atS <= endS]).toEqual([true, true]);
    const times = parse(runTable(account, 'times'), { columns: true }) as Record<string, string>[];
    expect(times).toHaveLength(account.visits.length);
    expect(times[0]?.['begun']).toBe(new Date((epochS + (plan.tasks[0]?.startS ?? 0)) * 1000).toISOString());
  });
  it('two designs of one name are told apart', () => {
    const twice = { ...plan, designs: plan.designs.map((d) => ({ ...d, drawing: { ...d.drawing, name: 'boat' } })) };
    const [one, two] = runAccount(twice, logOf(twice)).summary.designs;
    const [first, second] = runAccount(plan, logOf(plan)).summary.designs;
    expect([one?.handsOnS, two?.handsOnS]).toEqual([first?.handsOnS, second?.handsOnS]);
  });
});

describe('whether waits were long enough', () => {
  const told = (kitchen: (seed: number) => Kitchen) =>
    across([...Array(40).keys()].map((i) => runAccount(plan, evening(100 + i, { early: 0.3 }, kitchen(i))).summary)).honesty;
  it('is as many as were promised in kitchens as likely as any, more in one by the book, few in one half as slow again', () => {
    const [any] = told((i) => anyKitchen(seededRng(i)));
    expect(any?.promised).toBe(0.8);
    // 40 kitchens have their own say: within a tenth. Counted by the certain ones alone it was 93 in 100.
    expect(Math.abs((any?.share as number) - 0.8)).toBeLessThan(0.1);
    expect(told(() => BY_THE_BOOK)[0]?.share).toBeGreaterThan(0.93);
    const slow = told(() => slower(1.5));
    expect(slow[0]?.share).toBeLessThan(0.4);
    expect([honestyWord(slow), honestyWord(told(() => BY_THE_BOOK)), honestyWord([])]).toEqual(['too-short', 'more-careful', 'unknown']);
    expect(honestyWord([{ ...rateOf(33, 40), promised: 0.8 }])).toBe('as-promised');
  });
  it('of cases that are all certain it is their share, and with some left off early what Kaplan and Meier have', () => {
    const sure = [...Array(9).fill([0.4, 0.9]), ...Array(3).fill([1.2, null])] as WaitKnown[];
    expect(shareWithin(sure)).toBeCloseTo(0.75, 6);
    // Weeks of remission of 21 patients, + where it was cut off (Freireich and others 1963; survival at 10 weeks 0.753, at 23 weeks 0.448:
    // in every textbook of survival analysis, from memory).
    const ends = [6, 6, 6, 7, 10, 13, 16, 22, 23];
    const cut = [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35];
    const by = (weeks: number) =>
      shareWithin([...ends.map((w): WaitKnown => [(w - 0.01) / weeks, w / weeks]), ...cut.map((w): WaitKnown => [w / weeks, null])]);
    expect(by(10)).toBeCloseTo(1 - 0.753, 2);
    expect(by(23)).toBeCloseTo(1 - 0.448, 2);
  });
  it('knows nothing where nobody looked in time, and says so', () => {
    expect(longEnough([])).toMatchObject({ all: 0, least: 0, most: 1 });
    expect(longEnough([[0, 2.4]]).all).toBe(0);
    expect(longEnough([[0.9, 1.5]])).toMatchObject({ all: 1 });
  });
});

describe('lessons', () => {
  const about = (design: string | null, step: string | null, school: string | null = null) => ({ design, step, school });
  const all = [
    about('Lighthouse', null),
    about('Lighthouse', 'flood the lamp'),
    about(null, 'flood the lamp'),
    about(null, null),
    about('Gull', null),
  ];
  it('come back with their design, and with the step in hand', () => {
    expect(lessonsFor(all, { design: 'lighthouse', step: null })).toEqual([all[0], all[1], all[3]]);
    expect(lessonsFor(all, { design: 'lighthouse', step: 'flood the lamp' })).toEqual([all[0], all[1], all[2], all[3]]);
    expect(lessonsFor(all, { design: 'lighthouse', step: 'pipe the rail' })).toEqual([all[0], all[3]]);
    expect(lessonsFor(all, { design: null, step: 'carry the tray' })).toEqual([all[3]]);
    // A school's come with the school, whatever is worked in it.
    const ofSchool = [about(null, null, 'Two bags'), about(null, 'flood the lamp', 'two bags'), about('Gull', null, 'Two bags')];
    expect(lessonsFor(ofSchool, { design: 'lighthouse', step: null, school: 'Two bags' })).toEqual([ofSchool[0], ofSchool[1]]);
    expect(lessonsFor(ofSchool, { design: 'Gull', step: 'flood the wing', school: 'Two bags' })).toEqual([ofSchool[0], ofSchool[2]]);
    for (const school of ['Kit', undefined]) expect(lessonsFor(ofSchool, { design: 'Gull', step: null, school })).toEqual([]);
  });
});

describe('rates', () => {
  it('have the interval of Wilson (1927), whose ends solve (p − p̂)² = z²·p(1 − p)/n', () => {
    // z of nine in ten from the handbook's table: 1.28155 (Abramowitz & Stegun 26.2, from memory).
    const r = rateOf(15, 20);
    for (const p of [r.least, r.most]) expect((p - 0.75) ** 2).toBeCloseTo((1.28155 ** 2 * p * (1 - p)) / 20, 6);
    expect([r.least < 0.75, r.most > 0.75]).toEqual([true, true]);
    expect(rateOf(0, 0)).toMatchObject({ share: 0, least: 0, most: 1 });
    expect(rateOf(0, 30).most).toBeLessThan(0.1);
    expect(rateOf(30, 30).most).toBe(1);
  });
  it('over runs: each cookie with a defect counts once, each design for itself', () => {
    const runs = [1, 2, 3].map((seed) => runAccount(plan, evening(seed)).summary);
    const all = across(runs);
    expect([all.runs, all.cookies, all.packed]).toEqual([3, 36, 36]);
    expect(all.designs.map((d) => [d.name, d.runs, d.packed])).toEqual([
      ['lighthouse', 3, 18],
      ['mackerel', 3, 18],
    ]);
    for (const d of all.designs) expect(d.takes).toBeCloseTo(1, 1);
    const twice = runs.map((r) => ({
      ...r,
      defects: [1, 1, 2].map((cookie) => ({
        atS: 0,
        design: 'mackerel',
        part: null,
        partId: null,
        trayId: 'A',
        cookie,
        seen: 'dent' as const,
        outcome: 'left' as const,
      })),
    }));
    expect(across(twice).defects).toMatchObject([{ seen: 'dent', of: 6, all: 36 }]);
    expect(across([])).toMatchObject({ runs: 0, honesty: [], defects: [], icing: { toMixG: 0, onCookiesG: 0 } });
    // A run that was kept before icing was counted takes nothing away from the others.
    const [first] = runs as [(typeof runs)[number]];
    expect(across([first, { ...first, icing: null }]).icing).toEqual(first.icing);
  });
});

describe('counts', () => {
  it('are those of the mixing and of the bench, each in the hands that held the bag', () => {
    const mixed = { colour: bagsOf(twoHands)[0]?.colour as string, seconds: bagsOf(twoHands)[0]?.seconds as number, countedS: 12 };
    const counted: Plan = { ...twoHands, order: { ...twoHands.order, bags: [mixed] } };
    const holds = (by: string, t: PlanTask) => t.by === by && t.bags.length > 0;
    const isAlone = (t: PlanTask) => !twoHands.tasks.some((a) => holds('Ada', a) && a.startS <= t.startS + 1 && a.endS >= t.startS);
    const task = twoHands.tasks.find((t) => holds('Bo', t) && isAlone(t)) as PlanTask;
    const [bag] = task.bags;
    const events = logOf(counted, undefined, [
      {
        atS: task.startS + 1,
        body: { type: 'bagCounted', data: { colour: bag?.colour as string, seconds: bag?.seconds as number, countedS: 11 } },
      },
    ]);
    const { summary, counted: atBench } = runAccount(counted, events, undefined, 'pasteurised');
    // Nobody said which of the two counted it as it was mixed.
    expect(summary.counts?.counts.map((c) => [c.countedS, c.who])).toEqual([
      [12, null],
      [11, 'Bo'],
    ]);
    expect(atBench.map((c) => c.countedS)).toEqual([11]);
    expect(summary.counts?.recipe).toBe('pasteurised');
  });
  it('over time are told apart by recipe and by hands, month by month, surer the more bags there are', () => {
    const bag = (month: number, countedS: number, who: string | null = 'Ada') => ({
      atS: Date.UTC(2026, month, 3) / 1000,
      colour: '#ffffff',
      plannedS: 15,
      countedS,
      who,
    });
    const [ada, bo, before] = countsOver(
      [
        { recipe: 'own', counts: [bag(3, 12), bag(3, 12), bag(3, 12), bag(3, 12), bag(4, 15)] },
        { recipe: 'own', counts: [bag(4, 20, 'Bo')] },
        { recipe: null, counts: [] },
        { recipe: null, counts: [bag(2, 15, null)] },
      ],
      'UTC',
    );
    expect([ada?.who, ada?.bags, ada?.months.map((m) => [m.month, m.bags, m.times])]).toEqual([
      'Ada',
      5,
      [
        ['2026-04', 4, expect.closeTo(0.8, 9)],
        ['2026-05', 1, 1],
      ],
    ]);
    const [april, may] = ada?.months ?? [];
    // Eight in ten: ±1.2816 spreads of the mean, and the mean of four bags spreads half as much as one (any table of the normal).
    expect(Math.log((may?.most as number) / (may?.times as number))).toBeCloseTo(1.2816 * 0.15, 4);
    expect(Math.log((april?.most as number) / (april?.times as number))).toBeCloseTo((1.2816 * 0.15) / 2, 4);
    expect([bo?.months[0]?.times, before?.recipe, before?.who]).toEqual([expect.closeTo(4 / 3, 9), null, null]);
    expect(countsOver([], 'UTC')).toEqual([]);
  });
  it('an evening belongs to the month it is worked in where that is, whatever month it is in Greenwich', () => {
    // 31 May, 21:00 in Chicago (UTC−5 in summer) is 1 June, 02:00 UTC.
    const late = { atS: Date.UTC(2026, 5, 1, 2) / 1000, colour: '#ffffff', plannedS: 15, countedS: 15, who: 'Ada' };
    const monthsIn = (zone: string) => countsOver([{ recipe: 'own', counts: [late] }], zone)[0]?.months.map((m) => m.month);
    expect([monthsIn('America/Chicago'), monthsIn('UTC')]).toEqual([['2026-05'], ['2026-06']]);
    expect(() => monthsIn('Nowhere/At all')).toThrow(RangeError);
  });
});
