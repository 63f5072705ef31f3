import { partById } from '../design/design.js';
import type { Words } from '../design/words.js';
import { dryingStates, stateThresholds } from '../drying/state.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { type Edge, stateOf } from './edges.js';
import type { GapContext } from './gap-context.js';
import type { Item } from './items.js';
import { packing } from './packing.js';
import type { School } from './school.js';
import type { Gap, Step } from './step.js';
import { techniqueById } from './techniques/index.js';
import type { MeetingFacts } from './why.js';

/** What the dam, the flood (or the detail) and the wet work of an item are, as steps. */
interface Own {
  readonly dam: Step | undefined;
  readonly main: Step;
  readonly marks: readonly Step[];
}

const NOBODY: ReadonlySet<string> = new Set();

/** All waits and windows of one cookie: the law's answers along the order of its items, and the windows of what lies wet. */
export function gapsOf(context: GapContext): Gap[] {
  const { design, school, items, order, steps } = context;
  // Looked up once: a cookie of a thousand parts asks for each of them many times.
  const byKindAndPart = new Map<string, Step>();
  const marksOfBody = new Map<string, Step[]>();
  const wetInside = new Map<string, Step[]>();
  const bodyOfPart = new Map<string, Step>();
  const listed = (in_: Map<string, Step[]>, id: string, s: Step) => {
    const list = in_.get(id);
    if (list) list.push(s);
    else in_.set(id, [s]);
  };
  for (const s of steps) {
    const key = `${s.kind} ${s.part}`;
    if (!byKindAndPart.has(key)) byKindAndPart.set(key, s);
    if (s.kind === 'mark' && s.sectionId !== null) listed(marksOfBody, s.sectionId, s);
    if (s.kind === 'mark') for (const id of new Set(s.inside)) listed(wetInside, id, s);
    if (s.kind === 'flood' || s.kind === 'detail') for (const id of s.parts) if (!bodyOfPart.has(id)) bodyOfPart.set(id, s);
  }
  const placeOf = new Map(steps.map((s, i) => [s, i]));
  const own = new Map<Item, Own>(
    items.map((item) => {
      const id = item.section?.id ?? item.run[0]?.id;
      const main = byKindAndPart.get(`${item.section ? 'flood' : 'detail'} ${id}`) as Step;
      return [item, { dam: byKindAndPart.get(`dam ${id}`), main, marks: marksOfBody.get(id ?? '') ?? [] }];
    }),
  );
  const of = (i: Item) => own.get(i) as Own;
  const late = lateDams(items, order.edges, school);
  const gaps: Gap[] = [];
  const onward = new Map<string, Set<string>>();
  let indexed = 0;
  for (const edge of order.edges) gaps.push(...gapsOfEdge(edge, of(edge.a), of(edge.b)));
  for (const item of items) gaps.push(...damAndFlood(item), ...wetWindows(item));
  flushJoins();
  fewPools();
  drawnOrderOfOneBag();
  damsBeforeNeighbours();
  const packed = steps.flatMap((s) => packing(s, context));
  const begun = new Set(gaps.map((g) => g.to));
  const prepared = steps
    .filter((s) => s.kind !== 'prepare' && s.kind !== 'pack' && (s.kind === 'dam' || !begun.has(s.id)))
    .map(
      (s): Gap => ({
        from: 'preparation.cookie',
        to: s.id,
        minSeconds: 0,
        rule: 'prepared-first',
        facts: { kind: 'prepared' },
      }),
    );
  return [...prepared, ...gaps, ...packed];

  function gapsOfEdge(edge: Edge, a: Own, b: Own): Gap[] {
    const said = edge.on || (edge.rule === 'touching-sections' && !liesOn(edge.b)) ? wordsOf(edge.b) : undefined;
    const { rule } = edge;
    const targets = targetsOf(edge, b);
    const grainsOfA = edge.rule === 'grains-reach' ? a.marks.filter((s) => s.technique === 'sprinkle') : [];
    const grainsOfB = edge.rule === 'grains-reach' ? b.marks.filter((s) => s.technique === 'sprinkle') : [];
    const froms =
      grainsOfA.length > 0 && edge.answer.kind === 'at-once' ? grainsOfA : edge.rule === 'as-you-said' ? finished(edge, a) : [a.main];
    const tos = grainsOfB.length > 0 && edge.answer.kind === 'state' ? grainsOfB : targets;
    // A wet dam is wetter than any flood it has not got yet: what is piped early must be as dry when grains fall.
    const dams =
      edge.rule === 'grains-reach' && edge.answer.kind === 'state' && a.dam?.region && !late.has(edge.a) && school.outline === 'set'
        ? [a.dam]
        : [];
    return [...froms, ...dams].flatMap((from) =>
      tos.map((to): Gap => {
        return { from: from.id, to: to.id, ...waitOf(edge, from, to, said), ...fearOf(edge, from), rule, facts: meetingFacts(edge, said) };
      }),
    );
  }

  /** A flood beside one that has dried through may crater: a school that fears it floods before that, if it can. */
  function fearOf({ rule, answer }: Edge, from: Step): Partial<Gap> {
    if (
      school.driedNeighbour !== 'feared' ||
      rule !== 'touching-sections' ||
      answer.kind !== 'state' ||
      from.kind !== 'flood' ||
      !from.region
    )
      return {};
    return { ratherBeforeLossKgPerM2: stateThresholds(from.region).firm };
  }

  /** What a step waits for another by the law's answer and the part's own words. */
  function waitOf(edge: Edge, from: Step, to: Step, said: Words | undefined): Partial<Gap> {
    const { answer, b } = edge;
    const thresholds = from.region && stateThresholds(from.region);
    const until = to.kind === 'detail' && edge.on && from.kind === 'flood' ? techniqueById(to.technique).until : null;
    const asked =
      said?.needs && answer.kind === 'state'
        ? { state: said.needs, times: 1 }
        : answer.kind === 'state'
          ? { state: answer.state, times: answer.times ?? 1 }
          : null;
    if (until && asked && dryingStates.indexOf(asked.state) >= dryingStates.indexOf(until)) {
      throw new BadInput(
        'contradiction',
        msg`"${b.name}" says data-needs="${asked.state}", which contradicts ${b.technique.label}, possible only until the crust shuts: ask
          for less.`,
        { place: b.id },
      );
    }
    const waitS = said?.waitMin === undefined ? undefined : said.waitMin * 60;
    // Minutes alone stand in place of the state; with a state asked for, both hold.
    const byState = asked && thresholds && (waitS === undefined || said?.needs);
    const window = until && thresholds ? { maxState: until, maxLossKgPerM2: thresholds[until], oneBody: true as const } : {};
    const least = byState
      ? { minState: asked.state, minLossKgPerM2: asked.times * thresholds[asked.state], firmLossKgPerM2: thresholds.firm }
      : {};
    const seconds = waitS ?? (answer.kind === 'at-once' ? (answer.seconds ?? 0) : byState ? undefined : 0);
    return {
      ...least,
      ...(seconds === undefined ? {} : { minSeconds: seconds }),
      ...window,
      ...(said?.withinMin === undefined ? {} : { maxSeconds: said.withinMin * 60 }),
      ...(byState && answer.kind === 'state' && answer.careful ? { careful: true as const } : {}),
    };
  }

  /** Steps of the later item that have to wait: its dam too, unless that was drawn on the bare cookie. */
  function targetsOf(edge: Edge, b: Own): Step[] {
    if (!edge.b.section || !b.dam) return [b.main];
    const damIsEarly = school.outline === 'set' && !late.has(edge.b);
    const beside = edge.a.section !== null;
    return damIsEarly && beside && damColourOf(edge.b) !== 'contrast' ? [b.main] : [b.dam, b.main];
  }

  /** What must be done before another begins: the flood or the detail itself, or the mark that was named. */
  function finished(edge: Edge, a: Own): Step[] {
    const said = edge.said ? [edge.b.section, ...edge.b.run, ...edge.b.marks].find((p) => p?.id === edge.said)?.words?.after : undefined;
    const named = a.marks.filter((s) => s.parts.some((p) => said?.some((id) => p === id || p.startsWith(`${id}.`))));
    return named.length > 0 ? named : [a.main];
  }

  function liesOn(b: Item): boolean {
    return order.edges.some((e) => e.b === b && e.on);
  }

  function damAndFlood(item: Item): Gap[] {
    const { dam, main } = of(item);
    if (!dam?.region) return [];
    const thresholds = stateThresholds(dam.region);
    const contrast = damColourOf(item) === 'contrast';
    if (school.outline === 'merges' && !contrast)
      return [
        {
          from: dam.id,
          to: main.id,
          minSeconds: 0,
          maxState: 'thickening',
          maxLossKgPerM2: thresholds.thickening,
          rule: 'outline-then-flood',
          facts: { kind: 'dam', part: item.name, dam: 'melts' },
        },
      ];
    return [
      {
        from: dam.id,
        to: main.id,
        minState: 'skinned',
        minLossKgPerM2: thresholds.skinned,
        rule: 'outline-then-flood',
        facts: { kind: 'dam', part: item.name, dam: contrast ? 'keeps-colour' : 'holds' },
      },
    ];
  }

  /** Wet work begins at once or after the school's pause and ends before its technique's window shuts; marks keep their order. */
  function wetWindows(item: Item): Gap[] {
    const { main, marks } = of(item);
    if (!main.region) return [];
    const out: Gap[] = [];
    for (const [i, step] of marks.entries()) {
      const definition = techniqueById(step.technique);
      const until = definition.until ?? 'thickening';
      const words = wordsOfMark(step);
      if (words?.needs && (definition.until === null || dryingStates.indexOf(words.needs) >= dryingStates.indexOf(until)))
        throw new BadInput(
          'contradiction',
          msg`"${step.part}" says data-needs="${words.needs}", but ${definition.label} go into wet icing: make it a detail, or take that
            away.`,
          { place: step.part },
        );
      if (words?.first)
        throw new BadInput('contradiction', msg`"${step.part}" says data-first, but it lies wet in "${item.name}": say it of that.`, {
          place: step.part,
        });
      for (const bodyId of step.inside) {
        const body = bodyOfPart.get(bodyId);
        if (!body?.region) continue;
        const thresholds = stateThresholds(body.region);
        const pauseS = i === 0 && body.kind === 'flood' ? school.pauseS : 0;
        out.push({
          from: body.id,
          to: step.id,
          ...(words?.needs ? { minState: words.needs, minLossKgPerM2: thresholds[words.needs], firmLossKgPerM2: thresholds.firm } : {}),
          minSeconds: words?.waitMin === undefined ? pauseS : words.waitMin * 60,
          maxState: until,
          maxLossKgPerM2: thresholds[until],
          ...(words?.withinMin === undefined ? {} : { maxSeconds: words.withinMin * 60 }),
          rule: 'wet-window',
          facts: { kind: 'wet', work: step.label, into: nameOf(bodyId), technique: step.technique },
        });
      }
    }
    const inIt = [...new Set(main.parts.flatMap((id) => wetInside.get(id) ?? []))].sort(
      (a, b) => (placeOf.get(a) as number) - (placeOf.get(b) as number),
    );
    for (const [i, step] of inIt.entries()) {
      const before = inIt[i - 1];
      // Marks of another flood in the group come where theirs are listed; the pair is listed once, at its own flood.
      if (before && (step.sectionId === main.part || before.sectionId === main.part))
        out.push({
          from: before.id,
          to: step.id,
          minSeconds: 0,
          rule: 'marks-in-order',
          facts: { kind: 'next-mark', earlier: before.label, later: step.label },
        });
    }
    return out;
  }

  function wordsOfMark(step: Step): Words | undefined {
    const part = partById(design, step.part);
    return part?.role === 'mark' ? part.words : undefined;
  }
  function nameOf(id: string): string {
    return partById(design, id)?.name ?? id;
  }

  /** Sections meant to lie level meet while both are wet: the later is flooded before the earlier thickens. */
  function flushJoins(): void {
    const floods = items.filter((i) => i.section);
    for (const a of floods) {
      for (const b of floods) {
        if (!a.section?.flushWith?.includes(b.id) || a.at >= b.at) continue;
        const [from, to] = [of(a).main, of(b).main];
        gaps.push({
          from: from.id,
          to: to.id,
          minSeconds: 0,
          maxState: 'thickening',
          maxLossKgPerM2: stateThresholds(from.region as NonNullable<Step['region']>).thickening,
          rule: 'flush-join',
          facts: { kind: 'level', earlier: a.name, later: b.name },
        });
      }
    }
  }

  /** A few small pools are wet at a time: the next few follow once the last have skinned. */
  function fewPools(): void {
    for (const [i, batch] of order.pools.entries()) {
      for (const a of batch) {
        for (const b of order.pools[i + 1] ?? []) {
          const from = of(a).main;
          for (const to of school.outline === 'merges' && of(b).dam ? [of(b).dam as Step, of(b).main] : [of(b).main])
            gaps.push({
              from: from.id,
              to: to.id,
              minState: 'skinned',
              minLossKgPerM2: stateThresholds(from.region as NonNullable<Step['region']>).skinned,
              rule: 'few-pools',
              facts: { kind: 'next-pools', earlier: a.name, dehydratorMin: school.quickSetDehydratorMin, fanMin: school.quickSetFanMin },
            });
        }
      }
    }
  }

  /** Details piped from one bag on the same icing keep the order they were drawn in. */
  function drawnOrderOfOneBag(): void {
    const details = items.filter((i) => !i.section && i.technique.icing);
    const basesOf = new Map<Item, Item[]>();
    for (const e of order.edges) if (e.on && e.a.section) basesOf.set(e.b, [...(basesOf.get(e.b) ?? []), e.a]);
    const sharesBase = (a: Item, b: Item) => basesOf.get(a)?.some((x) => basesOf.get(b)?.includes(x)) === true;
    const before: Item[] = [];
    for (const b of details) {
      const a = before.findLast((x) => x.technique === b.technique && sameBag(of(x).main, of(b).main));
      before.push(b);
      if (!a || !sharesBase(a, b) || goesOn(of(a).main.id).has(of(b).main.id)) continue;
      if (reaches(of(b).main.id, of(a).main.id)) continue;
      gaps.push({
        from: of(a).main.id,
        to: of(b).main.id,
        minSeconds: 0,
        rule: 'laid-over',
        facts: { kind: 'as-drawn', earlier: a.name, later: b.name },
      });
    }
  }
  /** What waits for a step itself; gaps that came since are taken in first. */
  function goesOn(from: string): ReadonlySet<string> {
    for (; indexed < gaps.length; indexed++) {
      const { from: a, to: b } = gaps[indexed] as Gap;
      const next = onward.get(a);
      if (next) next.add(b);
      else onward.set(a, new Set([b]));
    }
    return onward.get(from) ?? NOBODY;
  }
  function reaches(from: string, to: string): boolean {
    const seen = new Set([from]);
    for (const v of seen) {
      if (v === to) return true;
      for (const next of goesOn(v)) seen.add(next);
    }
    return false;
  }

  /** Where dams set, all of them are drawn on the bare cookie: a bead laid against a wet neighbour would run into it. */
  function damsBeforeNeighbours(): void {
    if (school.outline !== 'set') return;
    for (const { a, b, touching } of order.edges) {
      const { dam } = of(b);
      if (!touching || !a.section || !b.section || !dam || late.has(b) || damColourOf(b) === 'contrast') continue;
      gaps.push({
        from: dam.id,
        to: of(a).main.id,
        minSeconds: 0,
        rule: 'dam-before-neighbour',
        facts: { kind: 'dam-first', dam: b.name, beside: a.name },
      });
    }
  }
}

/** What a meeting is about: the two parts, how they meet, and what is asked. */
function meetingFacts({ a, b, answer, rule, touching, on }: Edge, said: Words | undefined): MeetingFacts {
  const state = stateOf(answer);
  const own = {
    ...(said?.needs === undefined ? {} : { state: said.needs }),
    ...(said?.waitMin === undefined ? {} : { minutes: said.waitMin }),
  };
  return {
    kind: 'meeting',
    earlier: a.name,
    later: b.name,
    technique: b.technique.id,
    isFlood: b.section !== null,
    how: rule === 'touching-sections' || touching ? 'beside' : on ? 'on' : 'after',
    ask: answer.ask,
    ...(state === undefined ? {} : { state }),
    ...(Object.keys(own).length > 0 ? { said: own } : {}),
  };
}

const sameBag = (a: Step, b: Step): boolean =>
  a.bag !== null && b.bag !== null && a.bag.colour === b.bag.colour && a.bag.seconds === b.bag.seconds;
const damColourOf = (i: Item) => i.section?.words?.dam;
const wordsOf = (i: Item): Words | undefined => i.section?.words ?? i.run[0]?.words;

/**
 * Floods whose dam cannot be drawn on the bare cookie with the others: layers, and whatever follows something that is
 * done on icing already.
 */
function lateDams(items: readonly Item[], edges: readonly Edge[], school: School): ReadonlySet<Item> {
  const late = new Set<Item>();
  const onIcing = new Set<Item>();
  for (const i of items) if (i.section && i.section.layerOn.length > 0) late.add(i);
  if (school.outline !== 'set') return late;
  for (let changed = true; changed; ) {
    changed = false;
    for (const e of edges) {
      if (!e.b.section && (e.a.section || onIcing.has(e.a)) && !onIcing.has(e.b)) {
        onIcing.add(e.b);
        changed = true;
      }
      const follows = onIcing.has(e.a) || (e.rule === 'grains-reach' && e.answer.kind === 'at-once');
      if (e.b.section && follows && !late.has(e.b)) {
        late.add(e.b);
        changed = true;
      }
    }
  }
  return late;
}
