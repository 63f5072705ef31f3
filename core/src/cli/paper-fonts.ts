import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { FontFiles } from '../paper/fonts.js';

const require = createRequire(import.meta.url);
const file = (name: string): Uint8Array => readFileSync(require.resolve(`@fontsource/atkinson-hyperlegible-next/files/${name}`));

/** The paper's font as it ships. */
export const paperFonts = (): FontFiles => ({
  regular: [file('atkinson-hyperlegible-next-latin-400-normal.woff'), file('atkinson-hyperlegible-next-latin-ext-400-normal.woff')],
  bold: [file('atkinson-hyperlegible-next-latin-700-normal.woff'), file('atkinson-hyperlegible-next-latin-ext-700-normal.woff')],
});
