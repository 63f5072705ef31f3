import type { Air } from '../drying/air.js';
import { dryingRate, lossThrough, secondsToLose } from '../drying/front.js';
import type { StayPlace } from '../formats/plan.js';
import { shuffled } from '../scheduling/construct.js';
import { seededRng } from '../time/rng.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { roundsByWaiting, shutsWindow } from './given-stays.js';
import { type Arranged, type Attempt, better } from './planning.js';
import { isBeforeStay, type StayChoice } from './stays.js';
import { lossNeeded } from './timed-gap.js';

/** A stay has to earn its carries. */
const WORTH_S = 60;
/** Share of the time to the end within which two schedules end at about the same time. */
export const ABOUT = 0.005;
/** Lengths offered of each place and slot, and the longest there is. */
const MOST_LENGTHS = 4;
const LONGEST_S: Readonly<Record<StayPlace, number>> = { fan: 3 * 3600, dehydrator: 2 * 3600 };
/** Lengths that differ by less are one. */
const ALIKE_S = 30;

/** After this round of work this tray may go to dry: where, and until what waits for it is ready. */
interface Slot {
  readonly trayId: string;
  readonly round: number;
  /** only packing waits behind it */
  readonly isLast: boolean;
  /** the shortest first, place by place */
  readonly options: readonly StayChoice[];
  /** a stay that is there already and may be made longer: rather that than carrying the tray twice */
  readonly there: StayChoice | null;
}

/** What the search may use up, and what it says meanwhile. */
export interface StaySearch {
  readonly stop: () => boolean;
  /** schedules it may judge: its own measure, so that a plan can be repeated */
  readonly most: number;
  readonly seed: number;
  /** whether it begins elsewhere than from what was chosen before */
  readonly elsewhere?: boolean;
  readonly onProgress?: (text: string) => void;
}

/** A schedule with the stays that were chosen for it, to go on from. */
export interface StaysChosen {
  /** the schedule with only the stays that are there in any case */
  readonly bare: Attempt;
  readonly best: Attempt;
  /** of each slot its option, −1 where there is none */
  readonly choice: readonly number[];
}

/** A set of stays that was judged, and of each slot its option in it. */
export type NearSet = Pick<Attempt, 'stays'> & Pick<StaysChosen, 'choice'>;

/** Sets of stays that are told of besides the best. */
const MOST_OTHERS = 24;

/** Schedules judged without a better one before the search begins anew elsewhere, for each slot; and slots it then changes at once. */
const PATIENCE_PER_SLOT = 6;
const SHAKEN = 3;

/** No stays but those that are there in any case. */
export const bareChoice = (bare: Attempt): StaysChosen => ({ bare, best: bare, choice: slotsOf(bare).map(() => -1) });

/** Whole sets: every tray after all its rounds, all but the last, or only the last; for as little and as much as its next work asks. */
export function wholeSetsOfStays(from: StaysChosen, attempt: Judging, search: Pick<StaySearch, 'stop' | 'onProgress'>): StaysChosen {
  const { bare } = from;
  const slots = slotsOf(bare);
  const judge = new Judge(slots, bare, attempt, { ...search, most: Number.POSITIVE_INFINITY });
  let chosen = from;
  for (const where of new Set(slots.flatMap((s) => s.options.map((o) => o.where))))
    for (const rank of [0, MOST_LENGTHS])
      for (const isSent of [(s: Slot) => !s.isLast, () => true, (s: Slot) => s.isLast]) {
        const next = judge.tried(slots.map((s) => (isSent(s) ? optionLike(s, { where, rank }) : -1)));
        if (next && isWorth(next.best, chosen.best)) chosen = next;
      }
  return chosen;
}

/**
 * Which trays stand before the fan or in the dehydrator after which rounds, and how long. Decided together: what one stay wins may show
 * only when others are there too, so whole sets come first ({@link wholeSetsOfStays}); then choices are changed one at a time, round by
 * round and tray by tray, as long as the engine's schedule gains, and the search begins anew from the best with a few changed at once. The best comes first, then the
 * nearest others.
 */
export function chooseStays(from: StaysChosen, attempt: Judging, search: StaySearch): readonly NearSet[] {
  const slots = slotsOf(from.bare);
  if (slots.length === 0) return [{ stays: from.best.stays, choice: from.choice }];
  const judge = new Judge(slots, from.bare, attempt, search);
  const rng = seededRng(search.seed);
  const moves = movesOf(slots);
  const shaken = (choice: readonly number[]): StaysChosen | null => {
    const next = [...choice];
    for (let k = 0; k < SHAKEN; k++) {
      const i = Math.floor(rng() * slots.length);
      next[i] = Math.floor(rng() * ((slots[i] as Slot).options.length + 1)) - 1;
    }
    return judge.tried(next);
  };
  let best = from;
  let at = (search.elsewhere && shaken(from.choice)) || from;
  let betteredAt = 0;
  while (judge.judged - betteredAt <= PATIENCE_PER_SLOT * slots.length && !judge.isOver()) {
    let bettered = false;
    for (const move of shuffled(moves, rng)) {
      const next = judge.tried(at.choice.map((c, i) => (move.slots.includes(i) ? optionLike(slots[i] as Slot, move.option) : c)));
      if (!next || !isWorth(next.best, at.best)) continue;
      at = next;
      bettered = true;
      if (!isWorth(at.best, best.best)) continue;
      best = at;
      betteredAt = judge.judged;
    }
    if (bettered) continue;
    const anew = shaken(best.choice);
    // What was judged before leads nowhere new: that is patience used up too.
    if (!anew) betteredAt -= 1;
    at = anew ?? best;
  }
  return [{ stays: best.best.stays, choice: best.choice }, ...judge.nearest.filter((n) => n.stays !== best.best.stays)];
}

type Judging = (stays: readonly StayChoice[]) => Attempt;

/** Judges sets of stays, each once, as long as it may. */
class Judge {
  judged = 0;
  /** stays of the best schedules of all that were judged, the best first; whole schedules would fill the memory */
  nearest: readonly (NearSet & Pick<Attempt, 'score'>)[] = [];
  private readonly known: Set<string>;

  constructor(
    private readonly slots: readonly Slot[],
    private readonly bare: Attempt,
    private readonly attempt: Judging,
    private readonly search: Pick<StaySearch, 'stop' | 'most' | 'onProgress'>,
  ) {
    this.known = new Set([slots.map(() => -1).join()]);
  }

  isOver(): boolean {
    return this.judged >= this.search.most || this.search.stop();
  }

  /** The schedule with this choice; null where it is known, leaves none, or nothing more may be judged. */
  tried(choice: readonly number[]): StaysChosen | null {
    if (this.known.has(choice.join()) || this.isOver()) return null;
    this.known.add(choice.join());
    this.judged += 1;
    this.search.onProgress?.(msg`trying what stays before the fan or in the dehydrator win (${this.judged})`);
    try {
      const best = this.attempt(staysBy(this.bare.stays, this.slots, choice));
      const after = this.nearest.findIndex((a) => better(best.score, a.score));
      this.nearest = this.nearest
        .toSpliced(after < 0 ? this.nearest.length : after, 0, { stays: best.stays, score: best.score, choice })
        .slice(0, MOST_OTHERS + 1);
      return { bare: this.bare, best, choice };
    } catch (error) {
      // Stays that leave no schedule are none; that there is one without them is known.
      if (error instanceof NoAnswer) return null;
      throw error;
    }
  }
}

/**
 * Whether stays are better than others: less late; else less of what is feared; else an end so much sooner that each further carry has
 * earned its time. Where both end about when the other does, the hands count as much: free on each day, and the end, so much sooner taken
 * together; a minute won next morning is not worth an evening longer.
 */
export function isWorth(next: Attempt, than: Attempt): boolean {
  const carries = (a: Attempt) => a.stays.filter((s) => s.why === 'time').length;
  const [late, feared, end, free] = next.score as readonly [number, number, number, number];
  const [wasLate, wasFeared, wasEnd, wasFree] = than.score as readonly [number, number, number, number];
  if (late !== wasLate) return late < wasLate;
  if (feared !== wasFeared) return feared < wasFeared;
  const earnS = WORTH_S * (carries(next) - carries(than));
  const soonerS = wasEnd - end;
  if (Math.abs(soonerS) > Math.max(WORTH_S, ABOUT * wasEnd)) return soonerS > earnS;
  const wonS = soonerS + wasFree - free;
  return wonS > earnS || (wonS === earnS && soonerS > 0);
}

/** The given stays, some of them longer, and those that were chosen. */
function staysBy(given: readonly StayChoice[], slots: readonly Slot[], choice: readonly number[]): StayChoice[] {
  const chosen = slots.flatMap((s, i) => {
    const stay = s.options[choice[i] ?? -1];
    return stay ? [{ there: s.there, stay }] : [];
  });
  return [...given.map((g) => chosen.find((c) => c.there === g)?.stay ?? g), ...chosen.filter((c) => !c.there).map((c) => c.stay)];
}

/** One option for one slot or for a round of all trays; null takes the stay away. */
interface Move {
  readonly slots: readonly number[];
  readonly option: { readonly where: StayPlace; readonly rank: number } | null;
}

function movesOf(slots: readonly Slot[]): Move[] {
  const rounds = new Map<number, number[]>();
  const trays = new Map<string, number[]>();
  for (const [i, s] of slots.entries()) {
    rounds.set(s.round, [...(rounds.get(s.round) ?? []), i]);
    trays.set(s.trayId, [...(trays.get(s.trayId) ?? []), i]);
  }
  const groups = [...slots.map((_, i) => [i]), ...[...rounds.values(), ...trays.values()].filter((g) => g.length > 1)];
  return groups.flatMap((group) => {
    const places = [...new Set(group.flatMap((i) => (slots[i] as Slot).options.map((o) => o.where)))];
    const ranks = [...Array(MOST_LENGTHS).keys()];
    return [
      { slots: group, option: null },
      ...places.flatMap((where) => ranks.map((rank): Move => ({ slots: group, option: { where, rank } }))),
    ];
  });
}

/** The slot's option of a place, counted from the shortest; the longest where there are fewer. */
function optionLike(slot: Slot, option: Move['option']): number {
  if (!option) return -1;
  const own = slot.options.flatMap((o, i) => (o.where === option.where ? [i] : []));
  return own[Math.min(option.rank, own.length - 1)] ?? -1;
}

/** Where stays may be, with lengths read off what waits: as long as the place needs for each of them from fresh. */
function slotsOf({ arranged, stays }: Attempt): Slot[] {
  const { planning, visits, timedByLot } = arranged;
  const { order, airAt } = planning;
  const shuts = shutsWindow(visits, timedByLot);
  // What was asked for stays as it was asked.
  const asked = new Set(stays.filter((s) => s.why === 'asked').map((s) => `${s.trayId} ${s.round}`));
  const places = (['dehydrator', 'fan'] as const).filter((where) => airAt[where] !== null);
  const all = roundsByWaiting(visits).filter(([t, r]) => !shuts(t, { round: r, batch: null }) && !asked.has(`${t} ${r}`));
  const shortestBefore = new Map<string, { readonly round: number; readonly seconds: number }[]>();
  return all.flatMap(([trayId, round]): Slot[] => {
    const there = standsThere(arranged, stays, trayId, round) ?? null;
    const point = { round, batch: null };
    const own = visits.filter((v) => v.lot.trayId === trayId);
    const [before, behind] = [own.filter((v) => isBeforeStay(v.bundle, point)), own.filter((v) => !isBeforeStay(v.bundle, point))];
    const needs = before.flatMap((a) =>
      (timedByLot.get(a.lot.id) ?? []).flatMap((t) => {
        const crosses = a.times.endS.has(t.gap.from) && behind.some((b) => b.lot.id === a.lot.id && b.times.endS.has(t.gap.to));
        const need = crosses ? lossNeeded(t.gap, order.margin, order.factors) : 0;
        return need > 0 ? [{ need, round: a.bundle.round }] : [];
      }),
    );
    const options = (there ? [there.where] : places).flatMap((where) => {
      const air = airAt[where] as Air;
      const rate = dryingRate(air);
      // As long as each need takes from fresh; and until all is ready, where each round before stood there as long as its next work asked.
      const shortest = shortestBefore.get(`${trayId} ${where}`) ?? [];
      const dried = (since: number) => lossThrough(shortest.filter((s) => s.round >= since).map((s) => ({ air, seconds: s.seconds })));
      const fresh = needs.map(({ need }) => Math.ceil(secondsToLose(rate, 0, need)));
      const allReady = Math.max(0, ...needs.map(({ need, round: since }) => Math.ceil(secondsToLose(rate, dried(since), need))));
      shortestBefore.set(`${trayId} ${where}`, [...shortest, { round, seconds: Math.min(LONGEST_S[where], ...fresh) }]);
      const seconds = [...new Set([...fresh, allReady])]
        .filter((x) => x > 0)
        .filter((x) => x <= LONGEST_S[where] && (!there || x > there.seconds))
        .sort((a, b) => a - b);
      return spread(seconds).map(
        (x): StayChoice => (there ? { ...there, seconds: x } : { where, trayId, round, batch: null, seconds: x, why: 'time' }),
      );
    });
    const isLast = behind.every((v) => v.bundle.kind === 'pack');
    return options.length > 0 ? [{ trayId, round, isLast, options, there }] : [];
  });
}

/** A few of many lengths, the shortest and the longest among them. */
function spread(seconds: readonly number[]): number[] {
  const apart = seconds.filter((x, i) => i === 0 || x - (seconds[i - 1] as number) >= ALIKE_S || i === seconds.length - 1);
  if (apart.length <= MOST_LENGTHS) return [...apart];
  return [...Array(MOST_LENGTHS).keys()].map((k) => apart[Math.round((k * (apart.length - 1)) / (MOST_LENGTHS - 1))] as number);
}

/** The stay after a tray's last batch in a round that is there in any case, for small pools or since nothing dries without it. */
function standsThere({ visits }: Arranged, stays: readonly StayChoice[], trayId: string, round: number): StayChoice | undefined {
  const wet = visits.filter((v) => v.lot.trayId === trayId && v.bundle.kind === 'wet' && v.bundle.round === round);
  const last = Math.max(...wet.map((v) => v.bundle.batch));
  const own = stays.filter((s) => s.trayId === trayId && s.round === round);
  return own.find((s) => s.why === 'dries') ?? own.find((s) => s.why === 'pools' && s.batch === last);
}
