import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { type AskedState, askedStates, dams, dropWays, fills, tools } from './technique-names.js';

/**
 * A part's own words: what the drawing or the person says of its order, its waits and the hands. They beat the school and
 * the table, and are beaten only by what cannot be done at all.
 */
export interface Words {
  /** state asked of everything it lies on */
  readonly needs?: AskedState;
  /** minutes from the end of everything it lies on */
  readonly waitMin?: number;
  readonly withinMin?: number;
  /** parts it comes after */
  readonly after?: readonly string[];
  /** before every part it does not overlap */
  readonly first?: true;
  readonly dam?: (typeof dams)[number];
  /** #rrggbb */
  readonly damColour?: string;
  readonly tip?: string;
  readonly openingMm?: number;
  /** how far short of its line a flood stops */
  readonly edgeMm?: number;
  readonly fill?: (typeof fills)[number];
  readonly drop?: (typeof dropWays)[number];
  /** cookies a stencil prints before it is washed */
  readonly washAfter?: number;
  /** what an airbrush is held to */
  readonly tool?: (typeof tools)[number];
}

/** Minutes in three days: nothing on a cookie waits longer. */
const LONGEST_MIN = 3 * 24 * 60;
const HEX = /^#[0-9a-f]{6}$/i;

const refuse = (id: string, key: string, value: string, cure: string): never => {
  throw new BadInput('attribute', msg`"${id}" says data-${key}="${value}": ${cure}.`, { place: id });
};

/** One of a list of words, or undefined where nothing is said. Throws {@link BadInput} with the place and the choices. */
export function wordOf<T extends string>(
  id: string,
  data: Readonly<Record<string, string>>,
  key: string,
  list: readonly T[],
): T | undefined {
  const v = data[key];
  if (v === undefined || v === '') return undefined;
  return (list as readonly string[]).includes(v) ? (v as T) : refuse(id, key, v, msg`use one of ${list.join(', ')}`);
}

/** A number within its bounds, or undefined where nothing is said. */
export function numberOf(
  id: string,
  data: Readonly<Record<string, string>>,
  key: string,
  from: number,
  to: number,
  unit: string,
): number | undefined {
  const v = data[key];
  if (v === undefined || v === '') return undefined;
  const n = Number(v);
  return Number.isFinite(n) && n >= from && n <= to ? n : refuse(id, key, v, msg`give a number from ${from} to ${to} ${unit}`);
}

/** A colour #rrggbb in lower case, or undefined. */
export function colourWordOf(id: string, data: Readonly<Record<string, string>>, key: string): string | undefined {
  const v = data[key];
  if (v === undefined || v === '') return undefined;
  return HEX.test(v) ? v.toLowerCase() : refuse(id, key, v, msg`give a colour such as #f6f3ea`);
}

/** Ids in a list parted by spaces or commas. */
export const idsOf = (text: string | undefined): string[] => (text ?? '').split(/[\s,]+/).filter((id) => id !== '');

function yesOf(id: string, data: Readonly<Record<string, string>>, key: string): boolean {
  const v = data[key];
  if (v === undefined || v === '' || v === 'false' || v === 'no') return false;
  return v === 'true' || v === 'yes' || v === key ? true : refuse(id, key, v, msg`use one of true, false`);
}

/** The words of a part, checked; throws {@link BadInput} naming the place, and both words where two contradict each other. */
export function wordsOf(id: string, data: Readonly<Record<string, string>>): Words | undefined {
  const needs = wordOf(id, data, 'needs', askedStates);
  const waitMin = numberOf(id, data, 'wait-min', 0, LONGEST_MIN, msg`minutes`);
  const withinMin = numberOf(id, data, 'within-min', 0.5, LONGEST_MIN, msg`minutes`);
  const after = idsOf(data['after']);
  const first = yesOf(id, data, 'first');
  const dam = wordOf(id, data, 'dam', dams);
  const damColour = colourWordOf(id, data, 'dam-colour');
  const tip = data['tip']?.trim();
  const openingMm = numberOf(id, data, 'opening-mm', 0.3, 20, msg`mm`);
  const edgeMm = numberOf(id, data, 'edge-mm', 0, 5, msg`mm`);
  const fill = wordOf(id, data, 'fill', fills);
  const drop = wordOf(id, data, 'drop', dropWays);
  const washAfter = numberOf(id, data, 'wash-after', 1, 60, msg`cookies`);
  const tool = wordOf(id, data, 'tool', tools);
  const clash = (one: string, other: string, cure: string): never => {
    throw new BadInput('contradiction', msg`"${id}" says ${one} and ${other}, which contradict each other: ${cure}.`, { place: id });
  };
  if (waitMin !== undefined && withinMin !== undefined && waitMin >= withinMin)
    clash(`data-wait-min="${data['wait-min']}"`, `data-within-min="${data['within-min']}"`, msg`the wait must end before the window does`);
  if (first && after.length > 0) clash('data-first', `data-after="${data['after']}"`, msg`take one of them away`);
  if (after.includes(id)) clash(`data-after="${data['after']}"`, msg`is "${id}" itself`, msg`name another part`);
  if (damColour !== undefined && dam !== undefined && dam !== 'contrast')
    clash(`data-dam="${dam}"`, `data-dam-colour="${damColour}"`, msg`only a contrasting dam has a colour of its own`);
  if (tip !== undefined && tip.length > 40) refuse(id, 'tip', tip, msg`give at most 40 characters`);
  const words: Words = {
    ...(needs ? { needs } : {}),
    ...(waitMin === undefined ? {} : { waitMin }),
    ...(withinMin === undefined ? {} : { withinMin }),
    ...(after.length > 0 ? { after } : {}),
    ...(first ? { first: true as const } : {}),
    ...(dam || damColour ? { dam: dam ?? ('contrast' as const) } : {}),
    ...(damColour ? { damColour } : {}),
    ...(tip ? { tip } : {}),
    ...(openingMm === undefined ? {} : { openingMm }),
    ...(edgeMm === undefined ? {} : { edgeMm }),
    ...(fill ? { fill } : {}),
    ...(drop ? { drop } : {}),
    ...(washAfter === undefined ? {} : { washAfter: Math.round(washAfter) }),
    ...(tool ? { tool } : {}),
  };
  return Object.keys(words).length > 0 ? words : undefined;
}
