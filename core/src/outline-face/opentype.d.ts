/** What is used of opentype.js, which ships no types of its own. */
declare module 'opentype.js' {
  export interface OpenTypeGlyph {
    readonly index: number;
    readonly advanceWidth: number;
    getPath(x: number, y: number, fontSize: number): { toPathData(decimals: number): string };
  }
  export interface OpenTypeFont {
    readonly unitsPerEm: number;
    charToGlyph(letter: string): OpenTypeGlyph;
  }
  export function parse(buffer: ArrayBuffer): OpenTypeFont;
}
