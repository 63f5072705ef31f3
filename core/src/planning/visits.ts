import { taskIdOf } from '../formats/ids.js';
import type { Lot, TimedGap } from '../formats/plan.js';
import type { StepGraph } from '../steps/derive.js';
import type { Pace } from '../steps/pace.js';
import { bagKey } from '../steps/step.js';
import { whyOf } from '../steps/why.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { type Bundle, bundlesOf } from './bundle.js';
import { bagsOfGraph } from './open-bags.js';
import { separation } from './separation.js';
import {
  type InnerWindow,
  isWetMark,
  largestVisit,
  runVisit,
  snipsToWiden,
  type Visit,
  type VisitTimes,
  type WidenedSnip,
} from './visit.js';

/**
 * Splits each bundle of a lot into the largest groups whose windows hold on every cookie. Where a window spans two
 * bundles (crackling a crust), both are split alike, small enough that the last cookie's window still meets the first's.
 */
export function visitsOf(lot: Lot, graph: StepGraph, timed: readonly TimedGap[], pace: Pace, designName: string): Visit[] {
  const bundles = bundlesOf(graph);
  const widen = widenedBefore(bundles);
  const worked = bundles.map((bundle) => {
    const ids = new Set(bundle.steps.map((s) => s.id));
    const windows: InnerWindow[] = timed
      .filter((t) => t.maxS !== null && ids.has(t.gap.from) && ids.has(t.gap.to))
      .map((t) => ({ from: t.gap.from, to: t.gap.to, maxS: t.maxS as number, gap: t.gap }));
    const largest = largestVisit(bundle, lot.cookies, pace, graph.gaps, windows, widen.get(bundle));
    if (!largest.fits) throw tooSlow(bundle, largest.broken.window, largest.broken.tookS, designName);
    return { bundle, ids, windows, k: largest.k, way: largest.times.way };
  });
  const timesOf = (w: (typeof worked)[number], k: number, isFirst = true): VisitTimes => {
    // A snip is cut wider once, before the first group.
    const snips = isFirst ? widen.get(w.bundle) : [];
    // Equal groups are never larger than the largest that fits, so the way of working that fitted it still does.
    const fitting = largestVisit(w.bundle, k, pace, graph.gaps, w.windows, snips, isFirst);
    return fitting.fits && fitting.k === k ? fitting.times : runVisit(w.bundle, k, w.way, pace, graph.gaps, 'dams-first', snips);
  };
  for (const t of timed.filter((x) => x.maxS !== null)) {
    const from = worked.find((w) => w.ids.has(t.gap.from));
    const to = worked.find((w) => w.ids.has(t.gap.to));
    if (!from || !to || from === to) continue;
    const fits = (k: number) => {
      const visit = (w: typeof from) => ({ lot, bundle: w.bundle, cookies: [0, k] as const, times: timesOf(w, k) });
      const s = separation(visit(from), visit(to), t);
      return s === null || s.minS === null || s.maxS === null || s.minS <= s.maxS;
    };
    let k = Math.min(from.k, to.k);
    while (k > 1 && !fits(k)) k -= 1;
    if (!fits(k)) throw neverMeets(t, designName);
    from.k = k;
    to.k = k;
  }
  const out: Visit[] = [];
  for (const w of worked) {
    const { bundle } = w;
    const opened = bundle.kind === 'prepare' ? bagsOfGraph(graph).length * pace.openBagS : 0;
    const groups = Math.ceil(lot.cookies / w.k);
    let from = 0;
    for (let g = 0; g < groups; g++) {
      const to = Math.round(((g + 1) * lot.cookies) / groups);
      const times = timesOf(w, to - from, g === 0);
      out.push({
        id: taskIdOf(lot.id, bundle.id, groups > 1 ? g + 1 : null),
        lot,
        bundle,
        cookies: [from, to],
        times: opened ? { ...times, durationS: Math.ceil(times.durationS + opened) } : times,
      });
      from = to;
    }
  }
  return out;
}

/** Bags that outlined in a visit of their own, by the bundle that floods from them first. */
function widenedBefore(bundles: readonly Bundle[]): ReadonlyMap<Bundle, Pick<WidenedSnip, 'bag' | 'toMm'>[]> {
  const dams = bundles.filter((b) => b.kind === 'outline').flatMap((b) => b.steps);
  const done = new Set<string>();
  return new Map(
    bundles
      .filter((b) => b.kind === 'wet')
      .sort((a, b) => a.round - b.round || a.batch - b.batch)
      .map((b) => {
        const floods = b.steps.filter((s) => s.kind === 'flood');
        const snips = snipsToWiden(dams, floods).filter((w) => !done.has(bagKey(w.bag)));
        for (const w of snips) done.add(bagKey(w.bag));
        return [b, snips];
      }),
  );
}

function neverMeets(t: TimedGap, designName: string): NoAnswer {
  return new NoAnswer(
    'window-too-short',
    msg`${designName}: a window of ${clock((t.maxS ?? 0) - t.minS)} is too short for one cookie: work a smaller area, or choose a bolder
      margin.`,
    { windowS: (t.maxS ?? 0) - t.minS, why: whyOf(t.gap) },
  );
}

const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

function tooSlow(bundle: Bundle, window: InnerWindow, tookS: number, designName: string): NoAnswer {
  const isFlood = window.gap.rule === 'outline-then-flood';
  const colours = isFlood ? 0 : new Set(bundle.steps.filter(isWetMark).map((s) => (s.bag ? bagKey(s.bag) : 'scribe'))).size;
  // Rounded against each other, so that what does not fit never looks as if it did.
  const took = clock(Math.ceil(tookS));
  const work =
    colours > 1
      ? msg`${colours} passes of wet work take ${took}`
      : colours === 1
        ? msg`one pass of wet work takes ${took}`
        : msg`flooding takes ${took}`;
  return new NoAnswer(
    'window-too-short',
    msg`${designName}: ${work} on one cookie and the window is ${clock(window.maxS)}: loosen the icing, drop a colour, or choose a bolder
      margin.`,
    { tookS: Math.ceil(tookS), windowS: window.maxS, why: whyOf(window.gap) },
  );
}
