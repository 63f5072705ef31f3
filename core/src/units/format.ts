import type { z } from 'zod';
import { msg } from '../words/index.js';
import { BadInput } from './bad-input.js';

/** JSON of any shape, as it is read from a file or a database. */
export type Json = Readonly<Record<string, unknown>>;

/**
 * One of the open formats: its name, the version written now, how each older version becomes the next, and what a valid
 * one looks like. Every released version keeps a fixture that must open.
 */
export interface FormatDefinition<T> {
  /** as in "kestfog-plan/2": the part before the slash */
  readonly name: string;
  readonly version: number;
  /** from version n to n + 1, by n; each is total: it throws for nothing that was valid then */
  readonly migrations: Readonly<Record<number, (json: Json) => Json>>;
  readonly schema: z.ZodType<T>;
}

/**
 * Opens JSON of any released version: known, not newer than this, brought up to date, and valid. Throws {@link BadInput} in one
 * sentence.
 */
export function openFormat<T>(format: FormatDefinition<T>, json: unknown): T {
  const { name, version } = format;
  const now = migrated(format, json);
  const found = format.schema.safeParse(now);
  if (found.success) return found.data;
  const [issue] = found.error.issues;
  throw new BadInput('format', sentenceOf(issue as z.core.$ZodIssue, now, name), { place: pathOf(issue?.path ?? []) || name, version });
}

/** One thing inside a format, checked by its schema: `place` is where it stands. Throws {@link BadInput} in one sentence. */
export function checked<T>(schema: z.ZodType<T>, json: unknown, place: string): T {
  const found = schema.safeParse(json);
  if (found.success) return found.data;
  const issue = found.error.issues[0] as z.core.$ZodIssue;
  const sentence = sentenceOf(issue, json, place);
  throw new BadInput('format', issue.path.length === 0 ? sentence : `${place}.${sentence}`, { place });
}

/** The same JSON as the version of now, not yet looked at closely. Throws {@link BadInput} where it is another format or a newer one. */
export function migrated<T>(format: Pick<FormatDefinition<T>, 'name' | 'version' | 'migrations'>, json: unknown): Json {
  const { name, version, migrations } = format;
  const bad = (cure: string): never => {
    throw new BadInput('format', msg`format: ${cure}.`, { place: 'format' });
  };
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new BadInput('format', msg`${name}: must be a JSON object.`, { place: name });
  const said = (json as Json)['format'];
  const found = typeof said === 'string' ? new RegExp(`^${name}/(\\d+)$`).exec(said) : null;
  if (!found) return bad(msg`must be "${name}/${version}", not ${JSON.stringify(said)}`);
  let at = Number(found[1]);
  if (at > version) return bad(msg`"${said}" was made by a newer Kestfog: open it there, or bring this one up to date`);
  let now = json as Json;
  for (; at < version; at++) {
    const step = migrations[at];
    if (!step) return bad(msg`"${said}" is older than any version that was released: it cannot be opened`);
    now = { ...step(now), format: `${name}/${at + 1}` };
  }
  return now;
}

/** Where an issue is, as it would be written in code: `designs[2].graph.steps[0].id`. */
const pathOf = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, key) => (typeof key === 'number' ? `${text}[${key}]` : text === '' ? String(key) : `${text}.${String(key)}`),
    '',
  );

const LONGEST_NAME = 24;
/** The same with the name of what bears one: `tasks[3] (T1.flood).duration`. */
function placeOf(path: readonly PropertyKey[], json: unknown): string {
  let at: unknown = json;
  return path.reduce<string>((text, key, i) => {
    at = (at as Record<PropertyKey, unknown> | undefined)?.[key];
    const id = (at as { readonly id?: unknown } | undefined)?.id;
    const named =
      typeof key === 'number' && typeof id === 'string' && id.length <= LONGEST_NAME && i + 1 < path.length && path[i + 1] !== 'id'
        ? ` (${id})`
        : '';
    return `${pathOf([...(text === '' ? [] : [text]), key])}${named}`;
  }, '');
}

/** An issue of the schema in one sentence that names the place and the cure. */
export function sentenceOf(issue: z.core.$ZodIssue, json: unknown, name: string): string {
  const place = placeOf(issue.path, json) || name;
  const value = issue.path.reduce<unknown>((v, key) => (v as Record<PropertyKey, unknown> | undefined)?.[key], json);
  const shown = value === undefined ? 'nothing' : (JSON.stringify(value) ?? String(value)).slice(0, 60);
  switch (issue.code) {
    case 'invalid_type':
      return msg`${place}: must be ${article(issue.expected)}, not ${shown}.`;
    case 'invalid_value':
      return msg`${place}: must be ${
        issue.values.length === 1
          ? JSON.stringify(issue.values[0])
          : msg`one of
        ${issue.values.join(', ')}`
      }, not ${shown}.`;
    case 'unrecognized_keys':
      return msg`${place === name ? '' : `${place}.`}${issue.keys[0]}: is not known here.`;
    case 'too_small':
      return msg`${place}: must be ${
        issue.origin === 'string' || issue.origin === 'array'
          ? msg`at least ${issue.minimum}
        long`
          : msg`${issue.minimum} or more`
      }, not ${shown}.`;
    case 'too_big':
      return msg`${place}: must be ${
        issue.origin === 'string' || issue.origin === 'array'
          ? msg`at most ${issue.maximum}
        long`
          : msg`${issue.maximum} or less`
      }, not ${shown}.`;
    case 'invalid_union': {
      // Of several ways the one that was meant is the one that got furthest.
      const [furthest] = issue.errors.flat().sort((a, b) => b.path.length - a.path.length);
      if (furthest && furthest.path.length > 0) return sentenceOf({ ...furthest, path: [...issue.path, ...furthest.path] }, json, name);
      // Told apart by one field, as events and edits are: the package says what it may be, though not in its types.
      if ('options' in issue && Array.isArray(issue.options))
        return msg`${place}: must be one of ${issue.options.join(', ')}, not ${shown}.`;
      return msg`${place}: is none of what is known here (${shown}).`;
    }
    default:
      return `${place}: ${issue.message.replace(/\.$/, '')}.`;
  }
}

const KIND: Readonly<Record<string, string>> = {
  int: msg`a whole number`,
  boolean: msg`true or false`,
  array: msg`a list`,
  string: msg`a text`,
  tuple: msg`a list`,
};
const article = (what: string): string => KIND[what] ?? `${/^[aeiou]/.test(what) ? 'an' : 'a'} ${what}`;
