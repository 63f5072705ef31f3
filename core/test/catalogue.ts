import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from '@babel/parser';
import { type Node, type TemplateLiteral, VISITOR_KEYS } from '@babel/types';
import { keyOf } from '../src/words/index.js';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
/** Where words are said that somebody reads. The command line, the terminal and the columns of tables stay English, since programs read them; the demo's data is data. */
const FOLDERS = ['core/src', 'web/src', 'server/src'];
const ENGLISH =
  /^(core\/src\/(cli\/|paper\/(csv|run-table)\.ts)|server\/src\/(demo\/|platform\/config\.ts|(main|archive-cli|passphrase-cli|data-source)\.ts))/;

/** Where a sentence is said, and what stands for {{0}}, {{1}} … there: what a translator asks first. */
export interface Said {
  readonly in: string;
  readonly with?: readonly string[];
}
export interface Catalogue {
  /** English sentences by themselves, plurals by _one and _other: the form i18next reads */
  readonly words: Readonly<Record<string, string>>;
  readonly context: Readonly<Record<string, Said>>;
  /** what looks like words and is in no catalogue: "file:line: text" */
  readonly unsaid: readonly string[];
}

const sources = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { withFileTypes: true, recursive: true })
    .filter((e) => e.isFile() && /\.tsx?$/.test(e.name) && !/\.test\.tsx?$/.test(e.name))
    .map((e) => relative(ROOT, join(e.parentPath, e.name)))
    .filter((file) => !ENGLISH.test(file))
    .sort();

/** A whole sentence: three words or more, from a capital to its stop. */
const isSentence = (text: string) => /^\s*[A-Z“"{].*[a-z].*\s.*\s.*[.!?…]\s*$/su.test(text);
const SHOWN = /^(aria-label|aria-roledescription|title|alt|placeholder|label)$/;

/** Everything that is said in the source, read from its tagged templates. */
export function readCatalogue(): Catalogue {
  const words = new Map<string, string>();
  const context = new Map<string, Said>();
  const unsaid: string[] = [];
  for (const file of FOLDERS.flatMap(sources)) {
    const source = readFileSync(join(ROOT, file), 'utf8');
    const put = (key: string, text: string, said: Said) => {
      words.set(key, text);
      if (!context.has(key)) context.set(key, said);
    };
    const look = (node: Node, above: readonly Node[]) => {
      const at = `${file}:${node.loc?.start.line}`;
      const parent = above.at(-1);
      if (node.type === 'TaggedTemplateExpression' && node.tag.type === 'Identifier' && /^msg(Nodes)?$/.test(node.tag.name)) {
        const { key, values } = sentenceOf(node.quasi, source);
        put(key, key, { in: file, ...(values.length > 0 ? { with: values } : {}) });
      } else if (node.type === 'CallExpression' && node.callee.type === 'Identifier' && node.callee.name === 'plural') {
        const [, one, other] = node.arguments;
        if (one?.type === 'StringLiteral' && other?.type === 'StringLiteral') {
          put(`${one.value}_one`, one.value, { in: file });
          put(`${one.value}_other`, other.value, { in: file });
        } else unsaid.push(`${at}: plural() takes its two words as they are written, so that they can be found`);
      } else if (node.type === 'JSXText') {
        if (/\p{L}{2}/u.test(node.value) && !isCode(parent)) unsaid.push(`${at}: ${node.value.trim()}`);
      } else if (node.type === 'JSXAttribute') {
        if (SHOWN.test(String(node.name.name)) && node.value?.type === 'StringLiteral' && /\p{L}{2}/u.test(node.value.value))
          unsaid.push(`${at}: ${node.value.value}`);
      } else if (node.type === 'StringLiteral' || (node.type === 'TemplateLiteral' && parent?.type !== 'TaggedTemplateExpression')) {
        const text = node.type === 'StringLiteral' ? node.value : sentenceOf(node, source).key;
        if (isSentence(text) && !isForProgrammers(above)) unsaid.push(`${at}: ${text}`);
      }
      for (const key of VISITOR_KEYS[node.type] ?? []) {
        const below = (node as unknown as Record<string, Node | readonly (Node | null)[] | null | undefined>)[key];
        for (const child of Array.isArray(below) ? below : [below]) if (child) look(child, [...above, node]);
      }
    };
    const plugins = ['typescript', 'decorators-legacy', ...(file.endsWith('x') ? ['jsx' as const] : [])] as const;
    look(parse(source, { sourceType: 'module', plugins: [...plugins] }).program, []);
  }
  return { words: sorted(words), context: sorted(context), unsaid };
}

function sentenceOf({ quasis, expressions }: TemplateLiteral, source: string): { key: string; values: string[] } {
  const texts = quasis.map((q) => q.value.cooked ?? '');
  const key = keyOf(
    texts,
    quasis.map((q) => q.value.raw),
  );
  const values = expressions.map((e) => source.slice(e.start ?? 0, e.end ?? 0).replace(/\s+/g, ' '));
  return { key, values: values.map((v) => (v.length > 60 ? `${v.slice(0, 59)}…` : v)) };
}

const isCode = (parent: Node | undefined): boolean =>
  parent?.type === 'JSXElement' &&
  parent.openingElement.name.type === 'JSXIdentifier' &&
  /^(code|kbd)$/.test(parent.openingElement.name.name);

/** An Error that nobody who decorates ever sees; what the page passes on has another class. */
const isForProgrammers = (above: readonly Node[]): boolean =>
  above.some(
    (n) => n.type === 'NewExpression' && n.callee.type === 'Identifier' && /^((Range|Type)?Error|FlowStopped)$/.test(n.callee.name),
  );

const sorted = <T>(m: ReadonlyMap<string, T>): Record<string, T> =>
  Object.fromEntries([...m].sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
