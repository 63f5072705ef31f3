/** Moist air at sea-level pressure. Temperatures °C, pressures Pa, humidity as a fraction 0–1. */
export const STANDARD_PRESSURE_PA = 101325;
/** Ratio of molar masses of water and dry air (ASHRAE Handbook—Fundamentals, ch. 1). */
const MASS_RATIO = 0.621945;

/** Saturation vapour pressure over water: Magnus form, coefficients of WMO-No. 8 (Guide to Instruments), annex 4.B. */
export function saturationPressurePa(tempC: number): number {
  return 611.2 * Math.exp((17.62 * tempC) / (243.12 + tempC));
}

/** Vapour pressure of air at `tempC` and relative humidity. */
export function vapourPressurePa(tempC: number, humidityFrac: number): number {
  return humidityFrac * saturationPressurePa(tempC);
}

/** kg of vapour in each kg of dry air (ASHRAE Fundamentals ch. 1, eq. 20). */
export function humidityRatio(tempC: number, humidityFrac: number): number {
  const p = vapourPressurePa(tempC, humidityFrac);
  return (MASS_RATIO * p) / (STANDARD_PRESSURE_PA - p);
}

/** Temperature at which this air would be saturated: the Magnus form solved for the temperature. */
export function dewPointC(tempC: number, humidityFrac: number): number {
  const x = Math.log(vapourPressurePa(tempC, humidityFrac) / 611.2);
  return (243.12 * x) / (17.62 - x);
}

/** Relative humidity after warming or cooling air without adding or taking vapour. */
export function humidityAtTemp(fromC: number, humidityFrac: number, toC: number): number {
  return vapourPressurePa(fromC, humidityFrac) / saturationPressurePa(toC);
}
