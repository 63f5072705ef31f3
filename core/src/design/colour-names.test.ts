import { describe, expect, it } from 'vitest';
import { colourName, icingColours } from './colour-names.js';

/** Colours as CSS Color Module Level 4, section 6.1, names them, and what a decorator says to them. */
const CSS: readonly (readonly [string, string, RegExp])[] = [
  ['red', '#ff0000', /red/],
  ['navy', '#000080', /navy|blue/],
  ['black', '#000000', /black/],
  ['white', '#ffffff', /^white$/],
  ['saddlebrown', '#8b4513', /brown|rust/],
  ['teal', '#008080', /teal/],
  ['gold', '#ffd700', /yellow|gold/],
  ['hotpink', '#ff69b4', /pink|rose/],
  ['lavender', '#e6e6fa', /lavender|pale/],
  ['forestgreen', '#228b22', /green/],
  ['gray', '#808080', /grey/],
  ['orange', '#ffa500', /orange|amber|gold/],
  ['indigo', '#4b0082', /purple|plum|indigo/],
];

describe('names of colours', () => {
  it.each(CSS)('CSS %s', (_name, colour, said) => expect(colourName(colour)).toMatch(said));
  it('a colour that has a name has that name, and no two share one', () => {
    for (const [name, colour] of Object.entries(icingColours)) expect(colourName(colour)).toBe(name);
    expect(new Set(Object.values(icingColours)).size).toBe(Object.keys(icingColours).length);
  });
});
