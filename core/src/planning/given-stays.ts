import type { Air } from '../drying/air.js';
import { dryingRate, lossThrough, secondsToLose } from '../drying/front.js';
import { TOO_SLOW_S } from '../drying/outlook.js';
import type { StayPlace, TimedGap } from '../formats/plan.js';
import { isSmallPool, type StepGraph } from '../steps/derive.js';
import { BadInput, NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import type { Arranged } from './planning.js';
import { byPoint, isBeforeStay, type StayChoice, type StayPoint } from './stays.js';
import { driesHere, lossNeeded, timeGap } from './timed-gap.js';
import type { Visit } from './visit.js';

/**
 * Stays that are there whatever they save: what the user asked for, small pools set at once where the school does so, and those without
 * which something would never dry. Throws {@link BadInput} for a round the tray does not have, {@link NoAnswer} where a stay would shut
 * a window that is still to come.
 */
export function givenStays(arranged: Arranged): StayChoice[] {
  const { planning, visits, timedByLot } = arranged;
  const { order } = planning;
  const shuts = shutsWindow(visits, timedByLot);
  const wet = visits.filter((v) => v.bundle.kind === 'wet');
  const out: StayChoice[] = [];
  for (const [i, pin] of order.pins.entries()) {
    if (pin.kind !== 'stay') continue;
    const own = wet.filter((v) => v.lot.trayId === pin.tray);
    const rounds = own.map((v) => v.bundle.round);
    // A tray that this arrangement leaves empty has nothing to dry.
    if (rounds.length === 0) continue;
    if (!rounds.includes(pin.round))
      throw new BadInput(
        'pin',
        msg`pins[${i}].round: tray ${pin.tray} is flooded in ${Math.max(...rounds)} rounds, not in ${pin.round}: choose one of them.`,
        {
          place: `pins[${i}].round`,
        },
      );
    // At once after its floods: what is piped in that round comes when the tray is back.
    const batch = Math.max(...own.filter((v) => v.bundle.round === pin.round).map((v) => v.bundle.batch));
    if (shuts(pin.tray, { round: pin.round, batch }))
      throw new NoAnswer(
        'stay-in-window',
        msg`Tray ${pin.tray} waits for a crust to crackle after round ${pin.round}: warm or moving air then would shut that window. Take
          the stay back, or choose another round.`,
      );
    out.push({ where: pin.where, trayId: pin.tray, round: pin.round, batch, seconds: Math.round(pin.minutes * 60), why: 'asked' });
  }
  if (order.school.quickSets) out.push(...poolStays(arranged, shuts, out));
  out.push(...dryingStays(arranged, shuts, out));
  return out.sort((a, b) => byPoint(a, b));
}

/** Small pools set at once, batch by batch, where nothing else was asked for there. */
function poolStays({ planning, visits }: Arranged, shuts: ShutsWindow, asked: readonly StayChoice[]): StayChoice[] {
  const { order, graphs, ids, airAt } = planning;
  const where = airAt.dehydrator ? 'dehydrator' : airAt.fan ? 'fan' : null;
  if (!where) return [];
  const wet = visits.filter((v) => v.bundle.kind === 'wet');
  const out: StayChoice[] = [];
  const seconds = 60 * (where === 'dehydrator' ? order.school.quickSetDehydratorMin : order.school.quickSetFanMin);
  for (const trayId of new Set(wet.map((v) => v.lot.trayId))) {
    const own = wet.filter((v) => v.lot.trayId === trayId);
    const pools = own.filter((v) => {
      const graph = graphs[ids.indexOf(v.lot.designId)] as StepGraph;
      return v.bundle.steps.some((s) => s.kind === 'flood' && isSmallPool(graph.sections.find((x) => x.id === s.part)));
    });
    const points = new Map(pools.map((v) => [`${v.bundle.round} ${v.bundle.batch}`, v.bundle]));
    for (const { round, batch } of points.values()) {
      const point = { round, batch };
      if (shuts(trayId, point)) continue;
      if (!asked.some((s) => s.trayId === trayId && byPoint(s, point) === 0)) out.push({ where, trayId, ...point, seconds, why: 'pools' });
    }
  }
  return out;
}

/**
 * Stays without which something would never dry in the bench's air: after each round for as long as what comes next on its tray asks, in
 * the dehydrator, else before the fan. Throws {@link NoAnswer} where something must dry and no stay can be before it.
 */
function dryingStays({ planning, visits, timedByLot }: Arranged, shuts: ShutsWindow, given: readonly StayChoice[]): StayChoice[] {
  const { order, air, airAt } = planning;
  const never = (v: Visit) => (timedByLot.get(v.lot.id) ?? []).filter((t) => !driesHere(t));
  if (!visits.some((v) => never(v).length > 0)) return [];
  const out: StayChoice[] = [];
  const between = (from: Visit, to: Visit) =>
    [...given, ...out].filter((s) => s.trayId === from.lot.trayId && isBeforeStay(from.bundle, s) && !isBeforeStay(to.bundle, s));
  /** Pairs of a tray's visits with what the later asks of the earlier that the bench never gives. */
  const pairs = (trayId: string) => {
    const own = visits.filter((v) => v.lot.trayId === trayId);
    return own.flatMap((from) =>
      never(from).flatMap((t) =>
        from.times.endS.has(t.gap.from)
          ? own.filter((to) => to !== from && to.lot.id === from.lot.id && to.times.endS.has(t.gap.to)).map((to) => ({ from, to, t }))
          : [],
      ),
    );
  };
  const where = (need: number): StayPlace | null =>
    (['dehydrator', 'fan'] as const).find((p) => airAt[p] !== null && secondsToLose(dryingRate(airAt[p] as Air), 0, need) <= TOO_SLOW_S) ??
    null;
  for (const [trayId, round] of roundsByWaiting(visits)) {
    const point = { round, batch: null };
    if (shuts(trayId, point)) continue;
    const nextRound = Math.min(
      ...visits.filter((v) => v.lot.trayId === trayId && v.bundle.kind !== 'pack' && v.bundle.round > round).map((v) => v.bundle.round),
    );
    for (const { from, to, t } of pairs(trayId)) {
      const isNext =
        isBeforeStay(from.bundle, point) &&
        !isBeforeStay(to.bundle, point) &&
        (nextRound === Number.POSITIVE_INFINITY || isBeforeStay(to.bundle, { round: nextRound, batch: null }));
      if (!isNext) continue;
      const need = lossNeeded(t.gap, order.margin, order.factors);
      const place = where(need);
      if (!place) continue;
      const lost = lossThrough(
        between(from, to).flatMap((s) => (airAt[s.where] ? [{ air: airAt[s.where] as Air, seconds: s.seconds }] : [])),
      );
      const seconds = Math.ceil(secondsToLose(dryingRate(airAt[place] as Air), lost, need));
      if (seconds <= 0) continue;
      const known = out.findIndex((s) => s.trayId === trayId && s.round === round);
      const there = out[known];
      const stay: StayChoice = { where: place, trayId, ...point, seconds: seconds + (there?.seconds ?? 0), why: 'dries' };
      if (there) out[known] = stay;
      else out.push(stay);
    }
  }
  for (const trayId of new Set(visits.map((v) => v.lot.trayId)))
    for (const { from, to, t } of pairs(trayId)) {
      const pieces = between(from, to).flatMap((s) => (airAt[s.where] ? [{ air: airAt[s.where] as Air, seconds: s.seconds }] : []));
      // Nothing dries it in time: said as of the bench's air.
      if (lossThrough(pieces) < lossNeeded(t.gap, order.margin, order.factors)) timeGap(t.gap, air, order.margin, order.factors);
    }
  return out;
}

/** Trays with their rounds of floods and of details, tray by tray in order of their rounds. */
export function roundsByWaiting(visits: readonly Visit[]): [string, number][] {
  const out: [string, number][] = [];
  for (const trayId of new Set(visits.map((v) => v.lot.trayId))) {
    const rounds = new Set(
      visits.filter((v) => v.lot.trayId === trayId && (v.bundle.kind === 'wet' || v.bundle.kind === 'detail')).map((v) => v.bundle.round),
    );
    for (const r of [...rounds].sort((a, b) => a - b)) out.push([trayId, r]);
  }
  return out;
}

/** Whether a stay would come into a window of the air its tray has (a crust that has to crackle), so that the tray stays where it is. */
export type ShutsWindow = (trayId: string, point: StayPoint) => boolean;

export function shutsWindow(visits: readonly Visit[], timedByLot: ReadonlyMap<string, readonly TimedGap[]>): ShutsWindow {
  const windows = visits.flatMap((from) =>
    (timedByLot.get(from.lot.id) ?? []).flatMap((t) =>
      t.maxS !== null && from.times.endS.has(t.gap.from)
        ? visits.filter((to) => to !== from && to.lot.id === from.lot.id && to.times.endS.has(t.gap.to)).map((to) => ({ from, to }))
        : [],
    ),
  );
  return (trayId, point) =>
    windows.some((w) => w.from.lot.trayId === trayId && isBeforeStay(w.from.bundle, point) && !isBeforeStay(w.to.bundle, point));
}
