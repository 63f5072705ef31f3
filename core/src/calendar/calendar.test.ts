import { readFileSync } from 'node:fs';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { planOrder } from '../planning/plan-order.js';
import { eventsOf, givenEvents, type InCalendar, keptPlan, plansCalendar } from './plan-calendar.js';

const fixture = (file: string) => readFileSync(new URL(`../../test/fixtures/${file}`, import.meta.url), 'utf8');
const order = parseOrder(JSON.parse(fixture('paper/order.json')));
const designs = [readDesign(fixture('cards/hills.svg'), 'Hills, far'), readDesign(fixture('cards/bath.svg'), 'Bath')];
const plan = planOrder({ order, designs, passes: 2, timeUsed: () => 0 });
const ask = { id: 'a1b2', sequence: 3, stampMs: Date.parse('2026-10-20T10:00:00Z') };
const planCalendar = (p: Plan, { id, sequence, stampMs }: Omit<InCalendar, 'plan'>) =>
  plansCalendar([{ plan: p, id, sequence, stampMs }], 'Kestfog');
const epoch = Date.parse(plan.epoch as string);

/** What another package reads in it. */
const read = (text: string) =>
  new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((c) => {
    const e = new ICAL.Event(c);
    return {
      uid: e.uid,
      title: e.summary,
      note: e.description,
      start: e.startDate.toJSDate().getTime(),
      end: e.endDate.toJSDate().getTime(),
      sequence: Number(c.getFirstPropertyValue('sequence')),
      alarms: c.getAllSubcomponents('valarm').length,
    };
  });

describe('a planned order in a calendar (RFC 5545), read back by another package', () => {
  it('every event comes back at its second, though the clocks change that night', () => {
    const events = eventsOf(plan);
    expect(read(planCalendar(plan, ask))).toEqual(
      events.map((e) => ({
        uid: `${e.key}.a1b2@kestfog`,
        title: e.title,
        note: e.note,
        start: Math.round((epoch + e.startS * 1000) / 1000) * 1000,
        end: Math.round((epoch + e.endS * 1000) / 1000) * 1000,
        sequence: 3,
        alarms: 1,
      })),
    );
    // The fixture's night is that of 25 October 2026, when clocks in Europe go back; moments are kept in UTC.
    expect(planCalendar(plan, ask)).toMatch(/DTSTART:20261024T\d{6}Z/);
    expect(events.map((e) => e.key)).toEqual(expect.arrayContaining(['mixing', 'sitting-1', 'packing', 'due']));
  });
  it('the next plan has the same names, so that nothing stands in a calendar twice; lines are folded at 75 octets', () => {
    const later = { ...plan, epoch: '2026-10-24T16:30:00Z' };
    const [was, is] = [read(planCalendar(plan, ask)), read(planCalendar(later, { ...ask, sequence: 4 }))];
    expect(is.map((e) => e.uid)).toEqual(was.map((e) => e.uid));
    expect(new Set(is.map((e) => e.uid)).size).toBe(is.length);
    expect(is.map((e, i) => e.start - (was[i]?.start ?? 0))).toEqual(is.map(() => 30 * 60_000));
    for (const line of planCalendar(plan, ask).split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  });
  it('several orders are one calendar; a plan made later has the higher number', () => {
    const both = read(plansCalendar([keptPlan(plan, 'one', ask.stampMs), keptPlan(plan, 'two', ask.stampMs + 10_000)], 'Kestfog'));
    expect(both).toHaveLength(2 * eventsOf(plan).length);
    expect(new Set(both.map((e) => e.uid)).size).toBe(both.length);
    expect((both.at(-1)?.sequence ?? 0) - (both[0]?.sequence ?? 0)).toBe(10);
    expect(plansCalendar([], 'Kestfog')).toContain('BEGIN:VCALENDAR');
  });
  it('what an earlier file has given and the plan has no longer is cancelled under its name, and rings no more (3.8.1.11)', () => {
    const given = givenEvents({ plan, ...ask });
    expect(given.map((g) => g.uid)).toEqual(read(planCalendar(plan, ask)).map((e) => e.uid));
    const unpacked = { ...plan, tasks: plan.tasks.filter((t) => t.kind !== 'pack'), packBy: null };
    const file = plansCalendar([{ plan: unpacked, ...ask, sequence: 4 }], 'Kestfog', given);
    const states = new ICAL.Component(ICAL.parse(file))
      .getAllSubcomponents('vevent')
      .map(
        (c) => [new ICAL.Event(c).uid.split('.')[0], c.getFirstPropertyValue('status'), c.getAllSubcomponents('valarm').length] as const,
      );
    const gone = states.filter(([, status]) => status === 'CANCELLED');
    const still = eventsOf(unpacked).map((e) => e.key);
    const lost = eventsOf(plan).filter((e) => !still.includes(e.key));
    expect(lost.map((e) => e.key)).toEqual(expect.arrayContaining(['packing', 'due']));
    expect(gone).toEqual(lost.map((e) => [e.key, 'CANCELLED', 0]));
    expect(read(file).every((e) => e.sequence === 4)).toBe(true);
    // Nothing was given, or all of it is still there: nothing is cancelled.
    expect([plansCalendar([{ plan, ...ask }], 'K', given), planCalendar(plan, ask)].some((f) => f.includes('CANCELLED'))).toBe(false);
  });
  it('sittings hold all the work and overlap no night; a plan without a clock says why', () => {
    const sittings = eventsOf(plan).filter((e) => e.key.startsWith('sitting'));
    for (const t of plan.tasks) expect(sittings.filter((s) => s.startS <= t.startS && t.endS <= s.endS)).toHaveLength(1);
    for (const s of sittings) expect(plan.openingHours.some(([from, to]) => s.startS >= from && s.endS <= to)).toBe(true);
    expect(() => planCalendar({ ...plan, epoch: null }, ask)).toThrow('give the order times of the clock');
  });
});
