import * as psychrolibModule from 'psychrolib';
import { describe, expect, it } from 'vitest';
import { dewPointC, humidityAtTemp, humidityRatio, STANDARD_PRESSURE_PA, saturationPressurePa } from './psychrometrics.js';

// The reference library psychrolib, after ASHRAE Handbook—Fundamentals (2017), ch. 1.
interface Psychrolib {
  SI: number;
  SetUnitSystem(unit: number): void;
  GetSatVapPres(tempC: number): number;
  GetHumRatioFromRelHum(tempC: number, relHum: number, pressurePa: number): number;
  GetTDewPointFromRelHum(tempC: number, relHum: number): number;
}
const loaded = psychrolibModule as unknown as Psychrolib & { default?: Psychrolib };
const psychrolib = loaded.default ?? loaded;
psychrolib.SetUnitSystem(psychrolib.SI);

describe('psychrometrics against psychrolib and steam tables', () => {
  it.each([5, 10, 18.4, 22, 27.5, 35, 47, 60])('saturation pressure at %f °C within 0.5 %% of psychrolib', (t) => {
    expect(Math.abs(saturationPressurePa(t) / psychrolib.GetSatVapPres(t) - 1)).toBeLessThan(0.005);
  });
  // IAPWS steam tables, from memory.
  it.each([
    [20, 2339],
    [25, 3170],
    [30, 4247],
  ])('saturation pressure at %f °C is %f Pa within 0.5 %%', (t, pa) => {
    expect(Math.abs(saturationPressurePa(t) / pa - 1)).toBeLessThan(0.005);
  });
  it.each([
    [22, 0.5],
    [35, 0.2],
    [10, 0.9],
  ])('humidity ratio and dew point at %f °C and %f agree with psychrolib', (t, phi) => {
    expect(Math.abs(humidityRatio(t, phi) / psychrolib.GetHumRatioFromRelHum(t, phi, STANDARD_PRESSURE_PA) - 1)).toBeLessThan(0.006);
    expect(Math.abs(dewPointC(t, phi) - psychrolib.GetTDewPointFromRelHum(t, phi))).toBeLessThan(0.15);
  });
  it('warming air without adding vapour keeps its dew point', () => {
    expect(dewPointC(35, humidityAtTemp(22, 0.5, 35))).toBeCloseTo(dewPointC(22, 0.5), 9);
  });
});
