import { kelvinFromCelsius } from '../units/quantities.js';
import type { Air } from './air.js';
import { STANDARD_PRESSURE_PA, saturationPressurePa, vapourPressurePa } from './psychrometrics.js';

/** Water activity of the sucrose-saturated surface: Norrish 1966 gives 0.851 at 22 °C; held constant: *assumed*. */
export const SURFACE_WATER_ACTIVITY = 0.85;
const LATENT_HEAT_J_PER_KG = 2.45e6;
/** Linearised radiation between icing and room, *assumed*. */
const RADIATION_W_PER_M2K = 5.5;
/** Lewis number of water vapour in air, Incropera & DeWitt. */
const LEWIS = 0.87;
const PRANDTL = 0.71;
const AIR_CP_J_PER_KGK = 1006;
const AIR_GAS_CONSTANT_J_PER_KGK = 287.05;
const GAS_CONSTANT_J_PER_MOLK = 8.314462618;
const WATER_KG_PER_MOL = 0.01801528;
/** Natural convection left over a tray in still air, *assumed*. */
const FREE_CONVECTION_M_PER_S = 0.08;
/** Characteristic length of a cookie along the air stream. */
export const DEFAULT_COOKIE_LENGTH_M = 0.09;

export interface Evaporation {
  /** kg of water lost by a square metre each second while the surface is free; 0 where it cannot dry */
  readonly fluxKgPerM2S: number;
  readonly surfaceTempC: number;
  /** a_w·p_sat(T_a) − p_a in Pa, at the air's temperature so that it stays monotone */
  readonly driveAtAirPa: number;
}

/** Dynamic viscosity of air, Sutherland's law (White, Viscous Fluid Flow, table 1-2). */
function airViscosityPaS(tempK: number): number {
  return 1.716e-5 * (tempK / 273.15) ** 1.5 * ((273.15 + 110.4) / (tempK + 110.4));
}

/** Convective heat transfer over a short laminar plate: Nu = 0.664 Re^½ Pr^⅓ (Incropera & DeWitt, eq. 7.30). */
export function convectionWPerM2K(air: Air, lengthM: number, filmK: number): number {
  const speed = Math.hypot(air.airMPerS, FREE_CONVECTION_M_PER_S);
  const density = STANDARD_PRESSURE_PA / (AIR_GAS_CONSTANT_J_PER_KGK * filmK);
  const viscosity = airViscosityPaS(filmK);
  const conductivity = (viscosity * AIR_CP_J_PER_KGK) / PRANDTL;
  const reynolds = (density * speed * lengthM) / viscosity;
  return (0.664 * Math.sqrt(reynolds) * Math.cbrt(PRANDTL) * conductivity) / lengthM;
}

/**
 * Constant-rate evaporation from a wet icing surface: heat drawn from air and room balances the vapour that leaves.
 * Mass transfer by the Chilton–Colburn analogy, k_m = h_c / (ρ c_p Le^⅔).
 */
export function evaporationInAir(air: Air, lengthM: number = DEFAULT_COOKIE_LENGTH_M): Evaporation {
  const vapourPa = vapourPressurePa(air.tempC, air.humidityFrac);
  const driveAtAirPa = SURFACE_WATER_ACTIVITY * saturationPressurePa(air.tempC) - vapourPa;
  if (driveAtAirPa <= 0) return { fluxKgPerM2S: 0, surfaceTempC: air.tempC, driveAtAirPa };

  const airK = kelvinFromCelsius(air.tempC);
  const at = (surfaceC: number) => {
    const filmK = (airK + kelvinFromCelsius(surfaceC)) / 2;
    const heat = convectionWPerM2K(air, lengthM, filmK);
    const density = STANDARD_PRESSURE_PA / (AIR_GAS_CONSTANT_J_PER_KGK * filmK);
    const massTransferMPerS = heat / (density * AIR_CP_J_PER_KGK * LEWIS ** (2 / 3));
    const drivePa = SURFACE_WATER_ACTIVITY * saturationPressurePa(surfaceC) - vapourPa;
    const flux = (massTransferMPerS * WATER_KG_PER_MOL * drivePa) / (GAS_CONSTANT_J_PER_MOLK * filmK);
    return { flux, surplusW: (heat + RADIATION_W_PER_M2K) * (air.tempC - surfaceC) - LATENT_HEAT_J_PER_KG * flux };
  };
  // The surplus falls strictly as the surface warms, so halving the bracket is safe; 60 halvings reach rounding error.
  let lowC = air.tempC - 60;
  let highC = air.tempC;
  for (let i = 0; i < 60; i++) {
    const midC = (lowC + highC) / 2;
    if (at(midC).surplusW > 0) lowC = midC;
    else highC = midC;
  }
  const surfaceTempC = (lowC + highC) / 2;
  return { fluxKgPerM2S: Math.max(0, at(surfaceTempC).flux), surfaceTempC, driveAtAirPa };
}
