import { readFileSync, writeFileSync } from 'node:fs';

const BOOK = new URL('../../docs/benchmarks.md', import.meta.url);

/** Writes a section of docs/benchmarks.md anew, and leaves the others as they are. */
export function intoBook(title: string, words: string): void {
  const sections = readFileSync(BOOK, 'utf8')
    .trimEnd()
    .split(/\n(?=## )/);
  const at = sections.findIndex((s) => s.startsWith(`## ${title}\n`));
  sections.splice(at < 0 ? sections.length : at, 1, `## ${title}\n\n${words}\n`);
  writeFileSync(BOOK, `${sections.map((s) => s.trimEnd()).join('\n\n')}\n`);
}
