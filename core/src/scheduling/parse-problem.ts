import { z } from 'zod';
import { BadInput } from '../units/bad-input.js';
import { type FormatDefinition, openFormat } from '../units/format.js';
import { msg } from '../words/index.js';
import { levels, type Problem } from './problem.js';

const name = z.string().min(1);
const whole = z.int();
const count = z.int().min(0);
/** What may be left out, or said to be nothing. */
const orNothing = <T extends z.ZodType>(of: T) => of.nullish();
const note = z.unknown().optional();

const resource = z
  .strictObject({
    id: name,
    capacity: count,
    closed: orNothing(z.array(z.tuple([whole, whole]).refine(([from, to]) => to > from, msg`must end after it begins`))),
    changeover: orNothing(count),
    note,
  })
  .transform((r) => ({
    id: r.id,
    capacity: r.capacity,
    closed: [...(r.closed ?? [])].sort((a, b) => a[0] - b[0]),
    changeover: r.changeover ?? 0,
  }))
  .superRefine((r, ctx) => {
    const clash = r.closed.find((c, k) => (r.closed[k - 1]?.[1] ?? Number.NEGATIVE_INFINITY) > c[0]);
    if (clash) ctx.addIssue({ code: 'custom', path: ['closed'], message: msg`overlaps itself at ${clash[0]}` });
    if (r.changeover > 0 && r.capacity !== 1)
      ctx.addIssue({ code: 'custom', path: ['changeover'], message: msg`needs a capacity of 1, not ${r.capacity}` });
  });

const when = orNothing(z.record(z.string(), z.boolean()));
const option = z
  .strictObject({ id: name, excludes: orNothing(z.array(name)), note })
  .transform((o) => ({ id: o.id, ...(o.excludes ? { excludes: o.excludes } : {}) }));

const uses = z.record(z.string(), count);
const task = z
  .strictObject({
    id: name,
    duration: count.optional(),
    uses: orNothing(uses),
    usesOneOf: orNothing(z.array(z.strictObject({ uses: orNothing(uses), duration: count.optional() })).min(1)),
    family: orNothing(name),
    release: orNothing(whole),
    due: orNothing(whole),
    if: when,
    note,
  })
  .superRefine((t, ctx) => {
    if (t.duration === undefined && !t.usesOneOf?.every((w) => w.duration !== undefined))
      ctx.addIssue({ code: 'custom', path: ['duration'], message: msg`must be a whole number of at least 0` });
  })
  .transform((t) => {
    const ways = t.usesOneOf?.map((w) => ({ uses: w.uses ?? {}, duration: w.duration ?? (t.duration as number) }));
    return {
      id: t.id,
      duration: t.duration ?? Math.min(...(ways ?? []).map((w) => w.duration)),
      uses: t.uses ?? {},
      ...(ways ? { usesOneOf: ways } : {}),
      family: t.family ?? null,
      release: t.release ?? 0,
      due: t.due ?? null,
      ...(t.if ? { if: t.if } : {}),
    };
  });

const link = z
  .strictObject({
    from: name,
    to: name,
    anchor: z.enum(['end', 'start']).default('end'),
    min: whole.default(0),
    max: orNothing(whole),
    soft: orNothing(z.int().min(1)),
    if: when,
    note,
    reason: note,
  })
  .superRefine((l, ctx) => {
    if (l.from === l.to) ctx.addIssue({ code: 'custom', message: msg`links "${l.from}" to itself` });
    if (l.max != null && l.max < l.min) ctx.addIssue({ code: 'custom', message: msg`its max ${l.max} is less than its min ${l.min}` });
    if (l.soft != null && l.max == null) ctx.addIssue({ code: 'custom', path: ['soft'], message: msg`needs a max to be soft about` });
  })
  .transform((l) => ({
    from: l.from,
    to: l.to,
    anchor: l.anchor,
    min: l.min,
    max: l.max ?? null,
    ...(l.soft == null ? {} : { soft: l.soft }),
    ...(l.if ? { if: l.if } : {}),
  }));

const hold = z
  .strictObject({ resource: name, from: name, to: name, amount: z.int().min(1).default(1), if: when, note })
  .transform((h) => ({ resource: h.resource, from: h.from, to: h.to, amount: h.amount, ...(h.if ? { if: h.if } : {}) }));

const problem = z
  .strictObject({
    format: z.literal('kestfog-problem/1'),
    name: z.unknown().optional(),
    note,
    source: note,
    knownOptimum: note,
    resources: z.array(resource),
    tasks: z.array(task),
    links: z.array(link).default([]),
    objective: z.union([z.enum(['makespan', 'tardiness']), z.array(z.enum(levels)).min(1)]).default('makespan'),
    horizon: orNothing(count),
    epoch: z.unknown().optional(),
    holds: z.array(hold).default([]),
    options: z.array(option).default([]),
  })
  .transform(
    (p): Problem => ({
      format: p.format,
      ...(typeof p.name === 'string' ? { name: p.name } : {}),
      resources: p.resources,
      tasks: p.tasks,
      links: p.links,
      objective: p.objective,
      ...(p.holds.length > 0 ? { holds: p.holds } : {}),
      ...(p.options.length > 0 ? { options: p.options } : {}),
      ...(p.horizon == null ? {} : { horizon: p.horizon }),
      ...(typeof p.epoch === 'string' ? { epoch: p.epoch } : {}),
    }),
  );

/** `kestfog-problem`: what the engine schedules, from outside. */
export const problemFormat: FormatDefinition<Problem> = { name: 'kestfog-problem', version: 1, migrations: {}, schema: problem };

/** Checks JSON of `kestfog-problem/1`; throws {@link BadInput} that names the place. */
export function parseProblem(json: unknown): Problem {
  const p = openFormat(problemFormat, json);
  const bad = (place: string, cure: string): never => {
    throw new BadInput('format', `${place}: ${cure}.`, { place });
  };
  unique(
    p.resources.map((r) => r.id),
    'resources',
  );
  unique(
    p.tasks.map((t) => t.id),
    'tasks',
  );
  if (Array.isArray(p.objective)) unique(p.objective, 'objective');
  const resources = new Set(p.resources.map((r) => r.id));
  const tasks = new Set(p.tasks.map((t) => t.id));
  for (const [i, t] of p.tasks.entries())
    for (const named of [t.uses ?? {}, ...(t.usesOneOf ?? []).map((w) => w.uses)])
      for (const r of Object.keys(named))
        if (!resources.has(r)) bad(`tasks[${i}] (${t.id}).uses`, msg`names the resource "${r}", which does not exist`);
  for (const [i, h] of (p.holds ?? []).entries())
    if (!resources.has(h.resource)) bad(`holds[${i}].resource`, msg`names the resource "${h.resource}", which does not exist`);
  const options = p.options ?? [];
  unique(
    options.map((o) => o.id),
    'options',
  );
  const known = new Set(options.map((o) => o.id));
  for (const [i, o] of options.entries())
    for (const x of o.excludes ?? [])
      if (!known.has(x) || x === o.id) bad(`options[${i}].excludes`, msg`names the option "${x}", which is no other option`);
  for (const [where, list] of [['tasks', p.tasks] as const, ['links', p.links] as const, ['holds', p.holds ?? []] as const])
    for (const [i, x] of list.entries())
      for (const id of Object.keys(x.if ?? {}))
        if (!known.has(id)) bad(`${where}[${i}].if`, msg`names the option "${id}", which does not exist`);
  for (const [list, where] of [[p.links, 'links'] as const, [p.holds ?? [], 'holds'] as const])
    for (const [i, l] of list.entries())
      for (const key of ['from', 'to'] as const)
        if (!tasks.has(l[key])) bad(`${where}[${i}].${key}`, msg`names the task "${l[key]}", which does not exist`);
  return p;
}

function unique(ids: readonly string[], place: string): void {
  const seen = new Set<string>();
  for (const id of ids) {
    if (seen.has(id)) throw new BadInput('format', msg`${place}: "${id}" is there twice.`, { place });
    seen.add(id);
  }
}
