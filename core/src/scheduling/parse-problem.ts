import { BadInput } from '../units/bad-input.js';
import type { Link, Problem, Resource, Task } from './problem.js';

const bad = (place: string, cure: string): never => {
  throw new BadInput('problem', `${place}: ${cure}.`, { place });
};
type Obj = Record<string, unknown>;
const isObject = (v: unknown): v is Obj => typeof v === 'object' && v !== null && !Array.isArray(v);
const whole = (v: unknown, place: string, least = Number.MIN_SAFE_INTEGER): number => {
  if (typeof v !== 'number' || !Number.isSafeInteger(v) || v < least)
    return bad(place, `must be a whole number${least > Number.MIN_SAFE_INTEGER ? ` of at least ${least}` : ''}, not ${JSON.stringify(v)}`);
  return v;
};
const text = (v: unknown, place: string): string => (typeof v === 'string' && v !== '' ? v : bad(place, `must be a name, not ${JSON.stringify(v)}`));
const list = (v: unknown, place: string): unknown[] => (Array.isArray(v) ? v : bad(place, 'must be a list'));
const only = (o: Obj, known: readonly string[], place: string) => {
  for (const k of Object.keys(o)) if (!known.includes(k)) bad(`${place}.${k}`, 'is not known here');
};

/** Optional parts of the format that this engine does not read yet; refusing is better than a wrong answer. */
const NOT_READ = ['holds'] as const;

/** Checks JSON of `kestfog-problem/1`; throws {@link BadInput} that names the place. */
export function parseProblem(json: unknown): Problem {
  if (!isObject(json)) return bad('problem', 'must be a JSON object');
  if (json['format'] !== 'kestfog-problem/1') bad('format', `must be "kestfog-problem/1", not ${JSON.stringify(json['format'])}`);
  for (const key of NOT_READ) if (key in json) bad(key, 'is not supported by this version of the engine');
  only(json, ['format', 'name', 'note', 'source', 'knownOptimum', 'resources', 'tasks', 'links', 'objective', 'horizon', 'epoch'], 'problem');

  const resources = list(json['resources'], 'resources').map((r, i): Resource => {
    const place = `resources[${i}]`;
    if (!isObject(r)) return bad(place, 'must be an object');
    only(r, ['id', 'capacity', 'closed', 'changeover', 'note'], place);
    const id = text(r['id'], `${place}.id`);
    const capacity = whole(r['capacity'], `${place}.capacity`, 0);
    const changeover = r['changeover'] === undefined || r['changeover'] === null ? 0 : whole(r['changeover'], `${place}.changeover`, 0);
    if (changeover > 0 && capacity !== 1) bad(`${place}.changeover`, `needs a capacity of 1, not ${capacity}`);
    const closed = (r['closed'] === undefined || r['closed'] === null ? [] : list(r['closed'], `${place}.closed`)).map((c, k): readonly [number, number] => {
      const at = `${place}.closed[${k}]`;
      if (!Array.isArray(c) || c.length !== 2) return bad(at, 'must be [from, to]');
      const from = whole(c[0], `${at}[0]`);
      const to = whole(c[1], `${at}[1]`);
      if (to <= from) bad(at, `must end after it begins, not [${from}, ${to}]`);
      return [from, to];
    });
    const sorted = [...closed].sort((a, b) => a[0] - b[0]);
    sorted.forEach((c, k) => {
      const next = sorted[k + 1];
      if (next && next[0] < c[1]) bad(`${place}.closed`, `overlaps itself at ${next[0]}`);
    });
    return { id, capacity, closed: sorted, changeover };
  });
  unique(
    resources.map((r) => r.id),
    'resources',
  );
  const byId = new Map(resources.map((r) => [r.id, r]));

  const tasks = list(json['tasks'], 'tasks').map((t, i): Task => {
    const place = `tasks[${i}]`;
    if (!isObject(t)) return bad(place, 'must be an object');
    if ('usesOneOf' in t) bad(`${place}.usesOneOf`, 'is not supported by this version of the engine');
    only(t, ['id', 'duration', 'uses', 'family', 'release', 'due', 'note'], place);
    const id = text(t['id'], `${place}.id`);
    const duration = whole(t['duration'], `${place} (${id}).duration`, 0);
    const usesJson = t['uses'] ?? {};
    if (!isObject(usesJson)) return bad(`${place} (${id}).uses`, 'must be an object');
    const uses: Record<string, number> = {};
    for (const [r, amount] of Object.entries(usesJson)) {
      if (!byId.has(r)) bad(`${place} (${id}).uses`, `names the resource "${r}", which does not exist`);
      uses[r] = whole(amount, `${place} (${id}).uses.${r}`, 0);
    }
    const family = t['family'] === undefined || t['family'] === null ? null : text(t['family'], `${place} (${id}).family`);
    const release = t['release'] === undefined || t['release'] === null ? 0 : whole(t['release'], `${place} (${id}).release`);
    const due = t['due'] === undefined || t['due'] === null ? null : whole(t['due'], `${place} (${id}).due`);
    return { id, duration, uses, family, release, due };
  });
  unique(
    tasks.map((t) => t.id),
    'tasks',
  );
  const known = new Set(tasks.map((t) => t.id));

  const links = list(json['links'] ?? [], 'links').map((l, i): Link => {
    const place = `links[${i}]`;
    if (!isObject(l)) return bad(place, 'must be an object');
    if ('soft' in l) bad(`${place}.soft`, 'is not supported by this version of the engine');
    only(l, ['from', 'to', 'anchor', 'min', 'max', 'note', 'reason'], place);
    const from = text(l['from'], `${place}.from`);
    const to = text(l['to'], `${place}.to`);
    for (const [key, id] of [
      ['from', from],
      ['to', to],
    ] as const)
      if (!known.has(id)) bad(`${place}.${key}`, `names the task "${id}", which does not exist`);
    if (from === to) bad(place, `links "${from}" to itself`);
    const anchor = l['anchor'] ?? 'end';
    if (anchor !== 'end' && anchor !== 'start') return bad(`${place}.anchor`, `must be "start" or "end", not ${JSON.stringify(anchor)}`);
    const min = whole(l['min'] ?? 0, `${place}.min`);
    const max = l['max'] === undefined || l['max'] === null ? null : whole(l['max'], `${place}.max`);
    if (max !== null && max < min) bad(place, `its max ${max} is less than its min ${min}`);
    return { from, to, anchor, min, max };
  });
  const objective = json['objective'] ?? 'makespan';
  if (Array.isArray(objective)) bad('objective', 'as a list is not supported by this version of the engine');
  if (objective !== 'makespan' && objective !== 'tardiness') return bad('objective', `must be "makespan" or "tardiness", not ${JSON.stringify(objective)}`);
  return {
    format: 'kestfog-problem/1',
    ...(typeof json['name'] === 'string' ? { name: json['name'] } : {}),
    resources,
    tasks,
    links,
    objective,
    ...(json['horizon'] === undefined || json['horizon'] === null ? {} : { horizon: whole(json['horizon'], 'horizon', 0) }),
    ...(typeof json['epoch'] === 'string' ? { epoch: json['epoch'] } : {}),
  };
}

function unique(ids: readonly string[], place: string): void {
  const seen = new Set<string>();
  for (const id of ids) {
    if (seen.has(id)) bad(place, `"${id}" is there twice`);
    seen.add(id);
  }
}
