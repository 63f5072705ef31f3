import { lightnessAndChroma, strongContrast } from '../design/contrast.js';
import type { Design, Section } from '../design/design.js';
import { footprintOf } from '../design/footprint.js';
import { isBead, type Meeting } from '../design/meetings.js';
import { intersection, offset } from '../geometry/clip.js';
import { distance } from '../geometry/point.js';
import { areaMm2, boundingBox, boxesMeet, centroid, type Shape } from '../geometry/shape.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { type Edge, Edges, refuseCycles } from './edges.js';
import { type Item, isNamed } from './items.js';
import { type Answer, asks, atOnce, type Circumstances, LIGHT_DEPTH_MM, LIGHT_MM2, MIST_DRY_S, PLAIN } from './law.js';
import { roundsOf } from './rounds.js';
import type { School } from './school.js';
import type { RuleId } from './why.js';

/** The order of one cookie's items: what comes after what, and the rounds its floods dry in. */
export interface StackOrder {
  readonly edges: readonly Edge[];
  /** by section id, from 1 */
  readonly round: ReadonlyMap<string, number>;
  /** floods of one round that must be one after the other, from 1 */
  readonly batch: ReadonlyMap<string, number>;
  /** small pools in their batches, where the school quick-sets */
  readonly pools: readonly (readonly Item[])[];
  readonly rounds: number;
  readonly proven: boolean;
  readonly touches: ReadonlyMap<string, readonly string[]>;
}

/** A stencil lies on the cookie this far beyond what it prints. */
export const STENCIL_REACH_MM = 10;
export const SMALL_POOL_MM = 12;
const SMALL_POOLS_AT_ONCE = 4;

/** What overlaps by less is an edge drawn twice. */
const TRAP_MM = 0.5;

interface Facts {
  readonly areaMm2: number;
  readonly inscribedDiameterMm: number;
}

export function orderOf(
  design: Design,
  school: School,
  meetings: readonly Meeting[],
  items: readonly Item[],
  factsOf: (id: string) => Facts,
): StackOrder {
  const itemOf = new Map<string, Item>();
  for (const item of items) {
    if (item.section) itemOf.set(item.section.id, item);
    for (const p of item.run) itemOf.set(p.id, item);
    for (const m of item.marks) itemOf.set(m.id, item);
  }
  const floods = items.filter((i): i is Item & { section: Section } => i.section !== null);
  const isOf = (part: string) => itemOf.get(part);
  const edges = new Edges();
  const free: { a: Item; b: Item; inside: boolean }[] = [];
  const wanted = wordsOfOrder(design, items);
  const saidBefore = (x: Item, y: Item) => wanted.some((w) => w.before === x && w.after === y);
  const leans = new Map<Item, Set<Item>>();
  for (const m of meetings) {
    const [a, b] = [isOf(m.a), isOf(m.b)];
    if (m.kind === 'on' && a && b && a !== b) leans.set(b, (leans.get(b) ?? new Set()).add(a));
  }

  for (const m of meetings) {
    let [a, b] = [isOf(m.a), isOf(m.b)];
    if (m.kind === 'in' || !a || !b || a === b) continue;
    const base = { on: m.kind === 'on', touching: false };
    if (m.kind === 'guides') {
      if (saidBefore(b, a)) throw refusedOrder(b, a, msg`"${a.name}" guides "${b.name}"`);
      edges.push({ a, b, ...base, on: false, answer: atOnce('guides'), rule: 'guide-first' });
      continue;
    }
    if (a.section && b.section) {
      const layered = m.kind === 'on';
      if (layered && saidBefore(b, a)) throw refusedOrder(b, a, msg`"${b.name}" lies on "${a.name}"`);
      if (!layered && saidBefore(b, a)) [a, b] = [b, a];
      else if (m.kind === 'beside' && m.drawn !== 'over') {
        if (!a.section?.flushWith?.includes(b.id)) {
          if (saidBefore(a, b)) edges.push(contact(a, b, false));
          else free.push({ a, b, inside: m.drawn === 'inside' });
        }
        continue;
      }
      if (a.section?.flushWith?.includes(b.id) && !layered) continue;
      if (m.kind === 'over') edges.push({ a, b, ...base, answer: atOnce('in-front'), rule: 'drawn-over' });
      else edges.push(contact(a, b, layered));
      continue;
    }
    // A detail that is to come before what it is drawn over is under it; on a flood it rests on that cannot be.
    if (saidBefore(b, a)) {
      if (a.section && !b.section && m.kind === 'on') throw refusedOrder(b, a, msg`"${b.name}" lies on "${a.name}"`);
      [a, b] = [b, a];
    }
    const c: Circumstances = circumstances(a, b, m.kind === 'beside' ? 'beside' : 'on');
    edges.push({ a, b, ...base, answer: asks(b.technique, a.technique.leaves, school, c), rule: ruleOf(a, b, m.kind === 'beside') });
  }
  reachOfStencils();
  for (const w of wanted)
    edges.push({ a: w.before, b: w.after, on: false, touching: false, answer: atOnce('as-said'), rule: 'as-you-said', said: w.said });
  for (const f of items)
    if (firstOfAll(f)) for (const o of items) if (o !== f && !edges.isAfter(o, f) && !overlaps(f, o)) edges.push(comesFirst(f, o));
  reachOfMist();
  refuseCycles(edges.list, items);

  const answer = rounds();
  const round = new Map(floods.map((f, i) => [f.id, answer.round[i] as number]));
  const roundOf = (i: Item) => round.get(i.id) as number;
  for (const { a, b } of free) {
    const [first, then] = roundOf(a) <= roundOf(b) ? [a, b] : [b, a];
    edges.push(contact(first, then, false));
  }
  crackleBeforeNeighbours();
  const grainsFirst = reachOfGrains();
  refuseCycles(edges.list, items);
  const pools = school.quickSets ? poolsInBatches() : [];
  return { edges: edges.list, round, batch: batches(), pools, rounds: answer.rounds, proven: answer.proven, touches: touching() };

  function circumstances(a: Item, b: Item, how: Circumstances['how']): Circumstances {
    const first = b.run[0];
    return {
      ...PLAIN,
      how,
      strongContrast: a.section !== null && b.section !== null && strongContrast(a.section.colour, b.section.colour),
      sugared: isSugared(a),
      light: b.section !== null && factsOf(b.id).areaMm2 < LIGHT_MM2 && b.section.depthMm <= LIGHT_DEPTH_MM,
      leansOn: leans.get(b)?.size ?? 0,
      sameBag: a.run.length > 0 && b.run.length > 0 && a.run[0]?.colour === first?.colour && countOf(a) === countOf(b),
      projected: first?.role === 'guide' && (first.kind === 'projected' || first.kind === 'sheet'),
      throughStencil: first?.words?.tool === 'stencil',
    };
  }
  function countOf(i: Item): number | undefined {
    return i.run[0]?.seconds ?? (i.technique.icing === 'piping' ? school.pipingS : i.technique.icing === null ? undefined : Number.NaN);
  }
  function contact(a: Item, b: Item, layered: boolean): Edge {
    const c = circumstances(a, b, layered ? 'on' : 'beside');
    return {
      a,
      b,
      on: layered,
      touching: !layered,
      answer: asks(b.technique, 'flood', school, c),
      rule: layered ? 'second-layer' : 'touching-sections',
    };
  }

  /** Beads, lines and raised layers within a stencil's reach follow it, but for what a flood under it needs and for what was said. */
  function reachOfStencils(): void {
    for (const s of items.filter((i) => i.technique.id === 'stencil' || i.run[0]?.words?.tool === 'stencil')) {
      const under = new Set(meetings.filter((m) => m.kind === 'on' && isOf(m.b) === s).map((m) => isOf(m.a)));
      const reach = s.run.map((p) => offset(footprintOf(p), STENCIL_REACH_MM));
      // Last laid first, so that what leans on another bead does not hold that one back under the stencil.
      for (const x of [...items].reverse()) {
        const raised = x.run.some(isBead) || x.technique.id === 'glued-transfer' || (x.section !== null && x.section.layerOn.length > 0);
        if (x === s || !raised || (x.section && under.has(x)) || !within(reach, x)) continue;
        // Said otherwise; or needed, because a flood under the stencil leans on it.
        if (saidBefore(x, s) || edges.isAfter(x, s, true)) continue;
        edges.part(x, s);
        const printed = within(shapeOf(s), x);
        const answer = printed ? asks(x.technique, s.technique.leaves, school, circumstances(s, x, 'on')) : atOnce('flat-stencil');
        edges.push({ a: s, b: x, on: printed, touching: false, answer, rule: 'stencil-reach' });
      }
    }
  }
  /** Mist drifts over the whole cookie unless it is held to an edge or a stencil: in the stack's order, crusted before and dry after. */
  function reachOfMist(): void {
    for (const s of items.filter((i) => i.technique.leaves === 'mist' && !i.run[0]?.words?.tool)) {
      for (const x of items) {
        const icing = x.technique.leaves === 'flood' || x.technique.leaves === 'bead';
        if (x === s || !icing || edges.between(x, s).some((e) => e.rule !== 'as-you-said')) continue;
        const before = edges.isAfter(x, s) || (x.at < s.at && !edges.isAfter(s, x));
        const answer: Answer = before
          ? asks(s.technique, x.technique.leaves, school, circumstances(x, s, 'reach'))
          : atOnce('mist-drifted', MIST_DRY_S);
        edges.push({ a: before ? x : s, b: before ? s : x, on: false, touching: false, answer, rule: 'airbrush-reach' });
      }
    }
  }

  function rounds() {
    const index = new Map(floods.map((f, i) => [f as Item, i]));
    const strict: [number, number][] = [];
    const weak: [number, number][] = [];
    for (const [from, i] of index) {
      // From a flood through details to other floods: strictly later where anything on the way waits for drying.
      const seen = new Map<Item, boolean>();
      const walk = (x: Item, waited: boolean) => {
        for (const e of edges.from(x)) {
          const waits = waited || e.touching || e.answer.kind === 'state';
          const j = index.get(e.b);
          if (j !== undefined) (waits ? strict : weak).push([i, j]);
          else if (seen.get(e.b) === undefined || (waits && !seen.get(e.b))) {
            seen.set(e.b, waits);
            walk(e.b, waits);
          }
        }
      };
      walk(from, false);
    }
    const flush: [number, number][] = [];
    for (const [f, i] of index)
      for (const o of f.section?.flushWith ?? []) for (const [g, j] of index) if (g.id === o && i < j) flush.push([i, j]);
    const middle = centroid(design.cookie);
    const outward = floods.map((f) => Math.round(distance(centroid(f.section.shape), middle)));
    const place =
      design.ordering === 'middle'
        ? outward.map((d) => -d)
        : design.ordering === 'alternating'
          ? floods.map((_, i) => (i % 2 === 0 ? 1 : 0))
          : outward;
    const at = (i: Item) => index.get(i) as number;
    return roundsOf({
      count: floods.length,
      touching: [
        ...free.map(({ a, b }): [number, number] => [at(a), at(b)]),
        ...touchingPairs().map(([a, b]): [number, number] => [at(a), at(b)]),
      ],
      layers: strict,
      weak,
      flush,
      // The drawn order among those that overlap, and grains in the order of the stack, where it costs no round.
      rather: [
        ...free.filter((p) => p.inside).map(({ a, b }): [number, number, 1] => [at(a), at(b), 1]),
        ...grainsInStackOrder().map(([a, b, by]): [number, number, 0 | 1] => [at(a), at(b), by]),
      ],
      // Then extremities before the middle, light before strong colour, larger first.
      early: [
        place,
        floods.map((f) => {
          const { lightness, chroma } = lightnessAndChroma(f.section.colour);
          return Math.round(lightness - chroma / 2);
        }),
        floods.map((f) => Math.round(areaMm2(f.section.shape))),
      ],
    });
  }
  function touchingPairs(): [Item, Item][] {
    return edges.list.filter((e) => e.touching && e.a.section && e.b.section).map((e) => [e.a, e.b]);
  }
  function touching(): Map<string, string[]> {
    const out = new Map<string, string[]>(floods.map((f) => [f.id, []]));
    for (const [a, b] of touchingPairs()) {
      out.get(a.id)?.push(b.id);
      out.get(b.id)?.push(a.id);
    }
    const at = new Map(floods.map((f) => [f.id, f.at]));
    for (const list of out.values()) list.sort((x, y) => (at.get(x) as number) - (at.get(y) as number));
    return out;
  }

  /** Floods that would rather be done before the grains of others: those drawn before them. */
  function grainsInStackOrder(): [Item, Item, 0 | 1][] {
    return floods
      .filter(isSugared)
      .flatMap((f) =>
        floods.filter((x) => x !== f && !spared(x, f)).map((x): [Item, Item, 0 | 1] => (x.at < grainsAt(f) ? [x, f, 1] : [f, x, 0])),
      );
  }
  function grainsAt(f: Item): number {
    return Math.min(...f.marks.filter((m) => m.technique === 'sprinkle').map((m) => design.parts.indexOf(m)));
  }
  /** Floods that grains of `f` need not fear: flush with it, or to get the same grains. */
  function spared(x: Item, f: Item): boolean {
    if (x.section?.flushWith?.includes(f.id)) return true;
    const grains = (i: Item) => i.marks.find((m) => m.technique === 'sprinkle');
    return grains(x) !== undefined && grains(x)?.colour === grains(f)?.colour;
  }

  /** What is crackled is crackled before anything is laid beside it, since the press would smear it. */
  function crackleBeforeNeighbours(): void {
    for (const c of items.filter((i) => i.technique.id === 'crackle')) {
      for (const base of items.filter((x) => x.section && edges.from(x).some((e) => e.b === c && e.on))) {
        for (const e of [...edges.from(base)])
          if (e.touching && !edges.isAfter(e.b, c))
            edges.push({ a: c, b: e.b, on: false, touching: false, answer: atOnce('press-smears'), rule: 'crackle-window' });
      }
    }
  }

  /**
   * Grains stick to anything wetter than the school allows: whatever is within reach has dried so far, or is laid later.
   * Returns the floods that have to wait for grains of their own round.
   */
  function reachOfGrains(): [Item, Item][] {
    const later: [Item, Item][] = [];
    const carriers = items.filter((i) => isSugared(i) || i.technique.id === 'dipped-bead');
    const inOrder = [...carriers].sort((p, q) => (p.section && q.section ? roundOf(p) - roundOf(q) : 0) || p.at - q.at);
    for (const f of inOrder) {
      for (const x of items) {
        const icing = (x.technique.leaves === 'flood' || x.technique.leaves === 'bead') && x !== f;
        if (!icing || (isSugared(f) && spared(x, f)) || (!isSugared(f) && edges.from(x).some((e) => e.b === f && e.on))) continue;
        const own = isSugared(f) ? grainsAt(f) : f.at;
        const rather =
          x.section && f.section
            ? roundOf(x) === roundOf(f)
              ? false
              : roundOf(x) < roundOf(f)
            : x.section && !isSugared(f)
              ? true
              : x.at < own;
        const before = edges.isAfter(x, f) || (rather && !edges.isAfter(f, x));
        if (!before && x.section && f.section && roundOf(x) === roundOf(f)) later.push([f, x]);
        edges.push({
          a: before ? x : f,
          b: before ? f : x,
          on: false,
          touching: false,
          answer: before ? asks({ asks: 'grains' }, x.technique.leaves, school, circumstances(x, f, 'reach')) : atOnce('laid-later'),
          rule: 'grains-reach',
        });
      }
    }
    return later;
  }

  function poolsInBatches(): Item[][] {
    // Pools that must follow each other within a round are not of one batch.
    const within = levels(sameRoundEdges());
    const levelWithin = (f: Item) => within.get(f) as number;
    const small = floods.filter((f) => factsOf(f.id).inscribedDiameterMm < SMALL_POOL_MM);
    const out: Item[][] = [];
    const placed = new Set<Item>();
    const sorted = [...small].sort((p, q) => roundOf(p) - roundOf(q) || levelWithin(p) - levelWithin(q) || p.at - q.at);
    for (const f of sorted) {
      if (placed.has(f)) continue;
      // What lies flush is flooded in one go, so it stays together.
      const group = sorted.filter((o) => !placed.has(o) && (o === f || flushTogether(o, f)));
      const last = out.at(-1);
      const sameRound = last && roundOf(last[0] as Item) === roundOf(f) && levelWithin(last[0] as Item) === levelWithin(f);
      if (last && sameRound && last.length + group.length <= SMALL_POOLS_AT_ONCE) last.push(...group);
      else out.push([...group]);
      for (const g of group) placed.add(g);
    }
    return out;
  }
  function flushTogether(a: Item, b: Item): boolean {
    const seen = new Set([a.id]);
    for (const id of seen) for (const o of floods.find((f) => f.id === id)?.section.flushWith ?? []) seen.add(o);
    return seen.has(b.id);
  }
  function sameRoundEdges(): [Item, Item][] {
    return [
      ...edges.list.filter((e) => e.a.section && e.b.section && roundOf(e.a) === roundOf(e.b)).map((e): [Item, Item] => [e.a, e.b]),
      ...grainsFirst,
    ];
  }
  function levels(pairs: readonly (readonly [Item, Item])[]): Map<Item, number> {
    const level = new Map<Item, number>(floods.map((f) => [f, 1]));
    for (let pass = 0, changed = true; changed && pass <= floods.length; pass++) {
      changed = false;
      const raise = (x: Item, to: number) => {
        if ((level.get(x) as number) >= to) return;
        level.set(x, to);
        changed = true;
      };
      for (const [a, b] of pairs) raise(b, (level.get(a) as number) + 1);
      for (const f of floods) for (const o of floods) if (f.section.flushWith?.includes(o.id)) raise(o, level.get(f) as number);
    }
    return level;
  }
  function batches(): Map<string, number> {
    const pairs = sameRoundEdges();
    for (const [i, batch] of pools.entries()) {
      const next = pools[i + 1];
      if (next && roundOf(next[0] as Item) === roundOf(batch[0] as Item)) for (const a of batch) for (const b of next) pairs.push([a, b]);
    }
    const level = levels(pairs);
    return new Map(floods.map((f) => [f.id, level.get(f) as number]));
  }
}

export const isSugared = (i: Item): boolean => i.marks.some((m) => m.technique === 'sprinkle');
const firstOfAll = (i: Item): boolean => (i.section?.words ?? i.run[0]?.words)?.first === true;
const comesFirst = (f: Item, o: Item): Edge => ({
  a: f,
  b: o,
  on: false,
  touching: false,
  answer: atOnce('first-of-all'),
  rule: 'as-you-said',
  said: f.id,
});

function ruleOf(a: Item, b: Item, beside: boolean): RuleId {
  if (b.section) return beside ? 'dividing-bead' : 'laid-over';
  if (a.section)
    return b.technique.id === 'pen' || b.technique.id === 'stencil'
      ? 'pen-needs-firm'
      : b.technique.id === 'crackle'
        ? 'crackle-window'
        : 'detail-rests-on';
  return 'laid-over';
}

const shapeOf = (i: Item): Shape[] => (i.section ? [i.section.drawn] : i.run.map((p) => footprintOf(p)));

function within(reach: readonly Shape[], x: Item): boolean {
  return shapeOf(x).some((s) => {
    const box = boundingBox(s.flat());
    return reach.some((r) => boxesMeet(boundingBox(r.flat()), box) && areaMm2(intersection(r, s)) > 1e-6);
  });
}

/** Drawn over each other by more than an edge drawn twice. */
const overlaps = (a: Item, b: Item): boolean =>
  shapeOf(a).some((s) =>
    shapeOf(b).some(
      (t) => boxesMeet(boundingBox(s.flat()), boundingBox(t.flat())) && areaMm2(offset(intersection(s, t), -TRAP_MM / 2)) > 0,
    ),
  );

const refusedOrder = (first: Item, then: Item, why: string): BadInput =>
  new BadInput('order-impossible', msg`${why}, so "${first.name}" cannot come before "${then.name}": take that order back.`, {
    first: first.id,
    next: then.id,
  });

/** Orders said by hand: of parts by their own words, and of the design. A name that is not there is reported. */
function wordsOfOrder(design: Design, items: readonly Item[]): { before: Item; after: Item; said: string }[] {
  const out: { before: Item; after: Item; said: string }[] = [];
  const named = (id: string) => items.filter((i) => isNamed(i, id) || i.marks.some((m) => m.id === id || m.id.startsWith(`${id}.`)));
  const add = (before: Item, after: Item, said: string) => before !== after && out.push({ before, after, said });
  for (const [first, then] of design.before ?? []) for (const a of named(first)) for (const b of named(then)) add(a, b, then);
  const told = new Set(design.parts.map((p) => p.id));
  for (const g of design.parts) {
    const missing = (g.role === 'guide' || g.role === 'line' ? (g.guides ?? []) : []).find(
      (id) => ![...told].some((own) => own === id || own.startsWith(`${id}.`)),
    );
    if (missing !== undefined)
      throw new BadInput(
        'attribute',
        msg`"${g.id}" says data-guides="${missing}", which is no part of this design: name a part that is there.`,
        { place: g.id },
      );
  }
  for (const item of items) {
    const speaking = [item.section, ...item.run, ...item.marks].flatMap((p) => (p?.words?.after ? [p] : []));
    for (const p of speaking) {
      for (const id of p.words?.after ?? []) {
        const found = named(id);
        if (found.length === 0)
          throw new BadInput(
            'attribute',
            msg`"${p.id}" says data-after="${id}", which is no part of this design: name a part that is there.`,
            { place: p.id },
          );
        for (const a of found) add(a, item, p.id);
      }
    }
  }
  return out;
}
