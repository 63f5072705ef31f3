import { besselK } from './bessel.js';

/** Further from the pin than this only C₁/r is left of f, and nothing is looked up. */
export const TABLE_MM = 30;
/** Table entries a millimetre; between them the values are joined by straight lines, good to about 1e-6. */
const PER_MM = 100;

/** The flow round a scribe, by distance from its axis: what `v = f′·d + (f/r − f′)(d·r̂)·r̂` needs. */
export interface ScribeFlow {
  readonly radiusMm: number;
  readonly lambdaMm: number;
  readonly c1: number;
  /** f/r and f′ at radius + i/PER_MM up to {@link TABLE_MM}, both 1 at the scribe's skin */
  readonly along: Float64Array;
  readonly across: Float64Array;
  /**
   * What a pin that passes has moved a place that stays about where it is: ∫ of the flow along the pin's way, by how far the
   * place lies ahead of the pin (rows of {@link PASSED_COLUMNS}, from −30 to 30 mm) and beside its way (0 to 30 mm). Along
   * the way, away from it, and the stream function.
   */
  readonly passedAlong: Float32Array;
  readonly passedAside: Float32Array;
  readonly passedPsi: Float32Array;
}

/** The tables of what has passed, four entries a millimetre. */
export const PASSED_PER_MM = 4;
export const PASSED_COLUMNS = 2 * TABLE_MM * PASSED_PER_MM + 1;
export const PASSED_ROWS = TABLE_MM * PASSED_PER_MM + 1;

/** How far the ground lets a motion be felt beside it: λ = 2h/π, the lowest mode across the depth, mm. */
export const screeningMm = (depthMm: number): number => (2 * depthMm) / Math.PI;

/** Constants of the closed form for a scribe of radius a (mm) in icing h deep (mm). */
export function brinkmanConstants(
  radiusMm: number,
  depthMm: number,
): { readonly lambdaMm: number; readonly c1: number; readonly c2: number } {
  const lambdaMm = screeningMm(depthMm);
  const k0 = besselK(0, radiusMm / lambdaMm);
  const k1 = besselK(1, radiusMm / lambdaMm);
  return { lambdaMm, c1: radiusMm * radiusMm + (2 * radiusMm * lambdaMm * k1) / k0, c2: (-2 * lambdaMm) / k0 };
}

/**
 * Slow flow in a layer that clings to its ground and is free above, averaged over its depth (Brinkman 1947): beyond a
 * screening length λ = 2h/π the ground holds it. A scribe of radius a moving along x at speed U carries the icing with
 * it for r ≤ a; outside ψ = U f(r) sin θ with f = C₁/r + C₂ K₁(r/λ), from v = U on r = a.
 * Nothing cuts it off: what is pushed ahead flows back over the whole breadth, and a flow that ended at some distance would
 * have to send all of it back along that rim (tried: 1 mm of shear 27 mm beside a pull of 30 mm; the test has it).
 * The same closed form as for discs in supported membranes (Evans & Sackmann, J. Fluid Mech. 194, 1988). Derived in
 * docs/model.md.
 */
export function scribeFlow(radiusMm: number, depthMm: number): ScribeFlow {
  const key = `${radiusMm} ${depthMm}`;
  const found = known.get(key);
  if (found) return found;
  const { lambdaMm, c1, c2 } = brinkmanConstants(radiusMm, depthMm);
  const n = Math.ceil((TABLE_MM - radiusMm) * PER_MM) + 2;
  const along = new Float64Array(n);
  const across = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const r = radiusMm + i / PER_MM;
    // Past forty screening lengths K is nothing beside C₁/r.
    const z = r / lambdaMm;
    const [k0, k1] = z > 40 ? [0, 0] : [besselK(0, z), besselK(1, z)];
    const f = c1 / r + c2 * k1;
    const slope = -c1 / (r * r) - (c2 / lambdaMm) * (k0 + k1 / z);
    along[i] = f / r;
    across[i] = slope;
  }
  const flow = { radiusMm, lambdaMm, c1, along, across, ...passed(radiusMm, c1, along, across) };
  if (known.size > 40) known.clear();
  known.set(key, flow);
  return flow;
}

/** The flow summed up along straight lines beside the pin's way (trapezoid rule, twenty steps a millimetre). */
function passed(
  radiusMm: number,
  c1: number,
  along: Float64Array,
  across: Float64Array,
): Pick<ScribeFlow, 'passedAlong' | 'passedAside' | 'passedPsi'> {
  const size = PASSED_COLUMNS * PASSED_ROWS;
  const [passedAlong, passedAside, passedPsi] = [new Float32Array(size), new Float32Array(size), new Float32Array(size)];
  const fine = 5;
  const h = 1 / (PASSED_PER_MM * fine);
  for (let row = 0; row < PASSED_ROWS; row++) {
    const b = row / PASSED_PER_MM;
    // Begun with what passed beyond the table: there it is C₁/r alone, which has its antiderivative.
    const far = TABLE_MM * TABLE_MM + b * b;
    let [u, w, psi] = [(c1 * TABLE_MM) / far, (-c1 * b) / far, c1 * Math.atan2(-TABLE_MM, b)];
    let [lastU, lastW, lastPsi] = [0, 0, 0];
    for (let k = 0; k < (PASSED_COLUMNS - 1) * fine + 1; k++) {
      const x = -TABLE_MM + k * h;
      const r = Math.sqrt(x * x + b * b);
      let [a, c] = [1, 1];
      if (r > radiusMm) {
        const at = (r - radiusMm) * PER_MM;
        const i = Math.floor(at);
        a = i >= along.length - 1 ? c1 / (r * r) : (along[i] as number) + (at - i) * ((along[i + 1] as number) - (along[i] as number));
        c = i >= along.length - 1 ? -c1 / (r * r) : (across[i] as number) + (at - i) * ((across[i + 1] as number) - (across[i] as number));
      }
      const radial = r === 0 ? 0 : ((a - c) * x) / (r * r);
      const [nowU, nowW, nowPsi] = [c + radial * x, radial * b, a * b];
      if (k > 0) {
        u += (h / 2) * (lastU + nowU);
        w += (h / 2) * (lastW + nowW);
        psi += (h / 2) * (lastPsi + nowPsi);
      }
      [lastU, lastW, lastPsi] = [nowU, nowW, nowPsi];
      if (k % fine === 0) {
        const j = row * PASSED_COLUMNS + k / fine;
        passedAlong[j] = u;
        passedAside[j] = w;
        passedPsi[j] = psi;
      }
    }
  }
  return { passedAlong, passedAside, passedPsi };
}

const known = new Map<string, ScribeFlow>();

/** Index and share between table entries of a distance beyond the scribe's skin. */
export const TABLE_PER_MM = PER_MM;
