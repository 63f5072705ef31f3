import { humidityAtTemp } from '@kestfog/core/drying';
import type { ClimateReading, ClimateScenario } from '@kestfog/core/wire';

const RAIN_S = 2 * 3600;
const OVEN_S = 30 * 60;
const share = (s: number, of: number) => Math.min(1, Math.max(0, s / of));
const tenth = (x: number) => Math.round(x * 10) / 10;

/**
 * Stand-in for a climate sensor on the shelf: plays a weather from the moment it was chosen. The slow sway is that of a real one,
 * a tenth of a degree and half a per cent, and repeats exactly, so that tests can count on it.
 */
export function simulatedReading(scenario: ClimateScenario, sinceS: number, atMs: number): ClimateReading {
  const sway = Math.sin((2 * Math.PI * sinceS) / 240);
  let tempC = 22;
  let humidityFrac = 0.5;
  if (scenario === 'rainy-evening') {
    // Rain comes in slowly: a degree cooler, and as damp as a wet harbour town.
    tempC = 22 - 1.5 * share(sinceS, RAIN_S);
    humidityFrac = 0.52 + 0.22 * share(sinceS, RAIN_S);
  } else if (scenario === 'oven-on') {
    // The room's vapour stays what it was; warmer air holds it as a smaller share.
    tempC = 22 + 5 * share(sinceS, OVEN_S);
    humidityFrac = humidityAtTemp(22, 0.5, tempC);
  }
  return { atMs, tempC: tenth(tempC + 0.1 * sway), humidityPct: tenth(100 * humidityFrac + 0.5 * sway), simulated: { scenario } };
}
