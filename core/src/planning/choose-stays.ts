import type { StayPlace, TimedGap } from '../formats/plan.js';
import { STAY_LENGTHS_S, type StayChoice } from './build-problem.js';
import { type Arranged, type Attempt, better } from './planning.js';
import type { Visit } from './visits.js';

/** A stay has to earn its carries. */
const WORTH_S = 60;
/** Lengths tried of each place: a fan is slower, the dehydrator does in minutes what takes hours. */
const LENGTHS_S: Readonly<Record<StayPlace, readonly number[]>> = { fan: STAY_LENGTHS_S.slice(1, 4), box: STAY_LENGTHS_S };

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
  const places = (['box', 'fan'] as const).filter((where) => planning.airAt[where] !== null);
  let best = first;
  for (const [trayId, afterRound] of roundsByWaiting(first.arranged).filter(([t, r]) => !windowed.has(`${t} ${r}`))) {
    let chosen: Attempt | null = null;
    for (const where of places) {
      if (stop()) return best;
      onProgress?.(where === 'fan' ? `trying the fan on tray ${trayId}` : `trying the dehydrator for tray ${trayId}`);
      for (const seconds of LENGTHS_S[where]) {
        const tried = attempt([...best.stays, { where, trayId, afterRound, seconds }]);
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
