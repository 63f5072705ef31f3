import { createEvents, type EventAttributes } from 'ics';
import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { bagsOf } from '../planning/order-bags.js';
import { BadInput } from '../units/bad-input.js';
import { msg, plural } from '../words/index.js';

/** What of an order stands in a calendar. */
export interface CalendarEvent {
  /** the same event keeps it from plan to plan, so that no calendar shows it twice */
  readonly key: string;
  readonly title: string;
  readonly note: string;
  readonly startS: number;
  readonly endS: number;
  /** minutes before it that something rings; null where nothing does */
  readonly ringsMin: number | null;
}

/** Longer than this without anything to do is a break between two sittings, s: *assumed*. */
const BREAK_S = 30 * 60;
/** Mixing one bag, colouring and counting it, s: *assumed*. */
const MIX_BAG_S = 5 * 60;
const MIN_S = 60;

/** The evening's sittings, mixing before the first, what is fetched, when pens are possible, packing and handing over. */
export function eventsOf(plan: Plan): CalendarEvent[] {
  const name = plan.order.name ?? 'order';
  const tasks = [...plan.tasks].sort((a, b) => a.startS - b.startS);
  const first = tasks[0];
  const out: CalendarEvent[] = [];
  if (!first) return out;
  const bags = bagsOf(plan).length;
  out.push({
    key: 'mixing',
    title: msg`Mix ${bags} ${plural(bags, 'bag', 'bags')}: ${name}`,
    note: msg`Pale before dark, stiff before thin.`,
    startS: first.startS - bags * MIX_BAG_S,
    endS: first.startS,
    ringsMin: 15,
  });
  let sitting: PlanTask[] = [];
  const sittings: PlanTask[][] = [];
  let endS = Number.NEGATIVE_INFINITY;
  for (const t of tasks) {
    const shut = plan.openingHours.some(([, shutS]) => shutS >= endS && shutS <= t.startS);
    if (sitting.length > 0 && (t.startS - endS > BREAK_S || (shut && t.startS > endS))) {
      sittings.push(sitting);
      sitting = [];
    }
    sitting.push(t);
    endS = Math.max(endS, t.endS);
  }
  if (sitting.length > 0) sittings.push(sitting);
  for (const [i, s] of sittings.entries()) {
    const start = s[0] as PlanTask;
    const trays = [...new Set(s.map((t) => t.trayId))].sort();
    out.push({
      key: `sitting-${i + 1}`,
      title: msg`At the bench: ${name}`,
      note: msg`${s.length} ${plural(s.length, 'task', 'tasks')} on ${
        trays.length === 1
          ? msg`tray ${trays[0]}`
          : msg`trays
        ${trays.join(', ')}`
      }; begins with: ${start.title}, tray ${start.trayId}.`,
      startS: start.startS,
      endS: Math.max(...s.map((t) => t.endS)),
      ringsMin: 10,
    });
  }
  for (const t of tasks.filter((x) => x.kind === 'take-out'))
    out.push({
      key: `fetch-${t.trayId}-${tasks.filter((x) => x.kind === 'take-out' && x.trayId === t.trayId).indexOf(t) + 1}`,
      title: msg`Tray ${t.trayId}: ${t.title}`,
      note: name,
      startS: t.startS,
      endS: Math.max(t.endS, t.startS + MIN_S),
      ringsMin: 0,
    });
  const pens = tasks.find((t) => t.motions.some((m) => m.technique === 'pen'));
  if (pens)
    out.push({
      key: 'pens',
      title: msg`Pens are possible: ${name}`,
      note: msg`First ${pens.title}, tray ${pens.trayId}.`,
      startS: pens.startS,
      endS: pens.startS + MIN_S,
      ringsMin: 0,
    });
  const packing = tasks.filter((t) => t.kind === 'pack');
  const [firstPacked] = packing;
  if (firstPacked)
    out.push({
      key: 'packing',
      title: msg`Pack: ${name}`,
      note: plan.designs.map((d) => `${d.count} ${d.drawing.name}`).join(', '),
      startS: firstPacked.startS,
      endS: Math.max(...packing.map((t) => t.endS)),
      ringsMin: 0,
    });
  if (plan.packBy !== null)
    out.push({
      key: 'due',
      title: msg`Due: ${name}`,
      note: plan.designs.map((d) => `${d.count} ${d.drawing.name}`).join(', '),
      startS: plan.packBy,
      endS: plan.packBy + MIN_S,
      ringsMin: 120,
    });
  return out;
}

/** A plan as a calendar knows it: `id` names its order for ever, `sequence` grows with every plan of it, `stampMs` is when it was made. */
export interface InCalendar {
  readonly plan: Plan;
  readonly id: string;
  readonly sequence: number;
  readonly stampMs: number;
}

/** Seconds since then number the plans of an order: a later one has a higher number. */
const SEQUENCE_FROM_MS = Date.UTC(2020, 0);
/** A plan that is kept, as calendars know it. */
export const keptPlan = (plan: Plan, id: string, stampMs: number): InCalendar => ({
  plan,
  id,
  stampMs,
  sequence: Math.max(0, Math.floor((stampMs - SEQUENCE_FROM_MS) / 1000)),
});

/** An event that a calendar has been given, as much of it as is needed to take it back. */
export interface GivenEvent {
  readonly uid: string;
  readonly title: string;
  /** ms since 1970 */
  readonly startMs: number;
  readonly endMs: number;
}
/** What a calendar has of a plan once it has taken the plan's file up. */
export const givenEvents = (plan: InCalendar): GivenEvent[] =>
  attributesOf(plan).map((e) => ({ uid: e.uid, title: e.title, startMs: e.start, endMs: e.end }));

/**
 * An iCalendar file (RFC 5545) of planned orders. What an earlier file has `given` and no plan has any more is cancelled (3.8.1.11), so
 * that a calendar that takes up a file takes it out. Throws {@link BadInput} where a plan has no clock.
 */
export function plansCalendar(plans: readonly InCalendar[], calendarName: string, given: readonly GivenEvent[] = []): string {
  const header = { calName: calendarName, productId: '-//Kestfog//order of work//EN' };
  const events = plans.flatMap(attributesOf);
  const sequence = Math.max(0, ...plans.map((p) => p.sequence));
  const timestamp = Math.max(0, ...plans.map((p) => p.stampMs));
  const cancelled = given
    .filter((g) => !events.some((e) => e.uid === g.uid))
    .map((g): Written => ({ ...written(g), sequence, timestamp, status: 'CANCELLED' }));
  const { error, value } = createEvents([...events, ...cancelled], header);
  if (error || !value)
    throw new BadInput(
      'calendar',
      msg`The calendar cannot be written (${error?.message ?? msg`nothing was written`}): give the order another name.`,
    );
  return value;
}

/** The package writes a moment it is given, though its types do not say so. */
type Written = EventAttributes & { readonly timestamp: number };
const written = ({ uid, title, startMs, endMs }: GivenEvent) => ({
  uid,
  title,
  start: startMs,
  startInputType: 'utc' as const,
  startOutputType: 'utc' as const,
  end: endMs,
  endInputType: 'utc' as const,
  endOutputType: 'utc' as const,
});

function attributesOf({ plan, id, sequence, stampMs }: InCalendar) {
  if (plan.epoch === null)
    throw new BadInput(
      'no-clock',
      msg`The plan counts seconds from a start without a date: give the order times of the clock, or an "epoch".`,
    );
  const { msOf } = planIndex(plan);
  // iCalendar knows whole seconds.
  const at = (s: number) => Math.round(msOf(s) / 1000) * 1000;
  return eventsOf(plan).map((e) => ({
    ...written({ uid: `${e.key}.${id}@kestfog`, title: e.title, startMs: at(e.startS), endMs: at(e.endS) }),
    sequence,
    timestamp: stampMs,
    description: e.note,
    // Its words are written as they are: no comma or semicolon may be in them.
    ...(e.ringsMin === null
      ? {}
      : {
          alarms: [
            { action: 'display' as const, description: e.title.split(':')[0] as string, trigger: { before: true, minutes: e.ringsMin } },
          ],
        }),
  }));
}
