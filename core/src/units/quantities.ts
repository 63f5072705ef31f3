/**
 * Exact conversion factors used at the edges; inside the core everything is SI (seconds, metres, kilograms, pascals)
 * or the bench's own millimetres, and a name carries its unit.
 */
export const MM_PER_INCH = 25.4;
/** CSS reference pixel: 96 to the inch (CSS Values and Units, section "absolute lengths"). */
export const PX_PER_INCH = 96;
export const PT_PER_INCH = 72;
export const PC_PER_INCH = 6;
export const KELVIN_AT_0C = 273.15;

export const kelvinFromCelsius = (tempC: number): number => tempC + KELVIN_AT_0C;
/** NIST SP 811, table B.9. */
export const celsiusFromFahrenheit = (tempF: number): number => (tempF - 32) / 1.8;
export const fahrenheitFromCelsius = (tempC: number): number => tempC * 1.8 + 32;
