import { readFile, stat } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { BadInput } from '../units/bad-input.js';

export interface Command {
  readonly name: string;
  readonly usage: string;
  readonly summary: string;
  readonly help: string;
  readonly run: (args: readonly string[]) => Promise<number>;
}

/** Larger files are refused before they are read. */
const MAX_BYTES = 20_000_000;

export async function readText(path: string): Promise<string> {
  try {
    if (path === '-') {
      const chunks: Buffer[] = [];
      for await (const c of process.stdin) chunks.push(c as Buffer);
      return Buffer.concat(chunks).toString('utf8');
    }
    const { size } = await stat(path);
    if (size > MAX_BYTES) throw new BadInput('too-large', `${path} is larger than ${MAX_BYTES / 1e6} MB: choose a smaller file.`);
    return await readFile(path, 'utf8');
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput('unreadable', `${path} cannot be read: check the name and that the file exists.`);
  }
}

export async function readJson(path: string): Promise<unknown> {
  const text = await readText(path);
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new BadInput('not-json', `${path} is not JSON (${(error as Error).message.split('\n')[0]}): check its brackets and commas.`);
  }
}

type Options = Readonly<Record<string, { readonly type: 'string'; readonly default?: string } | { readonly type: 'boolean' }>>;

/** Options and files of a command; unknown options are refused by name. One that takes no value is "true" where it is given. */
export function parse(
  args: readonly string[],
  options: Options,
  files: number | 'some',
): { values: Readonly<Record<string, string | undefined>>; files: string[] } {
  let parsed: { values: Record<string, unknown>; positionals: string[] };
  try {
    // "--temp-c -3" would be taken for a missing value: join a number to its option first.
    const joined = args.reduce<string[]>((out, a) => {
      const last = out.at(-1);
      if (last?.startsWith('--') && !last.includes('=') && /^-\.?\d/.test(a)) out[out.length - 1] = `${last}=${a}`;
      else out.push(a);
      return out;
    }, []);
    parsed = parseArgs({ args: joined, options, allowPositionals: true, strict: true }) as typeof parsed;
  } catch (error) {
    throw new BadInput('usage', `${(error as Error).message.split(/[.\n]/)[0]}: see --help.`);
  }
  if (files === 'some' ? parsed.positionals.length === 0 : parsed.positionals.length !== files)
    throw new BadInput(
      'usage',
      files === 'some'
        ? 'at least one file must be named: see --help.'
        : files === 0
          ? `"${parsed.positionals[0]}" is not expected here: see --help.`
          : `${files === 1 ? 'one file' : `${files} files`} must be named, not ${parsed.positionals.length}: see --help.`,
    );
  const values = Object.fromEntries(
    Object.entries(parsed.values).map(([name, value]) => [name, value === undefined ? undefined : String(value)]),
  );
  return { values, files: parsed.positionals };
}

export function numberOption(
  values: Readonly<Record<string, string | undefined>>,
  name: string,
  from: number,
  to: number,
  unit: string,
): number {
  const text = values[name];
  const n = text === undefined || text.trim() === '' ? Number.NaN : Number(text);
  if (!Number.isFinite(n) || n < from || n > to)
    throw new BadInput('option', `--${name} must be a number from ${from} to ${to} ${unit}, not "${text ?? ''}".`);
  return n;
}

export function choiceOption<T extends string>(values: Readonly<Record<string, string | undefined>>, name: string, list: readonly T[]): T {
  const text = values[name];
  if (!(list as readonly (string | undefined)[]).includes(text))
    throw new BadInput('option', `--${name} must be one of ${list.join(', ')}, not "${text ?? ''}".`);
  return text as T;
}

export function print(json: unknown): void {
  process.stdout.write(`${JSON.stringify(json, null, 1)}\n`);
}
