import { MM_PER_INCH, PC_PER_INCH, PT_PER_INCH, PX_PER_INCH } from '../units/quantities.js';

const MM_PER_UNIT: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  q: 0.25,
  in: MM_PER_INCH,
  pt: MM_PER_INCH / PT_PER_INCH,
  pc: MM_PER_INCH / PC_PER_INCH,
  px: MM_PER_INCH / PX_PER_INCH,
  '': MM_PER_INCH / PX_PER_INCH,
};

/** An absolute SVG length in mm; null for per cent, em and anything else that has no size of its own. */
export function lengthMm(text: string | undefined): number | null {
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '');
  if (!m) return null;
  const perUnit = MM_PER_UNIT[(m[2] as string).toLowerCase()];
  return perUnit === undefined ? null : Number(m[1]) * perUnit;
}

/** A number of user units; `fallback` where absent or not a number. */
export function userUnits(text: string | undefined, fallback = 0): number {
  const n = Number.parseFloat(text ?? '');
  return Number.isFinite(n) ? n : fallback;
}
