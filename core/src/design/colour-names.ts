import { differenceCiede2000, nearest } from 'culori';
import { msg } from '../words/index.js';

/**
 * Names decorators use for icing, and a colour that stands for each. Names and colours from memory: common practice, no published source;
 * a kitchen gives its own names where it has others.
 */
const ICING_COLOURS: Readonly<Record<string, string>> = {
  [msg`white`]: '#ffffff',
  [msg`warm white`]: '#f6f3ea',
  [msg`ivory`]: '#f1e6c8',
  [msg`cream`]: '#f5deb0',
  [msg`pale grey`]: '#dee4e6',
  [msg`grey`]: '#8f979d',
  [msg`mist`]: '#eaeef0',
  [msg`fog`]: '#c7d3d6',
  [msg`slate`]: '#63707a',
  [msg`dark slate`]: '#2f3b47',
  [msg`ink`]: '#20323b',
  [msg`charcoal`]: '#33383c',
  [msg`black`]: '#16181b',
  [msg`blush`]: '#f6d5d0',
  [msg`pink`]: '#f2a3b5',
  [msg`rose`]: '#d9688a',
  [msg`hot pink`]: '#e0327c',
  [msg`coral`]: '#f0806a',
  [msg`salmon`]: '#f2a58e',
  [msg`peach`]: '#f8c9a4',
  [msg`apricot`]: '#f2b071',
  [msg`orange`]: '#ea7f2b',
  [msg`rust`]: '#b5522b',
  [msg`red`]: '#bd2720',
  [msg`bright red`]: '#e02a22',
  [msg`brick`]: '#99432f',
  [msg`burgundy`]: '#6d1f2d',
  [msg`lemon yellow`]: '#f9e96b',
  [msg`yellow`]: '#f2c83e',
  [msg`amber`]: '#e0922f',
  [msg`gold`]: '#d9a832',
  [msg`straw`]: '#e3c58a',
  [msg`mustard`]: '#b58a24',
  [msg`caramel`]: '#c98f4e',
  [msg`tan`]: '#d3b48c',
  [msg`brown`]: '#7b4f2c',
  [msg`chocolate`]: '#4a2c1d',
  [msg`lime`]: '#b6d344',
  [msg`leaf green`]: '#5f9e3a',
  [msg`forest green`]: '#2c5f34',
  [msg`moss`]: '#71793c',
  [msg`sage`]: '#a9b99a',
  [msg`mint`]: '#a9d8c1',
  [msg`teal`]: '#3a7f86',
  [msg`deep teal`]: '#2c6a73',
  [msg`dark teal`]: '#1f4b52',
  [msg`turquoise`]: '#3fb6b7',
  [msg`pale blue`]: '#c5dcec',
  [msg`sky blue`]: '#7fb7df',
  [msg`blue`]: '#2f6fb5',
  [msg`royal blue`]: '#274c9a',
  [msg`navy`]: '#1e2f56',
  [msg`deep blue`]: '#15206f',
  [msg`slate blue`]: '#55708f',
  [msg`pale lavender`]: '#e5e0f5',
  [msg`lavender`]: '#c9bfe6',
  [msg`lilac`]: '#b28fc9',
  [msg`purple`]: '#6b3f91',
  [msg`indigo`]: '#46207a',
  [msg`plum`]: '#5a2a52',
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
