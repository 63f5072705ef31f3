import { BadInput } from '../units/bad-input.js';
import { type Hold, type Level, type Link, levels, type Problem, type Resource, type Task } from './problem.js';

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

/** Checks JSON of `kestfog-problem/1`; throws {@link BadInput} that names the place. */
export function parseProblem(json: unknown): Problem {
  if (!isObject(json)) return bad('problem', 'must be a JSON object');
  if (json['format'] !== 'kestfog-problem/1') bad('format', `must be "kestfog-problem/1", not ${JSON.stringify(json['format'])}`);
  only(json, ['format', 'name', 'note', 'source', 'knownOptimum', 'resources', 'tasks', 'links', 'objective', 'horizon', 'epoch', 'holds'], 'problem');

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
    only(t, ['id', 'duration', 'uses', 'usesOneOf', 'family', 'release', 'due', 'note'], place);
    const id = text(t['id'], `${place}.id`);
    const usesOf = (v: unknown, at: string): Record<string, number> => {
      if (!isObject(v)) return bad(at, 'must be an object');
      const uses: Record<string, number> = {};
      for (const [r, amount] of Object.entries(v)) {
        if (!byId.has(r)) bad(at, `names the resource "${r}", which does not exist`);
        uses[r] = whole(amount, `${at}.${r}`, 0);
      }
      return uses;
    };
    const uses = usesOf(t['uses'] ?? {}, `${place} (${id}).uses`);
    const ways =
      t['usesOneOf'] === undefined || t['usesOneOf'] === null
        ? undefined
        : list(t['usesOneOf'], `${place} (${id}).usesOneOf`).map((w, k) => {
            const at = `${place} (${id}).usesOneOf[${k}]`;
            if (!isObject(w)) return bad(at, 'must be an object');
            only(w, ['uses', 'duration'], at);
            return { uses: usesOf(w['uses'] ?? {}, `${at}.uses`), duration: whole(w['duration'] ?? t['duration'], `${at}.duration`, 0) };
          });
    if (ways?.length === 0) bad(`${place} (${id}).usesOneOf`, 'must name at least one way');
    const duration = whole(t['duration'] ?? (ways ? Math.min(...ways.map((w) => w.duration)) : undefined), `${place} (${id}).duration`, 0);
    const family = t['family'] === undefined || t['family'] === null ? null : text(t['family'], `${place} (${id}).family`);
    const release = t['release'] === undefined || t['release'] === null ? 0 : whole(t['release'], `${place} (${id}).release`);
    const due = t['due'] === undefined || t['due'] === null ? null : whole(t['due'], `${place} (${id}).due`);
    return { id, duration, uses, ...(ways ? { usesOneOf: ways } : {}), family, release, due };
  });
  unique(
    tasks.map((t) => t.id),
    'tasks',
  );
  const known = new Set(tasks.map((t) => t.id));

  const links = list(json['links'] ?? [], 'links').map((l, i): Link => {
    const place = `links[${i}]`;
    if (!isObject(l)) return bad(place, 'must be an object');
    only(l, ['from', 'to', 'anchor', 'min', 'max', 'soft', 'note', 'reason'], place);
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
    const soft = l['soft'] === undefined || l['soft'] === null ? null : whole(l['soft'], `${place}.soft`, 1);
    if (soft !== null && max === null) bad(`${place}.soft`, 'needs a max to be soft about');
    return { from, to, anchor, min, max, ...(soft === null ? {} : { soft }) };
  });
  const objectiveJson = json['objective'] ?? 'makespan';
  const objective: Problem['objective'] = Array.isArray(objectiveJson)
    ? objectiveJson.map((l, i) =>
        (levels as readonly unknown[]).includes(l) ? (l as Level) : bad(`objective[${i}]`, `must be one of ${levels.join(', ')}, not ${JSON.stringify(l)}`),
      )
    : objectiveJson === 'makespan' || objectiveJson === 'tardiness'
      ? objectiveJson
      : bad('objective', `must be "makespan", "tardiness" or a list of ${levels.join(', ')}, not ${JSON.stringify(objectiveJson)}`);
  if (Array.isArray(objective)) {
    if (objective.length === 0) bad('objective', 'must name at least one level');
    unique(objective, 'objective');
  }
  const holds = list(json['holds'] ?? [], 'holds').map((h, i): Hold => {
    const place = `holds[${i}]`;
    if (!isObject(h)) return bad(place, 'must be an object');
    only(h, ['resource', 'from', 'to', 'amount', 'note'], place);
    const resource = text(h['resource'], `${place}.resource`);
    if (!byId.has(resource)) bad(`${place}.resource`, `names the resource "${resource}", which does not exist`);
    const [from, to] = [text(h['from'], `${place}.from`), text(h['to'], `${place}.to`)];
    for (const [key, id] of [
      ['from', from],
      ['to', to],
    ] as const)
      if (!known.has(id)) bad(`${place}.${key}`, `names the task "${id}", which does not exist`);
    return { resource, from, to, amount: whole(h['amount'] ?? 1, `${place}.amount`, 1) };
  });
  return {
    format: 'kestfog-problem/1',
    ...(typeof json['name'] === 'string' ? { name: json['name'] } : {}),
    resources,
    tasks,
    links,
    objective,
    ...(holds.length > 0 ? { holds } : {}),
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
