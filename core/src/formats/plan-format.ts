import { z } from 'zod';
import type { Part, PipedLine, Section, WetMark } from '../design/design.js';
import { migratedSchool } from '../steps/school.js';
import { USUAL_TIPS } from '../steps/tips.js';
import { type FormatDefinition, type Json, openFormat } from '../units/format.js';
import { orderInFullNames, placeInFull } from './order.js';
import type { Plan } from './plan.js';

const seconds = z.number();
const bag = z.looseObject({ colour: z.string(), seconds });
const step = z.looseObject({
  id: z.string(),
  technique: z.string(),
  kind: z.enum(['prepare', 'dam', 'flood', 'mark', 'detail', 'pack']),
  part: z.string(),
  parts: z.array(z.string()),
  label: z.string(),
  round: z.int(),
  seconds,
  bag: bag.nullable(),
  sectionId: z.string().nullable(),
  inside: z.array(z.string()),
});
const why = { rule: z.string(), facts: z.looseObject({ kind: z.string() }) };
const gap = z.looseObject({ from: z.string(), to: z.string(), ...why });
const part = z.looseObject({ role: z.enum(['section', 'line', 'mark', 'guide']), id: z.string(), name: z.string(), colour: z.string() });
const design = z.looseObject({
  id: z.string(),
  file: z.string(),
  count: z.int(),
  spares: z.int(),
  graph: z.looseObject({
    rounds: z.int(),
    roundsProven: z.boolean(),
    sections: z.array(z.looseObject({ id: z.string() })),
    steps: z.array(step),
    gaps: z.array(gap),
  }),
  drawing: z.looseObject({
    name: z.string(),
    cookie: z.array(z.array(z.looseObject({ x: z.number(), y: z.number() }))),
    parts: z.array(part),
  }),
});
const task = z.looseObject({
  id: z.string(),
  by: z.string(),
  kind: z.enum(['prepare', 'outline', 'wet', 'detail', 'pack', 'carry', 'take-out']),
  trayId: z.string(),
  lotId: z.string().nullable(),
  cookies: z.tuple([z.int(), z.int()]),
  startS: seconds,
  endS: seconds,
  bags: z.array(bag),
  motions: z.array(z.looseObject({ stepId: z.string(), startS: z.array(seconds), endS: z.array(seconds) })),
});

/**
 * `kestfog-plan`. Version 1 kept a drawing as three lists and steps without what they lie in; version 2 keeps the stack; version 3
 * says what each stay is for, and knows the kitchen's tips; version 4 keeps facts where it kept sentences, and
 * names opening hours and the dehydrator as orders of version 3 do.
 * A plan is opened leniently: what a later planner adds to it is carried along.
 */
export const planFormat: FormatDefinition<Plan> = {
  name: 'kestfog-plan',
  version: 4,
  migrations: { 1: toOneStack, 2: withHands, 3: (json) => inFullNames(wordsAsFacts(json)) },
  schema: z.looseObject({
    format: z.literal('kestfog-plan/4'),
    order: z.looseObject({
      format: z.string(),
      school: z.looseObject({ id: z.string(), wiping: z.string(), contrastOn: z.string(), drops: z.string() }),
    }),
    openingHours: z.array(z.tuple([seconds, seconds])),
    designs: z.array(design),
    trays: z.array(
      z.looseObject({ id: z.string(), lots: z.array(z.looseObject({ id: z.string(), designId: z.string(), cookies: z.int() })) }),
    ),
    tasks: z.array(task),
    stays: z.array(
      z.looseObject({
        id: z.string(),
        where: z.enum(['fan', 'dehydrator']),
        trayId: z.string(),
        why: z.enum(['time', 'pools', 'asked', 'dries']),
        startS: seconds,
        endS: seconds,
      }),
    ),
    waits: z.array(z.looseObject({ from: z.string(), to: z.string(), minS: seconds, maxS: seconds.nullable(), ...why })),
  }) as unknown as z.ZodType<Plan>,
};

/** A plan of any released version. Throws a BadInput that names the place. */
export const openPlan = (json: unknown): Plan => openFormat(planFormat, json);

/** A plan as it was kept: one of this version is as it is, one of an earlier release is brought up to date. */
export const planUpToDate = (kept: Plan): Plan => (kept.format === `${planFormat.name}/${planFormat.version}` ? kept : openPlan(kept));

/** Every entry changed; what is no list is left for the schema to refuse. */
const all = (list: unknown, change: (x: Json) => Json): unknown => (Array.isArray(list) ? list.map(change) : list);
/** Entries with what they did not say yet. */
const each = (list: unknown, unsaid: Json): unknown => all(list, (x) => ({ ...unsaid, ...x }));

/** Stays were there to save time, and tips were the usual ones. */
function withHands(json: Json): Json {
  const order = json['order'] as Json;
  return {
    ...json,
    designs: each(json['designs'], { pieces: false }),
    order: {
      tips: USUAL_TIPS,
      piecesFrom: null,
      ...order,
      designs: each(order['designs'], { pieces: false }),
      format: 'kestfog-order/2',
      school: migratedSchool(order['school'] as Json),
    },
    tasks: each(json['tasks'], { batch: 1 }),
    stays: each(json['stays'], { batch: null, why: 'time' }),
  };
}

/** Why something waits was a sentence: it is kept as it was written. */
function wordsAsFacts(json: Json): Json {
  const kept = <T extends Json>({ reason, consequence, ...rest }: T): Json => ({
    ...rest,
    facts: { kind: 'in-words', reason: reason ?? '', consequence: consequence ?? '' },
  });
  return {
    ...json,
    designs: all(json['designs'], (d) => {
      const graph = d['graph'] as Json;
      return { ...d, graph: { ...graph, gaps: all(graph['gaps'], kept) } };
    }),
    tasks: all(json['tasks'], (t) => {
      const because = t['because'] as Json | undefined;
      return because?.['kind'] === 'drying' ? { ...t, because: kept(because) } : t;
    }),
    waits: all(json['waits'], kept),
  };
}

/** `bench`, `box` and what was named after them. */
function inFullNames({ bench, boxAir, ...rest }: Json): Json {
  const order = rest['order'] as Json;
  return {
    ...rest,
    order: { ...orderInFullNames(order), format: 'kestfog-order/3', school: migratedSchool(order['school'] as Json) },
    openingHours: bench,
    dehydratorAir: boxAir,
    // A plan that was late was not kept.
    late: null,
    stays: all(rest['stays'], placeInFull),
    tasks: all(rest['tasks'], (t) =>
      (t['because'] as Json | undefined)?.['kind'] === 'bench' ? { ...t, because: { kind: 'opening-hours' } } : t,
    ),
  };
}

type OldDesign = Json & {
  readonly drawing: Json & {
    sections: Omit<Section, 'role' | 'drawn'>[];
    lines: Omit<PipedLine, 'role'>[];
    marks: Omit<WetMark, 'role'>[];
  };
};

/** Three lists as one stack: floods in their order, each with what lies wet in it, then what is done on them. */
function toOneStack(json: Json): Json {
  const order = json['order'] as Json;
  const designs = (json['designs'] as OldDesign[]).map((d) => {
    const { sections, lines, marks, ...drawing } = d.drawing;
    const parts: Part[] = [
      ...sections.flatMap((s): Part[] => [
        { ...s, role: 'section', drawn: s.shape },
        ...marks.filter((m) => m.sectionId === s.id).map((m): Part => ({ ...m, role: 'mark' })),
      ]),
      ...lines.map((l): Part => ({ ...l, role: 'line' })),
    ];
    const graph = d['graph'] as Json;
    const steps = (graph['steps'] as Json[]).map((s) => ({ ...s, inside: s['sectionId'] === null ? [] : [s['sectionId']] }));
    return { ...d, drawing: { ...drawing, parts }, graph: { ...graph, steps } };
  });
  return { ...json, order: { ...order, school: migratedSchool(order['school'] as Json) }, designs };
}
