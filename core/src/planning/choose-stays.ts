import type { StayPlace, TimedGap } from '../formats/plan.js';
import { isSmallPool, type StepGraph } from '../steps/derive.js';
import { BadInput, NoAnswer } from '../units/bad-input.js';
import { type Arranged, type Attempt, better } from './planning.js';
import { byPoint, STAY_LENGTHS_S, type StayChoice } from './stays.js';
import type { Visit } from './visit.js';

/** A stay has to earn its carries. */
const WORTH_S = 60;
/** Lengths tried of each place: a fan is slower, the dehydrator does in minutes what takes hours. */
const LENGTHS_S: Readonly<Record<StayPlace, readonly number[]>> = { fan: STAY_LENGTHS_S.slice(1, 4), dehydrator: STAY_LENGTHS_S };

/**
 * Which tray stands before the fan or in the dehydrator after which round, and how long: tried one after the other, kept
 * where the engine's schedule gains by it, until `stop`.
 */
export function chooseStays(
  first: Attempt,
  attempt: (stays: readonly StayChoice[]) => Attempt,
  stop: () => boolean,
  onProgress?: (text: string) => void,
): Attempt {
  const { planning, visits, timedByLot } = first.arranged;
  const windowed = windowedRounds(visits, timedByLot);
  const places = (['dehydrator', 'fan'] as const).filter((where) => planning.airAt[where] !== null);
  let best = first;
  // What was asked for stays as it was asked.
  const taken = new Set(first.stays.filter((s) => s.why === 'asked').map((s) => `${s.trayId} ${s.round}`));
  const open = roundsByWaiting(first.arranged).filter(([t, r]) => !windowed.has(`${t} ${r}`) && !taken.has(`${t} ${r}`));
  for (const [trayId, round] of open) {
    let chosen: Attempt | null = null;
    // A tray that goes to set its last small pools may stay there longer, rather than be carried twice.
    const there = setsLast(first.arranged, best.stays, trayId, round);
    for (const where of there ? [there.where] : places) {
      if (stop()) return best;
      onProgress?.(where === 'fan' ? `trying the fan on tray ${trayId}` : `trying the dehydrator for tray ${trayId}`);
      for (const seconds of LENGTHS_S[where].filter((x) => !there || x > there.seconds)) {
        const tried = attempt(
          there ? best.stays.map((s) => (s === there ? { ...s, seconds } : s)) : [...best.stays, { where, trayId, round, batch: null, seconds, why: 'time' }],
        );
        const gain = (best.score[2] as number) - (tried.score[2] as number);
        const sooner = (best.score[0] as number) > (tried.score[0] as number) || (best.score[1] as number) - (tried.score[1] as number) > WORTH_S;
        const same = best.score[0] === tried.score[0] && Math.abs((best.score[1] as number) - (tried.score[1] as number)) <= WORTH_S;
        if ((sooner || (same && gain > WORTH_S)) && (!chosen || better(tried.score, chosen.score))) chosen = tried;
      }
    }
    if (chosen) best = chosen;
  }
  return best;
}

/** The stay that sets the small pools of a tray's last batch in a round, if there is one. */
function setsLast({ visits }: Arranged, stays: readonly StayChoice[], trayId: string, round: number): StayChoice | undefined {
  const wet = visits.filter((v) => v.lot.trayId === trayId && v.bundle.kind === 'wet' && v.bundle.round === round);
  const last = Math.max(...wet.map((v) => v.bundle.batch));
  return stays.find((s) => s.why === 'pools' && s.trayId === trayId && s.round === round && s.batch === last);
}

/**
 * Stays that are there whatever they save: what the user asked for, and small pools set at once where the school does so. Throws
 * {@link BadInput} for a round the tray does not have, {@link NoAnswer} where a stay would shut a window that is still to come.
 */
export function givenStays({ planning, visits, timedByLot }: Arranged): StayChoice[] {
  const { order, graphs, ids, airAt } = planning;
  const windowed = windowedRounds(visits, timedByLot);
  const wet = visits.filter((v) => v.bundle.kind === 'wet');
  const out: StayChoice[] = [];
  for (const [i, pin] of order.pins.entries()) {
    if (pin.kind !== 'stay') continue;
    const own = wet.filter((v) => v.lot.trayId === pin.tray);
    const rounds = own.map((v) => v.bundle.round);
    // A tray that this arrangement leaves empty has nothing to dry.
    if (rounds.length === 0) continue;
    if (!rounds.includes(pin.round))
      throw new BadInput('pin', `pins[${i}].round: tray ${pin.tray} is flooded in ${Math.max(...rounds)} rounds, not in ${pin.round}: choose one of them.`, {
        place: `pins[${i}].round`,
      });
    if (windowed.has(`${pin.tray} ${pin.round}`))
      throw new NoAnswer(
        'stay-in-window',
        `Tray ${pin.tray} waits for a crust to crackle after round ${pin.round}: warm or moving air then would shut that window. Take the stay back, or choose another round.`,
      );
    // At once after its floods: what is piped in that round comes when the tray is back.
    const batch = Math.max(...own.filter((v) => v.bundle.round === pin.round).map((v) => v.bundle.batch));
    out.push({ where: pin.where, trayId: pin.tray, round: pin.round, batch, seconds: Math.round(pin.minutes * 60), why: 'asked' });
  }
  const where = airAt.dehydrator ? 'dehydrator' : airAt.fan ? 'fan' : null;
  if (!order.school.quickSets || !where) return out;
  const seconds = 60 * (where === 'dehydrator' ? order.school.quickSetDehydratorMin : order.school.quickSetFanMin);
  for (const trayId of new Set(wet.map((v) => v.lot.trayId))) {
    const own = wet.filter((v) => v.lot.trayId === trayId);
    const pools = own.filter((v) => {
      const graph = graphs[ids.indexOf(v.lot.designId)] as StepGraph;
      return v.bundle.steps.some((s) => s.kind === 'flood' && isSmallPool(graph.sections.find((x) => x.id === s.part)));
    });
    const points = new Map(pools.map((v) => [`${v.bundle.round} ${v.bundle.batch}`, v.bundle]));
    for (const { round, batch } of points.values()) {
      if (windowed.has(`${trayId} ${round}`)) continue;
      const point = { round, batch };
      if (!out.some((s) => s.trayId === trayId && byPoint(s, point) === 0)) out.push({ where, trayId, ...point, seconds, why: 'pools' });
    }
  }
  return out.sort((a, b) => byPoint(a, b));
}

/** Trays with their wet rounds, tray by tray in order of their rounds. */
function roundsByWaiting({ visits }: Arranged): [string, number][] {
  const out: [string, number][] = [];
  for (const trayId of new Set(visits.map((v) => v.lot.trayId))) {
    const rounds = new Set(visits.filter((v) => v.lot.trayId === trayId && v.bundle.kind === 'wet').map((v) => v.bundle.round));
    for (const r of [...rounds].sort((a, b) => a - b)) out.push([trayId, r]);
  }
  return out;
}

/** Rounds of a tray after which a window of the air it has (crackling) is still to come: a stay would move it, so the tray stays. */
function windowedRounds(visits: readonly Visit[], timedByLot: ReadonlyMap<string, readonly TimedGap[]>): Set<string> {
  const out = new Set<string>();
  for (const from of visits) {
    const opens = (timedByLot.get(from.lot.id) ?? []).some((t) => t.maxS !== null && from.times.endS.has(t.gap.from) && !from.times.endS.has(t.gap.to));
    if (opens) out.add(`${from.lot.trayId} ${from.bundle.round}`);
  }
  return out;
}
