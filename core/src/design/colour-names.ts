import { differenceCiede2000, nearest } from 'culori';

/**
 * Names decorators use for icing, and a colour that stands for each. Names and colours from memory: common practice, no published source;
 * a kitchen gives its own names where it has others.
 */
const ICING_COLOURS: Readonly<Record<string, string>> = {
  white: '#ffffff',
  'warm white': '#f6f3ea',
  ivory: '#f1e6c8',
  cream: '#f5deb0',
  'pale grey': '#dee4e6',
  grey: '#8f979d',
  mist: '#eaeef0',
  fog: '#c7d3d6',
  slate: '#63707a',
  'dark slate': '#2f3b47',
  ink: '#20323b',
  charcoal: '#33383c',
  black: '#16181b',
  blush: '#f6d5d0',
  pink: '#f2a3b5',
  rose: '#d9688a',
  'hot pink': '#e0327c',
  coral: '#f0806a',
  salmon: '#f2a58e',
  peach: '#f8c9a4',
  apricot: '#f2b071',
  orange: '#ea7f2b',
  rust: '#b5522b',
  red: '#bd2720',
  'bright red': '#e02a22',
  brick: '#99432f',
  burgundy: '#6d1f2d',
  'lemon yellow': '#f9e96b',
  yellow: '#f2c83e',
  amber: '#e0922f',
  gold: '#d9a832',
  straw: '#e3c58a',
  mustard: '#b58a24',
  caramel: '#c98f4e',
  tan: '#d3b48c',
  brown: '#7b4f2c',
  chocolate: '#4a2c1d',
  lime: '#b6d344',
  'leaf green': '#5f9e3a',
  'forest green': '#2c5f34',
  moss: '#71793c',
  sage: '#a9b99a',
  mint: '#a9d8c1',
  teal: '#3a7f86',
  'deep teal': '#2c6a73',
  'dark teal': '#1f4b52',
  turquoise: '#3fb6b7',
  'pale blue': '#c5dcec',
  'sky blue': '#7fb7df',
  blue: '#2f6fb5',
  'royal blue': '#274c9a',
  navy: '#1e2f56',
  'deep blue': '#15206f',
  'slate blue': '#55708f',
  'pale lavender': '#e5e0f5',
  lavender: '#c9bfe6',
  lilac: '#b28fc9',
  purple: '#6b3f91',
  indigo: '#46207a',
  plum: '#5a2a52',
};
const NAMES = Object.keys(ICING_COLOURS);
/** CIEDE2000: the difference in lightness, chroma and hue as eyes see it (CIE 142-2001). */
const closest = nearest(NAMES, differenceCiede2000(), (name) => ICING_COLOURS[name] as string);
const known = new Map<string, string>();

/** What a colour of icing is usually called: the nearest of the names in use. `colour` as "#rrggbb". */
export function colourName(colour: string): string {
  const name = known.get(colour) ?? closest(colour, 1)[0] ?? colour;
  known.set(colour, name);
  return name;
}

/** The colours by which names are given. */
export const icingColours = ICING_COLOURS;
