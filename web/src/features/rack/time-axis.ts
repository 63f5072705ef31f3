import type { Plan } from '@kestfog/core/formats';
import { type ScaleLinear, scaleLinear } from 'd3-scale';

/** A stretch in which nobody has to do anything, drawn narrow. */
export interface Fold {
  readonly fromS: number;
  readonly toS: number;
  /** the bench is closed during part of it */
  readonly night: boolean;
}

export interface TimeAxis {
  readonly scale: ScaleLinear<number, number>;
  readonly folds: readonly Fold[];
  readonly ticks: readonly number[];
  readonly width: number;
}

const FOLD_LONGER_THAN_S = 45 * 60;
const AROUND_S = 8 * 60;
const FOLD_PX = 96;
const MIN_PX_PER_S = 2 / 60;
const TICK_STEPS_S = [300, 600, 900, 1800, 3600] as const;
const TICK_PX = 62;
/** Room behind the end for the clock of the last tick. */
const LAST_CLOCK_PX = 44;

/**
 * Time from left to right with long idle stretches folded: drying through the night would otherwise leave a hand's
 * breadth for the evening's work. `zoom` stretches what is not folded.
 */
export const foldedAxis = (plan: Plan, width: number, zoom = 1): TimeAxis =>
  foldedAxisOf(
    [...plan.tasks, ...plan.stays],
    (fromS, toS) => !plan.openingHours.some(([from, to]) => from <= fromS && toS <= to),
    width,
    zoom,
  );

/** The same for anything that takes time: `isNight` says of an idle stretch whether the bench was closed in it. */
export function foldedAxisOf(
  what: readonly { readonly startS: number; readonly endS: number }[],
  isNight: (fromS: number, toS: number) => boolean,
  width: number,
  zoom = 1,
): TimeAxis {
  const first = Math.min(...what.map((t) => t.startS), Number.POSITIVE_INFINITY);
  const last = Math.max(first + 60, ...what.map((t) => t.endS));
  const busy: { fromS: number; toS: number }[] = [];
  const spans = what.map((t) => ({ fromS: t.startS - AROUND_S, toS: t.endS + AROUND_S })).sort((a, b) => a.fromS - b.fromS);
  for (const s of spans) {
    const open = busy.at(-1);
    if (open && s.fromS - open.toS < FOLD_LONGER_THAN_S - 2 * AROUND_S) open.toS = Math.max(open.toS, s.toS);
    else busy.push({ ...s });
  }
  (busy[0] as { fromS: number }).fromS = Math.min(first, (busy[0] as { fromS: number }).fromS + AROUND_S);
  (busy.at(-1) as { toS: number }).toS = last + AROUND_S / 2;
  const folds: Fold[] = busy.slice(1).map((b, i) => {
    const fromS = (busy[i] as { toS: number }).toS;
    return { fromS, toS: b.fromS, night: isNight(fromS, b.fromS) };
  });
  const busyS = busy.reduce((s, b) => s + b.toS - b.fromS, 0);
  const pxPerS = Math.max(MIN_PX_PER_S, (width - LAST_CLOCK_PX - folds.length * FOLD_PX) / busyS) * zoom;
  const domain: number[] = [];
  const range: number[] = [];
  let x = 0;
  for (const [i, b] of busy.entries()) {
    if (i > 0) x += FOLD_PX;
    domain.push(b.fromS, b.toS);
    range.push(x, x + (b.toS - b.fromS) * pxPerS);
    x = range.at(-1) as number;
  }
  const step = TICK_STEPS_S.find((s) => s * pxPerS >= TICK_PX) ?? 3600;
  const ticks = busy.flatMap((b) => {
    const out: number[] = [];
    for (let t = Math.ceil(b.fromS / step) * step; t <= b.toS; t += step) out.push(t);
    return out;
  });
  return { scale: scaleLinear().domain(domain).range(range), folds, ticks, width: Math.ceil(x) + LAST_CLOCK_PX };
}
