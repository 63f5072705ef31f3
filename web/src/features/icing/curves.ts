import {
  type Air,
  airInDehydrator,
  type Belief,
  type DryingState,
  fanSpeedMPerS,
  type Margin,
  type Region,
  surfaceStates,
  type TimeToState,
  timesInAir,
} from '@kestfog/core/drying';
import type { Kitchen } from '@kestfog/core/wire';

/** What can be changed in the drying explorer; temperature in °C, humidity in %. */
export interface Question {
  readonly seconds: number;
  readonly depthMm: number;
  readonly tempC: number;
  readonly humidityPct: number;
  readonly help: 'none' | 'fan' | 'dehydrator';
  readonly on: 'cookie' | 'parchment';
  readonly margin: Margin;
}
export type Along = 'humidityPct' | 'depthMm' | 'seconds' | 'time';

export const RANGES: Readonly<
  Record<Exclude<Along, 'time'> | 'tempC', { readonly from: number; readonly to: number; readonly step: number }>
> = {
  humidityPct: { from: 20, to: 90, step: 1 },
  depthMm: { from: 0.5, to: 6, step: 0.1 },
  seconds: { from: 4, to: 60, step: 1 },
  tempC: { from: 10, to: 35, step: 0.5 },
};

export const shownStates = surfaceStates.slice(1) as Exclude<DryingState, 'crackleShut'>[];

/** The fan and the dehydrator as they stand in this kitchen. */
export type Helps = Pick<Kitchen, 'fan' | 'dehydrator'>;

export function airOf(q: Question, helps: Helps): Air {
  const room: Air = { tempC: q.tempC, humidityFrac: q.humidityPct / 100, airMPerS: 0.1 };
  const fan = helps.fan.measuredMPerS ?? fanSpeedMPerS(helps.fan.distanceM, helps.fan.setting);
  if (q.help === 'fan') return { ...room, airMPerS: Math.max(room.airMPerS, fan) };
  return q.help === 'dehydrator' ? airInDehydrator(room, helps.dehydrator.tempC, helps.dehydrator.airMPerS) : room;
}

export const regionOf = (q: Question): Region => ({ seconds: q.seconds, depthMm: q.depthMm, on: q.on });
export const timesOf = (q: Question, helps: Helps, belief: Belief = {}): Readonly<Record<DryingState, TimeToState>> =>
  timesInAir(regionOf(q), airOf(q, helps), q.margin, belief);

/** One point of a curve; minutes. Points where a state never comes are left out, so a curve ends where drying does. */
export interface CurvePoint {
  readonly x: number;
  readonly p10: number;
  readonly p50: number;
  readonly p90: number;
}

const STEPS = 70;

/** Times to each state along one quantity, everything else held. */
export function curvesAlong(
  q: Question,
  along: Exclude<Along, 'time'>,
  helps: Helps,
  belief: Belief = {},
): { readonly state: DryingState; readonly points: readonly CurvePoint[] }[] {
  const { from, to } = RANGES[along];
  const samples = [...Array(STEPS + 1).keys()].map((i) => from + ((to - from) * i) / STEPS);
  const times = samples.map((x) => ({ x, at: timesOf({ ...q, [along]: x }, helps, belief) }));
  return shownStates.map((state) => ({
    state,
    points: times.flatMap(({ x, at }) => {
      const t = at[state];
      return t.p10 !== null && t.p50 !== null && t.p90 !== null ? [{ x, p10: t.p10 / 60, p50: t.p50 / 60, p90: t.p90 / 60 }] : [];
    }),
  }));
}

/** Label heights moved apart so that none lies on another; keeps their order from top to bottom. */
export function spread(ys: readonly number[], apart: number): number[] {
  const order = [...ys.keys()].sort((a, b) => (ys[a] as number) - (ys[b] as number));
  const out = [...ys];
  let least = Number.NEGATIVE_INFINITY;
  for (const i of order) {
    out[i] = Math.max(ys[i] as number, least);
    least = (out[i] as number) + apart;
  }
  return out;
}
