/** Air over the icing. */
export interface Air {
  /** °C */
  readonly tempC: number;
  /** relative humidity, 0–1 */
  readonly humidityFrac: number;
  /** speed at the tray, m/s; 0.1 is a still kitchen */
  readonly airMPerS: number;
}

/** The air every known time refers to: 22 °C, 50 %, a still kitchen. */
export const REFERENCE_AIR: Air = { tempC: 22, humidityFrac: 0.5, airMPerS: 0.1 };

/** The same room with a fan on the tray: about 1 m/s, common practice, no published source. */
export const withFan = (air: Air, fanMPerS = 1): Air => ({ ...air, airMPerS: Math.max(air.airMPerS, fanMPerS) });
