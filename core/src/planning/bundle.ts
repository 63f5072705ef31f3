import type { StepGraph } from '../steps/derive.js';
import { type Bag, bagKey, bagsKey, type Step } from '../steps/step.js';

/** Steps done in one go at the tray, cookie after cookie. */
export interface Bundle {
  readonly id: string;
  readonly kind: 'prepare' | 'outline' | 'wet' | 'detail' | 'pack';
  readonly round: number;
  /** where it comes among what is done in that round before a tray goes to dry */
  readonly batch: number;
  readonly steps: readonly Step[];
  /** bags used, in the order they are picked up first */
  readonly bags: readonly Bag[];
  /** tasks of different family cost a changeover */
  readonly family: string | null;
}

/** Groups the steps of one cookie into bundles; the wet work of a section, or in a bead, never leaves it. */
export function bundlesOf(graph: StepGraph): Bundle[] {
  const out: Bundle[] = [];
  const batch = batchesOf(graph);
  const add = (id: string, kind: Bundle['kind'], round: number, steps: readonly Step[]) => {
    const bags: Bag[] = [];
    for (const s of steps) if (s.bag && !bags.some((b) => bagKey(b) === bagKey(s.bag as Bag))) bags.push(s.bag);
    const tool = kind === 'detail' ? (steps[0]?.technique ?? null) : null;
    out.push({
      id,
      kind,
      round,
      batch: Math.max(1, ...steps.map((s) => batch.get(s.id) as number)),
      steps,
      bags,
      family: bags.length > 0 ? bagsKey(bags) : tool,
    });
  };
  const of = (kind: Step['kind']) => graph.steps.filter((s) => s.kind === kind);
  add('prepare', 'prepare', 0, of('prepare'));
  // A dam that skins before its flood is piped in a visit of its own, with all that can be drawn on the bare cookie.
  const apart = of('dam').filter((dam) =>
    graph.gaps.some(
      (g) =>
        g.from === dam.id &&
        g.minState !== undefined &&
        graph.steps.some((s) => s.id === g.to && s.kind === 'flood' && s.part === dam.part),
    ),
  );
  const afterIcing = stepsAfterIcing(graph);
  const bare = apart.filter((s) => !afterIcing.has(s.id));
  if (bare.length > 0)
    add(
      'outline',
      'outline',
      1,
      [...bare].sort((a, b) => (bagOf(a) < bagOf(b) ? -1 : 1)),
    );
  for (const s of apart) if (!bare.includes(s)) add(`outline.${s.part}`, 'outline', s.round, [s]);
  const wet = new Map<string, Step[]>();
  const keyOf = (flood: Step) => `r${flood.round}${flood.batch > 1 ? `b${flood.batch}` : ''}.${bagOf(flood).replace('#', '')}`;
  // Sections that lie flush are flooded in one go, whatever their bags: the bundle of the first is that of all.
  const joined = new Map<string, Step>();
  for (const gap of graph.gaps.filter((g) => g.rule === 'flush-join')) {
    const [from, to] = [gap.from, gap.to].map((id) => graph.steps.find((s) => s.id === id) as Step) as [Step, Step];
    joined.set(to.part, joined.get(from.part) ?? from);
  }
  for (const flood of of('flood')) {
    const key = keyOf(joined.get(flood.part) ?? flood);
    const own = graph.steps.filter((s) => s.sectionId === flood.part && !apart.includes(s));
    wet.set(key, [...(wet.get(key) ?? []), ...own]);
  }
  for (const [key, steps] of wet) add(key, 'wet', (steps[0] as Step).round, steps);
  for (const s of of('detail'))
    add(s.id, 'detail', s.round, [s, ...graph.steps.filter((m) => m.kind === 'mark' && m.sectionId === s.part)]);
  add('pack', 'pack', Math.max(0, ...graph.steps.map((s) => s.round)), of('pack'));
  return out;
}

/**
 * Batch of every step in its round: that of its flood. A detail that leads to a flood of its round comes with that; any other comes
 * after all floods of the round, so that small pools go to dry before anything is piped.
 */
function batchesOf(graph: StepGraph): ReadonlyMap<string, number> {
  const batch = new Map(graph.steps.map((s) => [s.id, s.batch]));
  const round = new Map(graph.steps.map((s) => [s.id, s.round]));
  const sameRound = graph.gaps.filter((g) => round.get(g.from) === round.get(g.to));
  const leads = new Set(graph.steps.filter((s) => s.kind === 'flood' || s.kind === 'dam').map((s) => s.id));
  for (let pass = 0, changed = true; changed && pass <= graph.steps.length; pass++) {
    changed = false;
    for (const g of sameRound)
      if (leads.has(g.to) && !leads.has(g.from)) {
        leads.add(g.from);
        changed = true;
      }
  }
  const lastFlood = (r: number) => Math.max(0, ...graph.steps.filter((s) => s.kind === 'flood' && s.round === r).map((s) => s.batch));
  for (const s of graph.steps) if (s.kind === 'detail' && !leads.has(s.id)) batch.set(s.id, lastFlood(s.round) + 1);
  for (let pass = 0, changed = true; changed && pass <= graph.steps.length; pass++) {
    changed = false;
    for (const g of sameRound) {
      const [from, to] = [batch.get(g.from) as number, batch.get(g.to) as number];
      if (from <= to) continue;
      batch.set(g.to, from);
      changed = true;
    }
  }
  return batch;
}

/** Steps that come after a flood, directly or through others. */
function stepsAfterIcing(graph: StepGraph): ReadonlySet<string> {
  const out = new Map<string, string[]>();
  for (const g of graph.gaps) out.set(g.from, [...(out.get(g.from) ?? []), g.to]);
  const after = new Set<string>(graph.steps.filter((s) => s.kind === 'flood').flatMap((s) => out.get(s.id) ?? []));
  for (const id of after) for (const next of out.get(id) ?? []) after.add(next);
  return after;
}

const bagOf = (s: Step) => (s.bag ? bagKey(s.bag) : '');
