import { type Air, airBeforeFan, airInBox, type DryingState, type Region, surfaceStates, type TimeToState, timesInAir } from '@kestfog/core';

/** What can be changed in the drying explorer; temperature in °C, humidity in %. */
export interface Question {
  readonly seconds: number;
  readonly depthMm: number;
  readonly tempC: number;
  readonly humidityPct: number;
  readonly help: 'none' | 'fan' | 'dehydrator';
}
export type Along = 'humidityPct' | 'depthMm' | 'seconds';

export const RANGES: Readonly<Record<Along | 'tempC', { readonly from: number; readonly to: number; readonly step: number }>> = {
  humidityPct: { from: 20, to: 90, step: 1 },
  depthMm: { from: 0.5, to: 6, step: 0.1 },
  seconds: { from: 4, to: 60, step: 1 },
  tempC: { from: 10, to: 35, step: 0.5 },
};

export const shownStates = surfaceStates.slice(1) as Exclude<DryingState, 'crackleShut'>[];

export function airOf(q: Question): Air {
  const room: Air = { tempC: q.tempC, humidityFrac: q.humidityPct / 100, airMPerS: 0.1 };
  return q.help === 'fan' ? airBeforeFan(room, 0.5) : q.help === 'dehydrator' ? airInBox(room, 35) : room;
}

export const regionOf = (q: Question): Region => ({ seconds: q.seconds, depthMm: q.depthMm, on: 'cookie' });
export const timesOf = (q: Question): Readonly<Record<DryingState, TimeToState>> => timesInAir(regionOf(q), airOf(q));

/** One point of a curve; minutes. Points where a state never comes are left out, so a curve ends where drying does. */
export interface CurvePoint {
  readonly x: number;
  readonly p10: number;
  readonly p50: number;
  readonly p90: number;
}

const STEPS = 70;

/** Times to each state along one quantity, everything else held. */
export function curvesAlong(q: Question, along: Along): { readonly state: DryingState; readonly points: readonly CurvePoint[] }[] {
  const { from, to } = RANGES[along];
  const samples = [...Array(STEPS + 1).keys()].map((i) => from + ((to - from) * i) / STEPS);
  const times = samples.map((x) => ({ x, at: timesOf({ ...q, [along]: x }) }));
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
