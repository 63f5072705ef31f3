import type { StayPlace, StayReason } from '../formats/plan.js';

/** Where in a tray's work a stay comes: after a round of wet work, or after the first batches of it. */
export interface StayPoint {
  readonly round: number;
  /** the last batch laid by then; null after the whole round */
  readonly batch: number | null;
}

/** A tray that goes to the fan or the dehydrator, and for how long. */
export interface StayChoice extends StayPoint {
  readonly where: StayPlace;
  readonly trayId: string;
  readonly seconds: number;
  readonly why: StayReason;
  /** how long it may stand there beyond that until hands fetch it; its place is kept so long. Left out: {@link FETCHED_WITHIN_S} */
  readonly waitS?: number;
}

/** A tray is fetched at most so long after its time, while nothing better is known. */
export const FETCHED_WITHIN_S = 120;

/** Work at a tray, by where it comes. */
export interface Placed {
  readonly kind: string;
  readonly round: number;
  readonly batch: number;
}

/** Whether work is done before its tray goes away: a tray being worked wet is never away, and nothing is piped on one that is. */
export const isBeforeStay = (work: Placed, stay: StayPoint): boolean =>
  work.kind !== 'pack' && (work.round < stay.round || (work.round === stay.round && (stay.batch === null || work.batch <= stay.batch)));

const batchOf = (s: StayPoint): number => s.batch ?? Number.POSITIVE_INFINITY;
/** Stays of one tray in their order. */
export const byPoint = (a: StayPoint, b: StayPoint): number => a.round - b.round || batchOf(a) - batchOf(b);

/** Stays of a tray between two visits to it. */
export const staysBetween = <S extends StayPoint & Pick<StayChoice, 'trayId'>>(
  stays: readonly S[],
  from: { readonly lot: { readonly trayId: string }; readonly bundle: Placed },
  to: { readonly bundle: Placed },
): S[] => stays.filter((s) => s.trayId === from.lot.trayId && isBeforeStay(from.bundle, s) && !isBeforeStay(to.bundle, s));
