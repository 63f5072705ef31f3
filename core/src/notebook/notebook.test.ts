import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { made } from '../../test/play.js';
import type { RunEvent, StoredEvent } from '../bench/index.js';
import { BY_THE_BOOK, slower, worked } from '../rehearsal/index.js';
import { seededRng } from '../time/index.js';
import { runAccount, type SlipKind } from './account.js';
import { across, rateOf } from './across.js';
import { runTable } from './run-table.js';

const plan = made(['lighthouse', 'mackerel']);
const epochS = Date.parse(plan.epoch as string) / 1000;
const evening = (seed: number, more: Parameters<typeof worked>[3] = { early: 0 }, kitchen = BY_THE_BOOK) => worked(plan, kitchen, seededRng(seed), more);
/** A log of what was planned, done to the second but for what `change` makes of it. */
function toTheSecond(laterS: (task: number) => number = () => 0): StoredEvent[] {
  const events: StoredEvent[] = [];
  const say = (s: number, body: Pick<RunEvent, 'type' | 'data'>) =>
    events.push({
      id: `e${events.length}`,
      deviceId: 'd',
      deviceSeq: events.length + 1,
      seq: events.length + 1,
      atMs: (epochS + s) * 1000,
      ...body,
    } as StoredEvent);
  say(0, { type: 'runStarted', data: {} });
  for (const [i, t] of plan.tasks.entries()) {
    say(t.startS + laterS(i), { type: 'taskBegun', data: { taskId: t.id } });
    say(t.endS + laterS(i), { type: 'taskDone', data: { taskId: t.id } });
  }
  return events;
}
const secondsOf = (events: readonly StoredEvent[], kind: SlipKind) =>
  runAccount(plan, events)
    .slips.filter((s) => s.kind === kind)
    .reduce((n, s) => n + s.seconds, 0);

describe('a run told against its plan', () => {
  it('done to the second it has no slips, every cookie and every window', () => {
    const { summary, slips, visits } = runAccount(plan, toTheSecond());
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
    const late = runAccount(
      plan,
      toTheSecond((i) => (i >= 7 ? 1200 : 0)),
    );
    expect(late.slips.map((s) => [s.kind, s.seconds])).toEqual([['hands', 1200]]);
    // Said to be a pause, it is one.
    const paused = toTheSecond((i) => (i >= 7 ? 1200 : 0));
    const at = (type: 'paused' | 'resumed', s: number): StoredEvent => ({
      id: type,
      deviceId: 'p',
      deviceSeq: 1,
      seq: 0,
      atMs: (epochS + s) * 1000,
      type,
      data: {},
    });
    const where = paused.findIndex((e) => e.atMs >= (epochS + from + 1200) * 1000);
    const told = [...paused.slice(0, where), at('paused', from + 10), at('resumed', from + 1190), ...paused.slice(where)].map((e, i) => ({ ...e, seq: i + 1 }));
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
    const log = toTheSecond();
    const where = log.length - 8;
    const events = [
      ...log.slice(0, where),
      ...more.map((b, i) => ({ id: `m${i}`, deviceId: 'd2', deviceSeq: i + 1, seq: 0, atMs: log[where]?.atMs, ...b }) as StoredEvent),
      ...log.slice(where),
    ].map((e, i) => ({ ...e, seq: i + 1 }));
    const account = runAccount(plan, events);
    expect([account.summary.packed, account.summary.defects.map((d) => [d.seen, d.cookie])]).toEqual([
      11,
      [
        ['crater', 3],
        ['broken', 4],
      ],
    ]);
    const rows = parse(runTable(account, 'found'), { columns: true }) as Record<string, string>[];
    expect(rows.map((r) => r['kind']).sort()).toEqual(['air', 'count', 'defect', 'defect']);
    // All of it was said at one moment.
    expect(new Set(rows.map((r) => r['at']))).toEqual(new Set([new Date(log[where]?.atMs as number).toISOString()]));
    const looked = runAccount(plan, evening(4, { early: 1 }));
    const [startS, endS] = [looked.summary.startedS, looked.summary.endedS];
    expect(looked.found.length).toBeGreaterThan(0);
    for (const f of looked.found) expect([f.atS >= startS, f.atS <= endS]).toEqual([true, true]);
    const times = parse(runTable(account, 'times'), { columns: true }) as Record<string, string>[];
    expect(times).toHaveLength(account.visits.length);
    expect(times[0]?.['begun']).toBe(new Date((epochS + (plan.tasks[0]?.startS ?? 0)) * 1000).toISOString());
  });
  it('a wait planned for eight in ten holds for about as many in kitchens as they are, for fewer in one that is slower', () => {
    const told = (times: number) => [...Array(12).keys()].map((i) => runAccount(plan, evening(100 + i, { early: 0 }, slower(times))).summary);
    const [here, damp] = [across(told(1)).honesty[0], across(told(1.5)).honesty[0]];
    expect(here?.promised).toBe(0.8);
    expect(here?.share).toBeGreaterThan(0.8);
    expect(damp?.share).toBeLessThan((here?.share as number) - 0.2);
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
      defects: [1, 1, 2].map((cookie) => ({ atS: 0, design: 'mackerel', part: null, trayId: 'A', cookie, seen: 'dent' as const, outcome: 'left' as const })),
    }));
    expect(across(twice).defects).toMatchObject([{ seen: 'dent', of: 6, all: 36 }]);
    expect(across([])).toMatchObject({ runs: 0, anHour: null, defects: [] });
  });
});
