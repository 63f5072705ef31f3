import fontkit from '@pdf-lib/fontkit';
import type { Measure } from './page.js';

/** The paper's font in its files, each weight in those it is divided into (Latin, Latin extended): OpenType, also as WOFF. */
export interface FontFiles {
  readonly regular: readonly Uint8Array[];
  readonly bold: readonly Uint8Array[];
}

interface Face {
  readonly unitsPerEm: number;
  hasGlyphForCodePoint(codePoint: number): boolean;
  glyphForCodePoint(codePoint: number): { readonly advanceWidth: number };
}

/** Of several files the first that has a letter draws it; one that none has is drawn by the first, as its box. */
export const fileOf = (faces: readonly Pick<Face, 'hasGlyphForCodePoint'>[], letter: string): number =>
  Math.max(
    0,
    faces.findIndex((f) => f.hasGlyphForCodePoint(letter.codePointAt(0) as number)),
  );

/** Runs of letters that come from one file, in order. */
export function runsOf(
  text: string,
  faces: readonly Pick<Face, 'hasGlyphForCodePoint'>[],
): { readonly file: number; readonly text: string }[] {
  const runs: { file: number; text: string }[] = [];
  for (const letter of text) {
    const file = letter === ' ' && runs.length > 0 ? (runs.at(-1)?.file ?? 0) : fileOf(faces, letter);
    const last = runs.at(-1);
    if (last?.file === file) last.text += letter;
    else runs.push({ file, text: letter });
  }
  return runs;
}

export const openFaces = (files: readonly Uint8Array[]): readonly Face[] =>
  files.map((bytes) => fontkit.create(bytes as never) as unknown as Face);

/** How words come out in that font. Kerning is left out on paper, so that widths are the same everywhere. */
export function measureOf(files: FontFiles): Measure {
  const faces = { regular: openFaces(files.regular), bold: openFaces(files.bold) };
  const advances = new Map<string, number>();
  const advance = (letter: string, bold: boolean): number => {
    const key = `${bold}${letter}`;
    const known = advances.get(key);
    if (known !== undefined) return known;
    const own = bold ? faces.bold : faces.regular;
    const face = own[fileOf(own, letter)] as Face;
    const made = face.glyphForCodePoint(letter.codePointAt(0) as number).advanceWidth / face.unitsPerEm;
    advances.set(key, made);
    return made;
  };
  return {
    widthMm: (text, sizeMm, bold = false) => [...text].reduce((sum, letter) => sum + advance(letter, bold), 0) * sizeMm,
    lacks: (text) => [
      ...new Set([...text].filter((letter) => !faces.regular.some((f) => f.hasGlyphForCodePoint(letter.codePointAt(0) as number)))),
    ],
  };
}
