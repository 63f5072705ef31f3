import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/**
 * Rounds of drying: the fewest rounds so that no two touching sections share one and every layer comes after what it
 * lies on. Without layers that is the chromatic number of the contact graph; with them it is mixed graph colouring
 * (Hansen, Kuplinsky & de Werra, "Mixed graph colorings", 1997). Exact by branch and bound over saturation order
 * (Brélaz, "New methods to color the vertices of a graph", CACM 22, 1979).
 */
export interface RoundsProblem {
  readonly count: number;
  /** pairs that must not share a round */
  readonly touching: readonly (readonly [number, number])[];
  /** [behind, before]: strictly earlier round */
  readonly layers: readonly (readonly [number, number])[];
  /** [first, then]: no later round than */
  readonly weak?: readonly (readonly [number, number])[];
  /** [first, then, by]: rather so many rounds earlier; before all other ties */
  readonly rather?: readonly (readonly [number, number, 0 | 1])[];
  /** higher = rather in an early round; ties among minimal answers, most important first */
  readonly early: readonly (readonly number[])[];
}

export interface Rounds {
  /** rounds from 1 on, one for each section */
  readonly round: readonly number[];
  readonly rounds: number;
  /** false where the search was cut short, so fewer rounds might exist */
  readonly proven: boolean;
}

/**
 * The same where some sections are joined flush and so share a round: each joined group is one section of the problem.
 * A join that a contact or a layer inside its group forbids throws {@link BadInput}.
 */
export function roundsOf(problem: RoundsProblem & { readonly flush: readonly (readonly [number, number])[] }): Rounds {
  const { count, flush } = problem;
  if (flush.length === 0) return fewestRounds(problem);
  const root = [...Array(count).keys()];
  const find = (v: number): number => (root[v] === v ? v : find(root[v] as number));
  for (const [a, b] of flush) root[find(a)] = find(b);
  const heads = [...new Set(root.map((_, v) => find(v)))];
  const groupOf = root.map((_, v) => heads.indexOf(find(v)));
  const lift = (pairs: readonly (readonly [number, number])[], what: string) =>
    pairs.map(([a, b]): [number, number] => {
      const [x, y] = [groupOf[a] as number, groupOf[b] as number];
      if (x === y)
        throw new BadInput('flush', msg`Sections ${a + 1} and ${b + 1} are joined flush and yet ${what}: take one join away.`, { a, b });
      return [x, y];
    });
  // Touching sections of one group become level with each other; only the rest still keep apart.
  const apart = problem.touching.filter(([a, b]) => groupOf[a] !== groupOf[b]);
  const answer = fewestRounds({
    count: heads.length,
    touching: lift(apart, 'touch'),
    layers: lift(problem.layers, msg`lie on each other`),
    // Within one group an order alone is kept by hand; only between groups does it bear on rounds.
    weak: (problem.weak ?? []).map(([a, b]): [number, number] => [groupOf[a] as number, groupOf[b] as number]).filter(([a, b]) => a !== b),
    rather: (problem.rather ?? [])
      .map(([a, b, by]): [number, number, 0 | 1] => [groupOf[a] as number, groupOf[b] as number, by])
      .filter(([a, b]) => a !== b),
    early: problem.early.map((weights) => heads.map((_, g) => groupOf.reduce((s, x, v) => (x === g ? s + (weights[v] ?? 0) : s), 0))),
  });
  return { ...answer, round: groupOf.map((g) => answer.round[g] as number) };
}

const NODE_LIMIT = 400_000;

/** The other end of an order, and by how many rounds at least the two are apart. */
interface Step {
  readonly to: number;
  readonly apart: 0 | 1;
}

/** Problems answered last: a design that is worked on is coloured again and again, mostly with nothing changed that rounds depend on. */
const answeredLast = new Map<string, Rounds>();
const ANSWERS_KEPT = 8;

export function fewestRounds(problem: RoundsProblem): Rounds {
  const key = JSON.stringify(problem);
  const answer = answeredLast.get(key) ?? coloured(problem);
  answeredLast.delete(key);
  answeredLast.set(key, answer);
  const [oldest] = answeredLast.keys();
  if (answeredLast.size > ANSWERS_KEPT && oldest !== undefined) answeredLast.delete(oldest);
  return answer;
}

function coloured(problem: RoundsProblem): Rounds {
  const { count } = problem;
  if (count === 0) return { round: [], rounds: 0, proven: true };
  const adjacent: Set<number>[] = Array.from({ length: count }, () => new Set());
  const below: Step[][] = Array.from({ length: count }, () => []);
  const above: Step[][] = Array.from({ length: count }, () => []);
  for (const [a, b] of problem.touching) {
    if (a === b) continue;
    adjacent[a]?.add(b);
    adjacent[b]?.add(a);
  }
  for (const [under, over] of problem.layers) {
    below[over]?.push({ to: under, apart: 1 });
    above[under]?.push({ to: over, apart: 1 });
    adjacent[under]?.add(over);
    adjacent[over]?.add(under);
  }
  for (const [first, then] of problem.weak ?? []) {
    if (first === then) continue;
    below[then]?.push({ to: first, apart: 0 });
    above[first]?.push({ to: then, apart: 0 });
  }
  const heads = longestChains(count, below);
  const tails = longestChains(count, above);
  let lower = 1;
  for (let v = 0; v < count; v++) lower = Math.max(lower, (heads[v] as number) + (tails[v] as number) + 1);
  lower = Math.max(lower, greedyClique(adjacent).length);

  const budget = { nodes: NODE_LIMIT };
  let proven = true;
  for (let rounds = lower; rounds <= count; rounds++) {
    const found = colourWithin(rounds, count, adjacent, below, above, heads, tails, budget);
    if (found === 'cut') {
      proven = false;
      budget.nodes = NODE_LIMIT;
      continue;
    }
    if (found) {
      const near = arrange(found, rounds, problem, adjacent, below, above);
      return { round: bestOf(near, rounds, problem, adjacent, below, above, heads, tails).map((r) => r + 1), rounds, proven };
    }
  }
  // One round each, in layer order, always works; reached only when every search was cut short.
  const order = [...Array(count).keys()].sort((a, b) => (heads[a] as number) - (heads[b] as number) || a - b);
  const round = Array<number>(count).fill(0);
  order.forEach((v, i) => {
    round[v] = i + 1;
  });
  return { round, rounds: count, proven: false };
}

/**
 * Length of the longest chain ending in each vertex; throws {@link BadInput} on a cycle, which layers cannot have but orders given by
 * hand can.
 */
function longestChains(count: number, from: readonly Step[][]): number[] {
  const length = Array<number>(count).fill(-1);
  const open = new Set<number>();
  const walk = (v: number): number => {
    if ((length[v] as number) >= 0) return length[v] as number;
    if (open.has(v))
      throw new BadInput('order-cycle', msg`Section ${v + 1} would have to come before itself: take back one of the orders given.`, {
        section: v,
      });
    open.add(v);
    let best = 0;
    for (const { to, apart } of from[v] as Step[]) best = Math.max(best, walk(to) + apart);
    open.delete(v);
    length[v] = best;
    return best;
  };
  for (let v = 0; v < count; v++) walk(v);
  return length;
}

function greedyClique(adjacent: readonly Set<number>[]): number[] {
  let best: number[] = [];
  for (let start = 0; start < adjacent.length; start++) {
    const clique = [start];
    const candidates = [...(adjacent[start] as Set<number>)].sort(
      (a, b) => (adjacent[b] as Set<number>).size - (adjacent[a] as Set<number>).size,
    );
    for (const c of candidates) if (clique.every((v) => adjacent[v]?.has(c))) clique.push(c);
    if (clique.length > best.length) best = clique;
  }
  return best;
}

function colourWithin(
  rounds: number,
  count: number,
  adjacent: readonly Set<number>[],
  below: readonly Step[][],
  above: readonly Step[][],
  heads: readonly number[],
  tails: readonly number[],
  budget: { nodes: number },
): number[] | null | 'cut' {
  const colour = Array<number>(count).fill(-1);
  const hasLayers = below.some((b) => b.length > 0);
  const options = (v: number): number[] => {
    let from = heads[v] as number;
    let to = rounds - 1 - (tails[v] as number);
    for (const u of below[v] as Step[]) if ((colour[u.to] as number) >= 0) from = Math.max(from, (colour[u.to] as number) + u.apart);
    for (const w of above[v] as Step[]) if ((colour[w.to] as number) >= 0) to = Math.min(to, (colour[w.to] as number) - w.apart);
    const out: number[] = [];
    // Without layers unused rounds are alike, so only the first of them needs trying.
    const used = hasLayers ? rounds - 1 : Math.max(-1, ...colour) + 1;
    for (let c = from; c <= Math.min(to, used); c++) {
      let free = true;
      for (const n of adjacent[v] as Set<number>) if (colour[n] === c) free = false;
      if (free) out.push(c);
    }
    return out;
  };
  const search = (left: number): boolean | 'cut' => {
    if (left === 0) return true;
    if (--budget.nodes < 0) return 'cut';
    let pick = -1;
    let pickOptions: number[] = [];
    for (let v = 0; v < count; v++) {
      if ((colour[v] as number) >= 0) continue;
      const o = options(v);
      if (o.length === 0) return false;
      if (
        pick < 0 ||
        o.length < pickOptions.length ||
        (o.length === pickOptions.length && (adjacent[v] as Set<number>).size > (adjacent[pick] as Set<number>).size)
      ) {
        pick = v;
        pickOptions = o;
      }
    }
    for (const c of pickOptions) {
      colour[pick] = c;
      const r = search(left - 1);
      if (r !== false) return r;
      colour[pick] = -1;
    }
    return false;
  };
  const result = search(count);
  return result === true ? colour : result === 'cut' ? 'cut' : null;
}

const TIE_NODE_LIMIT = 30_000;

/** What is to be least among answers with as many rounds: orders rather kept that are not, then the wishes in their order. */
function costOf(problem: RoundsProblem): (r: readonly number[]) => number[] {
  return (r) => [
    (problem.rather ?? []).filter(([first, then, by]) => (r[first] as number) + by > (r[then] as number)).length,
    ...problem.early.map((weight) => r.reduce((s, c, v) => s + c * (weight[v] ?? 0), 0)),
  ];
}

function isLess(a: readonly number[], b: readonly number[]): boolean {
  for (let i = 0; i < a.length; i++) {
    const d = (a[i] as number) - (b[i] as number);
    if (Math.abs(d) > 1e-9) return d < 0;
  }
  return false;
}

/**
 * The best of all answers with as many rounds, by branch and bound from a good one: what a partial answer costs at least is
 * compared measure by measure. Cut short on large drawings, the best found so far stands.
 */
function bestOf(
  start: readonly number[],
  rounds: number,
  problem: RoundsProblem,
  adjacent: readonly Set<number>[],
  below: readonly Step[][],
  above: readonly Step[][],
  heads: readonly number[],
  tails: readonly number[],
): number[] {
  const n = start.length;
  const cost = costOf(problem);
  let best = [...start];
  let least = cost(best);
  // Below first, so that every order is known when its later end is placed.
  const order = [...Array(n).keys()].sort(
    (a, b) => (heads[a] as number) - (heads[b] as number) || (adjacent[b] as Set<number>).size - (adjacent[a] as Set<number>).size || a - b,
  );
  const range = order.map((v): [number, number] => [heads[v] as number, rounds - 1 - (tails[v] as number)]);
  // What the rest adds at least, wish by wish.
  const rest = problem.early.map((weight) => {
    const sums = Array<number>(n + 1).fill(0);
    for (let k = n - 1; k >= 0; k--) {
      const [from, to] = range[k] as [number, number];
      const w = weight[order[k] as number] ?? 0;
      sums[k] = (sums[k + 1] as number) + Math.min(from * w, to * w);
    }
    return sums;
  });
  const colour = Array<number>(n).fill(-1);
  const used = Array<number>(rounds).fill(0);
  let nodes = TIE_NODE_LIMIT;
  const inverted = () =>
    (problem.rather ?? []).filter(
      ([a, b, by]) => (colour[a] as number) >= 0 && (colour[b] as number) >= 0 && (colour[a] as number) + by > (colour[b] as number),
    ).length;
  const go = (k: number, sums: readonly number[]): void => {
    if (--nodes < 0) return;
    const bound = [inverted(), ...sums.map((s, i) => s + (rest[i]?.[k] as number))];
    if (!isLess(bound, least)) return;
    if (k === n) {
      if (used.some((u) => u === 0)) return;
      best = [...colour];
      least = bound;
      return;
    }
    const v = order[k] as number;
    const [from, to] = range[k] as [number, number];
    for (let c = from; c <= to; c++) {
      if ([...(adjacent[v] as Set<number>)].some((u) => colour[u] === c)) continue;
      if ((below[v] as Step[]).some((u) => (colour[u.to] as number) >= 0 && (colour[u.to] as number) + u.apart > c)) continue;
      if ((above[v] as Step[]).some((u) => (colour[u.to] as number) >= 0 && c + u.apart > (colour[u.to] as number))) continue;
      colour[v] = c;
      used[c] = (used[c] as number) + 1;
      go(
        k + 1,
        sums.map((s, i) => s + c * (problem.early[i]?.[v] ?? 0)),
      );
      used[c] = (used[c] as number) - 1;
      colour[v] = -1;
    }
  };
  go(
    0,
    problem.early.map(() => 0),
  );
  return best;
}

/** Among answers with the same number of rounds, moves and swaps until the early wishes cannot be met better (a local optimum). */
function arrange(
  start: readonly number[],
  rounds: number,
  problem: RoundsProblem,
  adjacent: readonly Set<number>[],
  below: readonly Step[][],
  above: readonly Step[][],
): number[] {
  let current = [...start];
  const cost = costOf(problem);
  const valid = (r: readonly number[]) => {
    const used = new Set(r);
    return (
      used.size === new Set(start).size &&
      r.every(
        (c, v) =>
          [...(adjacent[v] as Set<number>)].every((n) => r[n] !== c) &&
          (below[v] as Step[]).every((u) => (r[u.to] as number) + u.apart <= c) &&
          (above[v] as Step[]).every((w) => (r[w.to] as number) - w.apart >= c),
      )
    );
  };
  let best = cost(current);
  for (let improved = true; improved; ) {
    improved = false;
    const tries: number[][] = [];
    for (let a = 0; a < rounds; a++) for (let b = a + 1; b < rounds; b++) tries.push(current.map((c) => (c === a ? b : c === b ? a : c)));
    for (let v = 0; v < current.length; v++) {
      for (let c = 0; c < rounds; c++) {
        if (c === current[v]) continue;
        const moved = [...current];
        // A Kempe chain: everything that would clash along the two rounds changes sides with it.
        const from = current[v] as number;
        const chain = [v];
        const seen = new Set(chain);
        for (const x of chain)
          for (const n of adjacent[x] as Set<number>)
            if (!seen.has(n) && (current[n] === from || current[n] === c)) {
              seen.add(n);
              chain.push(n);
            }
        for (const x of chain) moved[x] = current[x] === from ? c : from;
        tries.push(moved);
      }
    }
    for (const t of tries) {
      if (!valid(t)) continue;
      const k = cost(t);
      if (isLess(k, best)) {
        current = t;
        best = k;
        improved = true;
      }
    }
  }
  return current;
}
