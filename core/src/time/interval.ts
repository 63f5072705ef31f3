/** Half-open span of time in whole seconds: `from` belongs to it, `to` does not. */
export interface Interval {
  readonly fromS: number;
  readonly toS: number;
}

/** The largest whole second a file may name; a span that ends here never ends. */
export const END_OF_TIME_S = Number.MAX_SAFE_INTEGER;

/** Sorts and joins spans that overlap or meet. */
export function mergeIntervals(spans: readonly Interval[]): Interval[] {
  const sorted = spans.filter((s) => s.toS > s.fromS).sort((a, b) => a.fromS - b.fromS);
  const out: { fromS: number; toS: number }[] = [];
  for (const s of sorted) {
    const last = out.at(-1);
    if (last && s.fromS <= last.toS) last.toS = Math.max(last.toS, s.toS);
    else out.push({ fromS: s.fromS, toS: s.toS });
  }
  return out;
}

/** What lies between the open spans, from second 0 on: the closed hours of a bench whose open hours are given. */
export function complementIntervals(open: readonly Interval[]): Interval[] {
  const out: Interval[] = [];
  let atS = 0;
  for (const s of mergeIntervals(open)) {
    if (s.fromS > atS) out.push({ fromS: atS, toS: s.fromS });
    atS = Math.max(atS, s.toS);
  }
  if (atS < END_OF_TIME_S) out.push({ fromS: atS, toS: END_OF_TIME_S });
  return out;
}
