import { type DryingState, dryingRate, dryingStates, REFERENCE_AIR, secondsToLose } from '../src/drying/index.js';
import type { Gap, Step, StepGraph } from '../src/steps/index.js';

/** What must hold on one cookie, as a decorator would say it (core/test/fixtures/cards/cards.json). */
export interface Card {
  readonly school?: string;
  readonly before?: readonly (readonly [string, string, (string | number | null)?, (number | null)?])[];
  readonly together?: readonly (readonly string[])[];
  readonly apart?: readonly (readonly [string, string])[];
  readonly guidesFirst?: Readonly<Record<string, readonly string[]>>;
  readonly sugarLast?: readonly string[];
  readonly dams?: Readonly<Record<string, { readonly colour?: string; readonly none?: boolean; readonly doubleOf?: string }>>;
  readonly smallAtOnce?: readonly { readonly ids: readonly string[]; readonly max: number }[];
  readonly notLongerThan?: readonly {
    readonly ids: readonly string[];
    readonly after?: string;
    readonly minutes: number;
    readonly school?: string;
  }[];
  readonly rounds?: { readonly max: number };
  readonly bySchool?: Readonly<Record<string, Card>>;
}

const rank = (s: string) => dryingStates.indexOf(s as DryingState);
const isFlood = (s: Step) => s.kind === 'flood';
const stepsOf = (g: StepGraph, name: string): Step[] => {
  const [id, kind] = name.split(':') as [string, string | undefined];
  const own = g.steps.filter((s) => s.parts.some((p) => p === id || new RegExp(`^${id}\\.\\d+$`).test(p)));
  return kind === 'dam' ? own.filter((s) => s.kind === 'dam') : kind === 'flood' ? own.filter(isFlood) : own;
};
/** The steps that leave a part as it is to be: its flood where it has one. */
const mainOf = (g: StepGraph, name: string): Step[] => {
  const own = stepsOf(g, name);
  return own.some(isFlood) && !name.includes(':') ? own.filter(isFlood) : own;
};

/** Whether a chain of gaps leads from one step to another, with that state (or a harder one) asked somewhere on it. */
function chain(g: StepGraph, from: string, to: string, state: string | null): boolean {
  const need = state ? rank(state) : -1;
  const seen = new Set<string>();
  const open: [string, boolean][] = [[from, need < 0]];
  for (let next = open.shift(); next; next = open.shift()) {
    for (const gap of g.gaps.filter((x) => x.from === next?.[0])) {
      const met = next[1] || (gap.minState !== undefined && rank(gap.minState) >= need);
      if (gap.to === to && met) return true;
      const key = `${gap.to} ${met}`;
      if (!seen.has(key)) open.push([gap.to, met]);
      seen.add(key);
    }
  }
  return false;
}

const rate = dryingRate(REFERENCE_AIR);
/** Least seconds a gap asks for at the medians in the reference air. */
const leastS = (g: Gap): number =>
  Math.max(g.minSeconds ?? 0, g.minLossKgPerM2 === undefined ? 0 : secondsToLose(rate, 0, g.minLossKgPerM2));
const mostS = (g: Gap): number =>
  Math.min(
    g.maxSeconds ?? Number.POSITIVE_INFINITY,
    g.maxLossKgPerM2 === undefined ? Number.POSITIVE_INFINITY : secondsToLose(rate, 0, g.maxLossKgPerM2),
  );

/** Longest path: earliest start of every step, from the beginning or from the end of one. */
function earliest(g: StepGraph, from?: string): Map<string, number> {
  const at = new Map<string, number>(from ? [[from, 0]] : g.steps.map((s) => [s.id, 0]));
  const seconds = new Map(g.steps.map((s) => [s.id, s.id === from ? 0 : s.seconds]));
  for (let pass = 0; pass <= g.steps.length; pass++)
    for (const gap of g.gaps) {
      const begun = at.get(gap.from);
      if (begun === undefined) continue;
      const then = begun + (seconds.get(gap.from) as number) + leastS(gap);
      if (then > (at.get(gap.to) ?? -1)) at.set(gap.to, then);
    }
  return at;
}

/** With what follows from windows: wet work ends before its flood reaches a state, so whatever waits for that comes after it. */
function withImplied(graph: StepGraph): StepGraph {
  const implied = graph.gaps.flatMap((w) =>
    w.maxState === undefined
      ? []
      : graph.gaps.flatMap((e): Gap[] =>
          e.from === w.from && e.to !== w.to && e.minState !== undefined && rank(e.minState) >= rank(w.maxState as string)
            ? [{ ...e, from: w.to, minLossKgPerM2: 0 }]
            : [],
        ),
  );
  return { ...graph, gaps: [...graph.gaps, ...implied] };
}

/** Everything a card asks for that does not hold, in words. */
export function brokenOnCard(card: Card, graph: StepGraph, school: string, graphFor: (school: string) => StepGraph): string[] {
  const g = withImplied(graph);
  const out: string[] = [];
  const held = (ok: boolean, words: string): void => {
    if (!ok) out.push(words);
  };
  for (const [a, b, least, most] of card.before ?? []) {
    const [A, B] = [mainOf(g, a), stepsOf(g, b)];
    held(A.length > 0 && B.length > 0, `no step for ${a} or ${b}`);
    const state = typeof least === 'string' ? least : null;
    for (const y of B) {
      // A dam may have been drawn on the bare cookie beside a flood.
      if (y.kind === 'dam' && !b.includes(':') && A.every(isFlood) && (!state || A.some((x) => chain(g, y.id, x.id, null)))) continue;
      const fine = A.some((x) => x !== y && chain(g, x.id, y.id, state)) || (!state && typeof least !== 'number' && A.includes(y));
      held(fine, `${y.id} does not come after ${a}${state ? ` ${state}` : ''}`);
      if (typeof least === 'number')
        held(
          A.some((x) => (earliest(g, x.id).get(y.id) ?? 0) >= least * 60 - 1),
          `${y.id} begins sooner than ${least} min after ${a}`,
        );
    }
    if (typeof most === 'number')
      for (const y of mainOf(g, b))
        held(
          g.gaps.some((w) => w.to === y.id && stepsOf(g, a).some((x) => x.id === w.from) && mostS(w) <= most * 60 + y.seconds + 1),
          `${b} has no limit after ${a}`,
        );
  }
  for (const ids of card.together ?? []) {
    const steps = ids.map((id) => mainOf(g, id));
    const wet = g.gaps.filter((w) => (w.maxState && rank(w.maxState) <= rank('skinned')) || mostS(w) <= 600);
    const reach = new Set([steps[0]?.[0]?.id ?? '']);
    for (const v of reach)
      for (const w of wet)
        if (w.from === v) reach.add(w.to);
        else if (w.to === v) reach.add(w.from);
    for (const [i, id] of ids.entries())
      held(
        (steps[i] ?? []).some((s) => reach.has(s.id)),
        `${id} is not tied to ${ids[0]} while it is wet`,
      );
    for (const x of steps.flat())
      for (const y of steps.flat()) held(x === y || !chain(g, x.id, y.id, 'skinned'), `${y.id} waits for ${x.id} to skin`);
  }
  const parted = (a: string, b: string) =>
    mainOf(g, a).every((x) => mainOf(g, b).every((y) => chain(g, x.id, y.id, 'skinned') || chain(g, y.id, x.id, 'skinned')));
  for (const [a, b] of card.apart ?? []) held(parted(a, b), `${a} and ${b} may be wet together`);
  for (const [guide, parts] of Object.entries(card.guidesFirst ?? {})) {
    const G = stepsOf(g, guide);
    held(G.length > 0 && G.every((s) => s.seconds > 0), `the guide ${guide} is no work`);
    for (const p of parts)
      for (const y of stepsOf(g, p))
        held(
          G.some((x) => chain(g, x.id, y.id, null)),
          `${y.id} does not follow its guide ${guide}`,
        );
  }
  for (const id of card.sugarLast ?? []) {
    const need = { kit: 'crusted', 'one-bag': 'crusted', 'warm-box': 'crusted', patient: 'dry' }[school] ?? 'set';
    const S = stepsOf(g, id).filter((s) => !isFlood(s) && s.kind !== 'dam');
    for (const s of S)
      for (const x of g.steps.filter((o) => !S.includes(o) && o.region && o.kind !== 'dam' && o.part !== s.sectionId))
        held(chain(g, x.id, s.id, need) || chain(g, s.id, x.id, null), `${x.id} may be wetter than ${need} when ${id} goes on`);
  }
  for (const [id, d] of Object.entries(card.dams ?? {})) {
    const own = stepsOf(g, `${id}:dam`);
    const seconds = (x: string) => stepsOf(g, `${x}:dam`).reduce((n, s) => n + s.seconds, 0);
    held(d.none ? own.length === 0 : own.length > 0, `the dam of ${id}`);
    if (d.colour)
      held(
        own.some((s) => s.bag?.colour === d.colour),
        `the dam of ${id} is not ${d.colour}`,
      );
    if (d.doubleOf) held(seconds(id) >= 1.6 * seconds(d.doubleOf), `the dam of ${id} is not double`);
  }
  for (const { ids, max } of card.smallAtOnce ?? []) {
    const most = ids.reduce((best, a) => Math.max(best, ids.filter((b) => a === b || !parted(a, b)).length), 0);
    held(most <= max, `${most} small pools may be wet at once`);
  }
  if (card.rounds) held(g.rounds <= card.rounds.max, `${g.rounds} rounds`);
  for (const l of card.notLongerThan ?? []) {
    const graph = (l.school ?? 'kit') === school ? g : graphFor(l.school ?? 'kit');
    const at = earliest(graph, l.after ? mainOf(graph, l.after)[0]?.id : undefined);
    for (const id of l.ids)
      for (const s of mainOf(graph, id))
        held((at.get(s.id) ?? Number.NaN) + s.seconds <= l.minutes * 60, `${s.id} is done later than ${l.minutes} min`);
  }
  return out;
}
