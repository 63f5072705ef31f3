import { msg } from '../words/index.js';
import { type AirPiece, secondsToLoseThrough } from './front.js';
import { BEAD_DEPTH_PER_BORE, type Region } from './state.js';
import { type Factors, PRIOR_FACTORS, thresholdsHere } from './uncertainty.js';

/**
 * Risks of defects, 0–1, each with its reasons and the one change that lowers it most. Weights are *assumed*, tuned to
 * what the trade tells (no published source), monotone in every driver, to be refitted on the user's notebook.
 */
export interface Risk {
  readonly risk: number;
  readonly word: 'low' | 'watch' | 'likely';
  /** drivers that add to it, strongest first */
  readonly reasons: readonly string[];
  readonly bestChange: string | null;
}

interface Driver {
  readonly weight: number;
  readonly reason: string;
  readonly change: string | null;
}

function judged(base: number, drivers: readonly Driver[]): Risk {
  const risk = 1 / (1 + Math.exp(-(base + drivers.reduce((s, d) => s + d.weight, 0))));
  const active = drivers.filter((d) => d.weight > 0.05).sort((a, b) => b.weight - a.weight);
  return {
    risk,
    word: risk >= 0.5 ? 'likely' : risk >= 0.2 ? 'watch' : 'low',
    reasons: active.map((d) => d.reason),
    bestChange: active.find((d) => d.change)?.change ?? null,
  };
}
const above = (x: number, from: number, per: number) => Math.max(0, (x - from) / per);

export interface PoolCase {
  readonly inscribedDiameterMm: number;
  readonly region: Region;
  /** air it stands in from when it is laid, the last piece endless; warm air for the first minutes is what saves small pools */
  readonly airs: readonly AirPiece[];
  readonly underfilled: boolean;
  readonly neighbourDry: boolean;
  /** what was learned of this kitchen's thresholds */
  readonly factors?: Factors;
}

/** Cave-in of a small pool that stays wet too long. */
export function craterRisk(c: PoolCase): Risk {
  const skinMin = secondsToLoseThrough(c.airs, thresholdsHere(c.region, c.factors ?? PRIOR_FACTORS).skinned) / 60;
  // A large pool bears its own surface; small ones hang from their edges.
  const small = above(12, c.inscribedDiameterMm, 4);
  // Loose and slow icing caves in where a pool is small; a wide field levels out again.
  const hangs = 0.25 + 0.75 * Math.min(1, small);
  return judged(-3.2, [
    {
      weight: 2.2 * Math.min(2.5, small),
      reason: msg`a pool of ${c.inscribedDiameterMm.toFixed(0)} mm hangs from its edges`,
      change: msg`flood it thicker, a few pools at a time`,
    },
    {
      weight: 1.6 * hangs * Math.min(3, above(18, c.region.seconds, 6)),
      reason: msg`icing of ${c.region.seconds} s is loose`,
      change: msg`use icing of 20 s`,
    },
    {
      weight: 0.25 * hangs * Math.min(6, above(Math.min(skinMin, 240), 5, 1)),
      reason: msg`it is slow to skin`,
      change: msg`three minutes of warm air at 35 °C at once`,
    },
    { weight: 0.5 * above(Math.min(c.region.depthMm, 6), 2.5, 1), reason: msg`it is deep`, change: msg`flood it shallower` },
    { weight: c.underfilled ? 0.9 : 0, reason: msg`it is underfilled`, change: msg`fill to a dome` },
    {
      weight: c.neighbourDry ? 0.5 : 0,
      reason: msg`a neighbour has dried through`,
      change: msg`flood it while its neighbour is set, not dry`,
    },
  ]);
}

export interface BoundaryCase {
  /** CIEDE2000 across the boundary */
  readonly difference: number;
  /** |ΔL*| across it */
  readonly lightnessStep: number;
  /** chroma of the stronger colour */
  readonly chroma: number;
  /** seconds the earlier side had dried when the later was flooded, and what *set* takes there */
  readonly gapS: number;
  readonly setS: number;
  /** seconds until the later side has crusted */
  readonly crustAfterS: number;
}

/** Colour wandering across a boundary, seen hours later. */
export function bleedRisk(c: BoundaryCase): Risk {
  const strong = Math.min(1.5, c.difference / 50) + Math.min(0.8, c.lightnessStep / 100) + Math.min(0.8, c.chroma / 100);
  const dryShare = c.setS > 0 ? Math.min(1.5, c.gapS / c.setS) : 1.5;
  return judged(-4.2, [
    { weight: 2.4 * strong, reason: msg`strong colour meets a pale one`, change: null },
    {
      weight: 2.6 * (1 - Math.min(1, dryShare)) * Math.min(1, strong),
      reason: msg`the first side had not set`,
      change: msg`wait until the first side is set`,
    },
    { weight: -3.2 * Math.min(1.5, dryShare), reason: msg`the first side had set`, change: null },
    {
      weight: 0.6 * Math.min(2, above(c.crustAfterS, 1800, 1800)),
      reason: msg`the later side dries slowly`,
      change: msg`put the tray before the fan afterwards`,
    },
  ]);
}

/** Creases from shaking while a neighbour is skinned over wet icing. */
export function ridgesRisk(c: { readonly levelling: 'shake' | 'tap' | 'scribe'; readonly neighbourLossShare: number }): Risk {
  // Share of *firm* lost: nothing to crease before it skins, nothing left to move once firm.
  const crusty = Math.max(0, Math.min(1, c.neighbourLossShare / 0.08)) * Math.max(0, Math.min(1, (1 - c.neighbourLossShare) / 0.3));
  const force = { shake: 1, tap: 0.35, scribe: 0 }[c.levelling];
  return judged(-3, [
    { weight: 4.5 * crusty * force, reason: msg`shaking moves a crust that lies on wet icing`, change: msg`level with the scribe, or pat` },
  ]);
}

export interface OverflowCase {
  /** up to the line it may not cross */
  readonly areaMm2: number;
  readonly inscribedDiameterMm: number;
  readonly floodMl: number;
  readonly wetDetailsMl: number;
  readonly damBoreMm: number;
  /** rings of the dam; none, one, or a second laid against the first */
  readonly rings: 0 | 1 | 2;
}
/** A second ring rides on the shoulder of the first and stands half as high again: *assumed*. */
const SECOND_RING = 0.5;
/**
 * How far a liquid stands above an edge it is held at: 2 √(γ/ρg) sin(θ/2) (a heavy puddle; de Gennes, Brochard-Wyart, Quéré,
 * Capillarity and Wetting Phenomena, §2.2, from memory). γ as of water, 0.072 N/m, ρ = 1400 kg/m³; θ = 45° *assumed*.
 */
const CAPILLARY_LENGTH_MM = 1000 * Math.sqrt(0.072 / (1400 * 9.81));
const HELD_AT_RAD = Math.PI / 4;
const PUDDLE_MM = 2 * CAPILLARY_LENGTH_MM * Math.sin(HELD_AT_RAD / 2);

/** Mean height of the dome above the edge of a pool: a cap where it is small, a puddle where it is wide. Millimetres. */
export const domeMm = (inscribedDiameterMm: number): number => Math.min(PUDDLE_MM, (inscribedDiameterMm / 4) * Math.tan(HELD_AT_RAD / 2));

/** Icing running over its dam: what goes in against what the dam holds. */
export function overflowRisk(c: OverflowCase): Risk {
  const damMm = c.rings === 0 ? 0 : BEAD_DEPTH_PER_BORE * c.damBoreMm * (1 + SECOND_RING * (c.rings - 1));
  const holdsMl = (c.areaMm2 * (damMm + domeMm(c.inscribedDiameterMm))) / 1000;
  const share = (c.floodMl + c.wetDetailsMl) / holdsMl;
  return judged(-4, [
    {
      weight: 6 * Math.min(3, Math.max(0, share - 0.7)),
      reason: msg`it is filled to ${Math.round(share * 100)} % of what ${c.rings > 0 ? msg`the dam` : msg`its edge`} holds`,
      change: c.wetDetailsMl > 0 ? msg`underfill by what the wet details add` : msg`flood it shallower or pipe a thicker dam`,
    },
    { weight: c.rings > 0 ? 0 : 0.8, reason: msg`no dam holds it`, change: msg`stop 1–2 mm short of the edge` },
  ]);
}

/** Denting by touch before its state: `lossShare` is what was lost of what the touch needs. */
export function dentRisk(c: { readonly lossShare: number; readonly pressing: boolean }): Risk {
  return judged(-4, [
    {
      weight: 7 * Math.max(0, 1.2 - Math.min(1.2, c.lossShare)) * (c.pressing ? 1 : 0.7),
      reason: msg`it is touched before its surface bears it`,
      change: msg`wait until it bears the touch`,
    },
  ]);
}
