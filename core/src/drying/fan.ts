import type { Air } from './air.js';
import { humidityAtTemp } from './psychrometrics.js';

export const fanSettings = ['low', 'medium', 'high'] as const;
export type FanSetting = (typeof fanSettings)[number];

/** Air speed at the blades of a kitchen's table fan, m/s: *assumed*. */
const OUTLET_M_PER_S: Readonly<Record<FanSetting, number>> = { low: 1.8, medium: 2.5, high: 3.2 };
const FAN_DIAMETER_M = 0.3;
/** Centreline decay of a round free jet, u/u₀ ≈ 6.2 d/x behind its core (Rajaratnam, Turbulent Jets, 1976; from memory). */
const JET_DECAY = 6.2;
/** A tray lies beside the jet's axis and feels part of it: *assumed*, so that a fan close in front gives about 1 m/s. */
const AT_TRAY_SHARE = 0.4;

/** Air speed at a tray `distanceM` before a fan, m/s; a measured speed is better than this. */
export function fanSpeedMPerS(distanceM: number, setting: FanSetting = 'medium'): number {
  const outlet = OUTLET_M_PER_S[setting];
  return AT_TRAY_SHARE * Math.min(outlet, (outlet * JET_DECAY * FAN_DIAMETER_M) / Math.max(distanceM, 0.01));
}

/** A kitchen's fan: how far off it stands and how it is set, or what was measured at the tray, which counts more. */
export interface FanSetUp {
  readonly distanceM: number;
  readonly setting: FanSetting;
  readonly measuredMPerS: number | null;
}
/** Air at a tray before such a fan, m/s: as measured, else by how far off it stands. */
export const setUpSpeedMPerS = ({ distanceM, setting, measuredMPerS }: FanSetUp): number =>
  measuredMPerS ?? fanSpeedMPerS(distanceM, setting);

/** A fan adds to whatever moves in the room already. */
export const airBeforeFan = (room: Air, distanceM: number, setting?: FanSetting): Air => ({
  ...room,
  airMPerS: Math.max(room.airMPerS, fanSpeedMPerS(distanceM, setting)),
});

/** Air speed inside a dehydrator, m/s: *assumed*, editable. */
export const DEHYDRATOR_AIR_M_PER_S = 1;

/** Air inside a dehydrator: the room's own vapour, carried in and warmed. Colder than the room it cannot be. */
export function airInDehydrator(room: Air, dehydratorC: number, airMPerS: number = DEHYDRATOR_AIR_M_PER_S): Air {
  const tempC = Math.max(dehydratorC, room.tempC);
  return { tempC, humidityFrac: Math.min(1, humidityAtTemp(room.tempC, room.humidityFrac, tempC)), airMPerS };
}
