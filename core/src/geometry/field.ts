/** No place of a field is as far as this. */
export const UNKNOWN = 1e12;

/** From 0 to 1 with level ends: 0 up to 0, 1 from 1 on. */
export const smoothstep = (t: number): number => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));

/**
 * Turns a field of squared distances, known at some places and {@link UNKNOWN} at the others, into the least squared
 * distance to any of those (grid units), in place: the exact transform of Felzenszwalb & Huttenlocher, Theory of Computing 8, 2012.
 */
export function toSquaredDistances(f: Float64Array, width: number, height: number): void {
  const n = Math.max(width, height);
  const line = new Float64Array(n);
  const v = new Int32Array(n);
  const z = new Float64Array(n + 1);
  for (let x = 0; x < width; x++) transform(f, x, width, height, line, v, z);
  for (let y = 0; y < height; y++) transform(f, y * width, 1, width, line, v, z);
}

function transform(f: Float64Array, offset: number, stride: number, n: number, line: Float64Array, v: Int32Array, z: Float64Array): void {
  for (let q = 0; q < n; q++) line[q] = f[offset + q * stride] as number;
  v[0] = 0;
  z[0] = -UNKNOWN;
  z[1] = UNKNOWN;
  let k = 0;
  for (let q = 1; q < n; q++) {
    let s: number;
    do {
      const r = v[k] as number;
      s = ((line[q] as number) - (line[r] as number) + q * q - r * r) / (2 * (q - r));
    } while (s <= (z[k] as number) && --k > -1);
    k++;
    v[k] = q;
    z[k] = s;
    z[k + 1] = UNKNOWN;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while ((z[k + 1] as number) < q) k++;
    const r = v[k] as number;
    f[offset + q * stride] = (line[r] as number) + (q - r) * (q - r);
  }
}

/** Blurred by a box, three times over, which is nearly a bell of this spread (pixels). In place. */
export function blurred(data: Float32Array, w: number, h: number, spreadPx: number): Float32Array {
  const r = Math.max(0, Math.round((Math.sqrt(4 * spreadPx * spreadPx + 1) - 1) / 2));
  if (r === 0) return data;
  const line = new Float32Array(Math.max(w, h));
  for (let pass = 0; pass < 3; pass++) {
    for (let y = 0; y < h; y++) boxed(data, y * w, 1, w, r, line);
    for (let x = 0; x < w; x++) boxed(data, x, w, h, r, line);
  }
  return data;
}

/** A running mean; beyond the ends there is nothing. */
function boxed(data: Float32Array, offset: number, stride: number, n: number, r: number, line: Float32Array): void {
  let sum = 0;
  for (let i = 0; i < Math.min(r, n); i++) sum += data[offset + i * stride] as number;
  for (let i = 0; i < n; i++) {
    if (i + r < n) sum += data[offset + (i + r) * stride] as number;
    if (i - r - 1 >= 0) sum -= data[offset + (i - r - 1) * stride] as number;
    line[i] = sum / (2 * r + 1);
  }
  for (let i = 0; i < n; i++) data[offset + i * stride] = line[i] as number;
}
