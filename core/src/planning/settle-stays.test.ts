import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { type Air } from '../drying/air.js';
import { dryingRate, secondsToLose } from '../drying/front.js';
import { parseOrder } from '../formats/order.js';
import type { Plan, Stay } from '../formats/plan.js';
import { takeOutId } from './build-problem.js';
import { givenStays } from './given-stays.js';
import { planOrder } from './plan-order.js';
import { arrange, attempt, preparePlanning } from './planning.js';
import { EveryStaySearch } from './search-stays.js';
import { exactAround, measured } from './settle-stays.js';
import { lossNeeded } from './timed-gap.js';
import { staysOf } from './to-plan.js';

const HOUR = 3600;
const flag = readDesign(readFileSync(new URL('../../../server/demo/signal-flag.svg', import.meta.url), 'utf8'), 'signal-flag.svg');
const plan = (more: object): Plan =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: [{ file: 'signal-flag.svg', count: 1 }],
      trays: [{ id: 'A', places: 4 }],
      openingHours: [[0, 24 * HOUR]],
      ...more,
    }),
    designs: [flag],
    passes: 60,
  });
/** So many cookies of one of the demo's designs. */
const planned = (file: string, count: number, more: object): Plan =>
  planOrder({
    order: parseOrder({ format: 'kestfog-order/3', designs: [{ file: `${file}.svg`, count }], ...more }),
    designs: [readDesign(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'), `${file}.svg`)],
    passes: 60,
  });
const trays = (n: number, places: number) => [...Array(n).keys()].map((k) => ({ id: `T${k + 1}`, places }));
/** Two days of so many hours. */
const days = (hours: number) => [0, 24].map((from) => [from * HOUR, (from + hours) * HOUR]);
const last = (p: Plan, tray: string): Stay =>
  p.stays
    .filter((s) => s.trayId === tray)
    .sort((a, b) => a.startS - b.startS)
    .at(-1) as Stay;

describe('stays end when what waits for them is ready', () => {
  it('what dried before is counted: the last stay is shorter than drying from fresh takes, and the order ends sooner', () => {
    const often = plan({ dehydrator: { places: 1 } });
    expect(brokenRules(often)).toEqual([]);
    const needs = (often.designs[0]?.graph.gaps ?? [])
      .filter((g) => g.rule === 'pack-when-dry')
      .map((g) => lossNeeded(g, often.margin, often.factors));
    const freshS = secondsToLose(dryingRate(often.dehydratorAir as Air), 0, Math.max(...needs));
    expect(last(often, 'A').forS).toBeLessThan(freshS - 600);
    expect(often.endS).toBeLessThan(7800);
  });
  // Before, all stays were made shorter at once, and what that changed was measured at the old times: 3 h 14 min.
  it('one after another, and what comes behind a shorter one is looked at where it is then: ten sailboats in less than 3 h', () => {
    const p = planned('sailboat', 10, { trays: trays(2, 5), openingHours: days(8), dehydrator: { places: 2 } });
    expect(brokenRules(p)).toEqual([]);
    expect(p.endS).toBeLessThan(3 * HOUR);
  });
  // Before, only the best of the schedules was made exact, and all of them ended the next morning.
  it('of several sets of stays, so that what is late by a little before is in time: sixteen mackerels on the first day', () => {
    const p = planned('mackerel', 16, {
      trays: trays(2, 8),
      openingHours: days(8),
      fan: { places: 2 },
      decorators: [{ id: 'Ada' }, { id: 'Bo' }],
    });
    expect(brokenRules(p)).toEqual([]);
    expect(p.endS).toBeLessThan(8 * HOUR);
  });
  it('two trays of four with two pairs of hands are packed in less than 2 h 20 min, on one day or with a second one', () => {
    const two = {
      designs: [{ file: 'signal-flag.svg', count: 8 }],
      trays: ['A', 'B'].map((id) => ({ id, places: 4 })),
      decorators: [{ id: 'Ada' }, { id: 'Bo' }],
      dehydrator: { places: 2 },
    };
    for (const openingHours of [
      [[0, 8 * HOUR]],
      [
        [0, 8 * HOUR],
        [25 * HOUR, 32 * HOUR],
      ],
    ]) {
      const p = plan({ ...two, openingHours });
      expect(brokenRules(p)).toEqual([]);
      expect(p.endS).toBeLessThan(8400);
    }
  });
});

describe('a schedule made exact around where things are said to be', () => {
  it('is never one with a wait that is too short, though there all waits would be long enough', () => {
    const order = parseOrder({
      format: 'kestfog-order/3',
      designs: [{ file: 'signal-flag.svg', count: 1 }],
      trays: [{ id: 'A', places: 4 }],
      openingHours: [[0, 24 * HOUR]],
      dehydrator: { places: 1 },
    });
    const arranged = arrange(preparePlanning({ order, designs: [flag] }), 'as-listed');
    const bare = attempt(arranged, { stays: givenStays(arranged), passes: 40 });
    const search = EveryStaySearch.of(arranged, givenStays(arranged)) as EveryStaySearch;
    const a = search.from(bare, { conflicts: 400, stop: () => false, passes: 40 }).better;
    if (!a) throw new Error('no stays were found');
    const end = [...a.stays].sort((x, y) => x.round - y.round).at(-1);
    const pack = arranged.visits.find((v) => v.bundle.kind === 'pack');
    if (!end || !pack) throw new Error('no last stay');
    // Said to be carried two minutes sooner than it is, the tray could be fetched and packed 20 s sooner.
    const soonerS = 20;
    const there = staysOf(a).map((s) => (s.round === end.round ? { ...s, startS: s.startS - 120, endS: s.endS - soonerS } : s));
    const start = { ...a.solution.start };
    for (const id of [takeOutId(end), pack.id]) start[id] = (start[id] as number) - soonerS;
    const stays = a.stays.map((s) => (s === end ? { ...s, seconds: s.seconds - soonerS } : s));
    expect(measured(arranged, there, start).every((g) => g.neededS <= g.givenS)).toBe(true);
    expect(measured(arranged, staysOf(a), start).some((g) => g.neededS > g.givenS)).toBe(true);
    const made = exactAround(arranged, stays, there, start, 40);
    if (!made) throw new Error('no schedule was left');
    expect(measured(arranged, staysOf(made), made.solution.start).filter((g) => g.neededS > g.givenS)).toEqual([]);
  });
});
