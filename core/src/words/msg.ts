import { type Language, languageOf, type Words } from './language.js';

/**
 * Every word that somebody may read goes through here, so that it can be said in another language.
 *
 * A sentence stands in English where it is said, as a tagged template: msg`Tray ${id} is dry`. The English sentence, with {{0}},
 * {{1}} … for what is put in, is its key in the catalogue (words/en.json, written by `npm run words`). A kitchen speaks one
 * language, chosen when it is started (docs/words.md): server, page and the page's threads find the same catalogue under
 * `kestfogWords` before the first word is said, since tables of words are made as their module is read. English needs none.
 */
declare global {
  // What belongs to the whole program can be declared in no other way than by var.
  var kestfogWords: Words | undefined;
}

let begun: Language | null | undefined;
function spoken(): Language | null {
  if (begun === undefined) begun = globalThis.kestfogWords ? languageOf(globalThis.kestfogWords) : null;
  return begun;
}

/** What is said before, between and after the values of one sentence: texts, and which value comes where. */
export type Pieces = readonly (string | number)[];
const made = new WeakMap<TemplateStringsArray, Pieces>();

/**
 * The English sentence of a tagged template, as the catalogue has it. Where a line is broken in the source, to keep it short, there is
 * one space; a line break that is meant is written \n.
 */
export function keyOf(cooked: readonly string[], raw: readonly string[]): string {
  const texts = cooked.map((text, k) => (raw[k]?.includes('\n') ? text.replace(/[ \t]*\n[ \t]*/g, ' ') : text));
  return texts.reduce((before, text, k) => `${before}{{${k - 1}}}${text}`);
}

/** The sentence of a tagged template in the language that is spoken, in pieces. */
export function piecesOf(strings: TemplateStringsArray): Pieces {
  const known = made.get(strings);
  if (known) return known;
  const key = keyOf(strings, strings.raw);
  const pieces = (spoken()?.find(key) ?? key).split(/\{\{(\d+)\}\}/).map((piece, k) => (k % 2 === 1 ? Number(piece) : piece));
  made.set(strings, pieces);
  return pieces;
}

/** A sentence in the language that is spoken: msg`${n} cookies on tray ${id}` */
export function msg(strings: TemplateStringsArray, ...values: readonly unknown[]): string {
  let said = '';
  for (const piece of piecesOf(strings)) said += typeof piece === 'string' ? piece : String(values[piece]);
  return said;
}

/** The word for one or for several; languages with more forms than two have them all in their catalogue. */
export function plural(n: number, one: string, other: string): string {
  return spoken()?.findPlural(n, one, other) ?? (n === 1 ? one : other);
}
