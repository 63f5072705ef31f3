import type { Lot } from '../formats/plan.js';
import type { Pace } from '../steps/pace.js';
import { type Bag, bagKey, type Gap, type Step } from '../steps/step.js';
import type { Bundle } from './bundle.js';

/** When each step happens on each cookie of a visit, seconds from its start. */
export interface VisitTimes {
  readonly durationS: number;
  /** by step id: one entry a cookie */
  readonly startS: ReadonlyMap<string, readonly number[]>;
  readonly endS: ReadonlyMap<string, readonly number[]>;
  readonly way: 'colour-by-colour' | 'cookie-by-cookie';
  /** bags whose snip is cut wider meanwhile, so that what outlined now floods */
  readonly widened: readonly WidenedSnip[];
  /** a flood too large for its outline to melt into is outlined and flooded part by part, in so many; 1 in one go */
  readonly parts: number;
  /** bags that were put away are opened for so long before the first step; left out where none are */
  readonly openingS?: number;
  /** when the first part of a flood was laid, by step id and cookie: its wet work is counted from then */
  readonly firstPartS?: ReadonlyMap<string, readonly number[]>;
}

export interface WidenedSnip {
  readonly bag: Bag;
  readonly toMm: number;
  readonly startS: number;
  readonly endS: number;
}

/** One uninterrupted task of one person at one tray, with the moment of every step on every cookie. */
export interface Visit {
  readonly id: string;
  readonly lot: Lot;
  readonly bundle: Bundle;
  /** half-open range of cookies of the lot */
  readonly cookies: readonly [number, number];
  readonly times: VisitTimes;
}

/** How dams and floods of a visit take turns. */
export type DamOrder = 'dams-first' | 'section-by-section' | 'all-dams-first';

/** Longest a later step may end after an earlier one, both of the same visit. */
export interface InnerWindow {
  readonly from: string;
  readonly to: string;
  readonly maxS: number;
  readonly gap: Gap;
}

/**
 * A visit as it is worked: outline and flood each cookie, then the wet work colour by colour, or all of one cookie
 * before the next. Bags are open beforehand; picking up the next one costs a few seconds.
 */
export function runVisit(
  bundle: Bundle,
  k: number,
  way: VisitTimes['way'],
  pace: Pace,
  gaps: readonly Gap[],
  order: DamOrder = 'dams-first',
  widen: readonly Pick<WidenedSnip, 'bag' | 'toMm'>[] = [],
  parts = 1,
): VisitTimes {
  const startS = new Map<string, number[]>(bundle.steps.map((s) => [s.id, Array<number>(k).fill(0)]));
  const endS = new Map<string, number[]>(bundle.steps.map((s) => [s.id, Array<number>(k).fill(0)]));
  const inner = gaps.filter((g) => startS.has(g.from) && startS.has(g.to));
  let t = 0;
  const widened: WidenedSnip[] = [];
  const widenAll = () => {
    for (const w of widen) {
      widened.push({ ...w, startS: t, endS: t + pace.widenS });
      t += pace.widenS;
    }
  };
  let inHand: string | undefined;
  const pick = (bag: Bag | null) => {
    const key = bag ? bagKey(bag) : 'tool';
    // The first bag of a visit is taken up in the changeover before it.
    if (inHand !== undefined && key !== inHand) t += pace.bagPickUpS;
    inHand = key;
  };
  const doStep = (step: Step, cookie: number) => {
    pick(step.bag);
    for (const g of inner)
      if (g.to === step.id && g.minSeconds) t = Math.max(t, ((endS.get(g.from) as number[])[cookie] as number) + g.minSeconds);
    (startS.get(step.id) as number[])[cookie] = t;
    t += step.seconds;
    (endS.get(step.id) as number[])[cookie] = t;
  };
  const firstPartS = new Map<string, number[]>();
  /** The dam of a part of the flood, that part, and so on round it: each part runs into the one before while both are wet. */
  const doInParts = (dam: Step, flood: Step, cookie: number) => {
    const first = firstPartS.get(flood.id) ?? [];
    firstPartS.set(flood.id, first);
    for (let i = 0; i < parts; i++) {
      for (const step of [dam, flood]) {
        pick(step.bag);
        if (i === 0) (startS.get(step.id) as number[])[cookie] = t;
        t += step.seconds / parts;
        (endS.get(step.id) as number[])[cookie] = t;
      }
      first[cookie] ??= t;
    }
  };
  const doBase = (steps: readonly Step[], cookie: number) => {
    const floodOf = (dam: Step) => steps.find((s) => dam.kind === 'dam' && s.kind === 'flood' && s.part === dam.part);
    for (const s of steps) {
      const flood = parts > 1 ? floodOf(s) : undefined;
      if (flood) doInParts(s, flood, cookie);
      else if (!firstPartS.has(s.id)) doStep(s, cookie);
    }
  };
  const base = bundle.steps.filter((s) => !isWetMark(s));
  const dams = order === 'all-dams-first' ? base.filter((s) => s.kind === 'dam') : [];
  if (dams.length > 0)
    for (let i = 0; i < k; i++) {
      t += pace.handlingSPerCookie;
      for (const s of dams) doStep(s, i);
    }
  widenAll();
  // All dams of a cookie, then all floods: two changes of bag instead of two a section.
  if (order === 'dams-first') base.sort((a, b) => Number(a.kind === 'flood') - Number(b.kind === 'flood'));
  const rest = base.filter((s) => !dams.includes(s));
  const passes = wetPasses(bundle.steps);
  if (bundle.kind === 'outline') {
    for (const step of base)
      for (let i = 0; i < k; i++) {
        if (step === base[0]) t += pace.handlingSPerCookie;
        doStep(step, i);
      }
  } else if (way === 'colour-by-colour') {
    for (let i = 0; i < k; i++) {
      t += pace.handlingSPerCookie;
      doBase(rest, i);
    }
    for (const pass of passes) for (let i = 0; i < k; i++) for (const s of pass) doStep(s, i);
  } else {
    for (let i = 0; i < k; i++) {
      t += pace.handlingSPerCookie;
      doBase(rest, i);
      for (const pass of passes) for (const s of pass) doStep(s, i);
    }
  }
  return { durationS: Math.ceil(t), startS, endS, way, widened, parts, ...(firstPartS.size > 0 ? { firstPartS } : {}) };
}

export const isWetMark = (s: Step): boolean => s.kind === 'mark';

/** Passes over the cookies: marks of one bag together where the order in what they lie in does not forbid it. */
function wetPasses(steps: readonly Step[]): Step[][] {
  const out: Step[][] = [];
  const key = (s: Step) => (s.bag ? bagKey(s.bag) : 'scribe');
  let left = steps.filter(isWetMark);
  while (left.length > 0) {
    // Next in each body: nothing that lies in the same one is still to come before it.
    const ready = left.filter((s, i) => !left.slice(0, i).some((o) => o.inside.some((id) => s.inside.includes(id))));
    const pass = ready.filter((s) => key(s) === key(ready[0] as Step));
    out.push(pass);
    left = left.filter((s) => !pass.includes(s));
  }
  return out;
}

/**
 * How much earlier than the whole of it the first part of a flood was laid, seconds: its windows, counted from its end, are shorter by
 * that.
 */
export const firstPartLeadS = ({ firstPartS, endS }: VisitTimes, stepId: string): number =>
  Math.max(0, ...(firstPartS?.get(stepId) ?? []).map((first, i) => ((endS.get(stepId) as readonly number[])[i] as number) - first));

/** First window a visit breaks, with by how much; null where all hold on every cookie. */
export function brokenWindow(times: VisitTimes, windows: readonly InnerWindow[]): { window: InnerWindow; tookS: number } | null {
  for (const window of windows) {
    const from = times.firstPartS?.get(window.from) ?? (times.endS.get(window.from) as readonly number[]);
    const to = times.endS.get(window.to) as readonly number[];
    for (const [i, end] of to.entries()) {
      const tookS = end - (from[i] as number);
      if (tookS > window.maxS) return { window, tookS };
    }
  }
  return null;
}

export type LargestVisit =
  | { readonly fits: true; readonly k: number; readonly times: VisitTimes }
  | { readonly fits: false; readonly broken: { readonly window: InnerWindow; readonly tookS: number } };

/** Bags of a bundle that outline through a small snip and flood through a wider one. */
export function snipsToWiden(dams: readonly Step[], floods: readonly Step[]): Pick<WidenedSnip, 'bag' | 'toMm'>[] {
  const out = new Map<string, Pick<WidenedSnip, 'bag' | 'toMm'>>();
  for (const f of floods) {
    const toMm = f.openingMm ?? 0;
    const narrow = dams.some((d) => d.bag && f.bag && bagKey(d.bag) === bagKey(f.bag) && (d.openingMm ?? 0) < toMm);
    if (narrow && f.bag) out.set(bagKey(f.bag), { bag: f.bag, toMm: Math.max(toMm, out.get(bagKey(f.bag))?.toMm ?? 0) });
  }
  return [...out.values()];
}

/**
 * The largest group of cookies for which every window holds, and how to work it; or the window that one cookie already breaks.
 * Where one bag outlines and floods, the whole lot is outlined before its snip is widened, if its dams bear the wait; `widen` names
 * bags that outlined in a visit of their own before. Worked in parts, a large flood and its outline share the wide snip, cut before the
 * first group.
 */
export function largestVisit(
  bundle: Bundle,
  cookies: number,
  pace: Pace,
  gaps: readonly Gap[],
  windows: readonly InnerWindow[],
  widen: readonly Pick<WidenedSnip, 'bag' | 'toMm'>[] = [],
  isFirst = true,
): LargestVisit {
  const inside = snipsToWiden(
    bundle.steps.filter((s) => s.kind === 'dam'),
    bundle.steps.filter((s) => s.kind === 'flood'),
  );
  // A widened bag outlines no more: only where the whole lot is done in one visit is it worth it.
  const ordersOf = (k: number): DamOrder[] =>
    inside.length > 0 && cookies > 1 && k === cookies
      ? ['all-dams-first', 'dams-first', 'section-by-section']
      : ['dams-first', 'section-by-section'];
  let broken: { window: InnerWindow; tookS: number } | null = null;
  for (let k = cookies; k >= 1; k--) {
    for (const order of ordersOf(k)) {
      for (const way of ['colour-by-colour', 'cookie-by-cookie'] as const) {
        const times = runVisit(bundle, k, way, pace, gaps, order, order === 'all-dams-first' ? inside : widen);
        broken = brokenWindow(times, windows);
        if (!broken) return { fits: true, k, times };
      }
    }
  }
  if (melts(broken?.window)) {
    for (let parts = 2; parts <= MOST_PARTS; parts++) {
      const times = runVisit(bundle, 1, 'cookie-by-cookie', pace, gaps, 'section-by-section', isFirst ? [...inside, ...widen] : [], parts);
      const still = brokenWindow(times, windows);
      if (!still && partsMeet(bundle, times, windows)) return { fits: true, k: 1, times };
      // What stands in the way then is the wet work, not the outline.
      if (still && !melts(still.window)) broken = still;
    }
  }
  return { fits: false, broken: broken as { window: InnerWindow; tookS: number } };
}

/** Parts that a large flood may be worked in: each is a stretch of outline and what lies behind it. */
const MOST_PARTS = 8;
const melts = (window: InnerWindow | undefined): boolean => window?.gap.rule === 'outline-then-flood' && window.gap.maxState !== undefined;

/**
 * Whether each part is laid, with its outline, before the outline of the part before would have thickened: its flood, looser than any
 * outline, is wet for longer, so that both run together.
 */
const partsMeet = (bundle: Bundle, times: VisitTimes, windows: readonly InnerWindow[]): boolean =>
  windows.every((w) => {
    const flood = melts(w) && bundle.steps.find((s) => s.id === w.to);
    if (!flood) return true;
    const tookS = (times.endS.get(flood.id)?.[0] as number) - (times.startS.get(w.from)?.[0] as number);
    return tookS / times.parts <= w.maxS;
  });

/** A visit that opens bags for so many seconds before anything else: every step comes as much later. */
export function openingFirst(visit: Visit, openingS: number): Visit {
  const { times } = visit;
  const laterS = openingS - (times.openingS ?? 0);
  if (laterS === 0) return visit;
  const later = (of: ReadonlyMap<string, readonly number[]>) =>
    new Map([...of].map(([id, at]) => [id, at.map((s) => s + laterS)] as const));
  return {
    ...visit,
    times: {
      ...times,
      durationS: times.durationS + laterS,
      startS: later(times.startS),
      endS: later(times.endS),
      ...(times.firstPartS ? { firstPartS: later(times.firstPartS) } : {}),
      widened: times.widened.map((w) => ({ ...w, startS: w.startS + laterS, endS: w.endS + laterS })),
      openingS,
    },
  };
}
