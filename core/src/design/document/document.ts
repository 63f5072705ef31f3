import { BadInput } from '../../units/bad-input.js';
import type { Division } from '../divide.js';
import type { PatternAsk, PatternId } from '../patterns/index.js';
import { patternIds } from '../patterns/index.js';
import { type DetailTechnique, detailTechniques, type Ordering, orderings } from '../technique-names.js';

/** One thing done to a design, kept for good: undo and redo are events too. */
export type DesignEdit =
  | { readonly type: 'rename'; readonly name: string }
  /** real width of the baked cookie */
  | { readonly type: 'resize'; readonly widthMm: number }
  /** attributes of a part, as a drawing's data- attributes; an empty string takes one back */
  | { readonly type: 'say'; readonly part: string; readonly said: Readonly<Record<string, string>> }
  /** a part goes to another place of the stack: before another part, or to the end */
  | { readonly type: 'move'; readonly part: string; readonly before: string | null }
  | { readonly type: 'remove'; readonly part: string }
  | {
      readonly type: 'pattern';
      readonly id: string;
      readonly sectionId: string;
      readonly pattern: PatternId;
      readonly ask: PatternAsk;
      /** main colour first, then those of patterns that stack */
      readonly colours: readonly string[];
      readonly seconds: number | null;
    }
  | { readonly type: 'divide'; readonly sectionId: string; readonly division: Division; readonly colours: readonly string[] }
  | {
      readonly type: 'detail';
      readonly id: string;
      readonly name: string;
      readonly technique: DetailTechnique;
      readonly points: readonly { readonly x: number; readonly y: number }[];
      readonly closed: boolean;
      readonly area: boolean;
      readonly colour: string;
      readonly widthMm: number;
    }
  | { readonly type: 'first'; readonly first: string; readonly next: string }
  | { readonly type: 'either'; readonly a: string; readonly b: string }
  | { readonly type: 'recolour'; readonly from: string; readonly to: string }
  | { readonly type: 'transfer'; readonly on: boolean }
  /** which parts come first where the order is free */
  | { readonly type: 'ordering'; readonly ordering: Ordering }
  | { readonly type: 'undo' }
  | { readonly type: 'redo' };

/** `kestfog-design/2`: a drawing and everything said and done to it since. */
export interface DesignDocument {
  readonly format: 'kestfog-design/2';
  readonly name: string;
  readonly svg: string;
  readonly edits: readonly DesignEdit[];
}

export const MAX_EDITS = 5000;

/** The edits that stand once undo and redo are counted, and how many can still be redone. */
export function standingEdits(edits: readonly DesignEdit[]): { readonly standing: readonly DesignEdit[]; readonly redoable: number } {
  const standing: DesignEdit[] = [];
  let undone: DesignEdit[] = [];
  for (const e of edits) {
    if (e.type === 'undo') {
      const last = standing.pop();
      if (last) undone.push(last);
    } else if (e.type === 'redo') {
      const again = undone.pop();
      if (again) standing.push(again);
    } else {
      standing.push(e);
      undone = [];
    }
  }
  return { standing, redoable: undone.length };
}

type Obj = Record<string, unknown>;
const isObject = (v: unknown): v is Obj => typeof v === 'object' && v !== null && !Array.isArray(v);
const COLOUR = /^#[0-9a-f]{6}$/;
/** What may be said of a part: the names of a drawing's attributes without "data-". */
export const SAYABLE = [
  ...['name', 'colour', 'seconds', 'grade', 'depth-mm', 'technique', 'part', 'over', 'flush'],
  ...['needs', 'wait-min', 'within-min', 'after', 'first', 'guide', 'guides', 'dam', 'dam-colour'],
  ...['tip', 'opening-mm', 'edge-mm', 'fill', 'tool'],
] as const;

/** Checks one edit from outside; throws {@link BadInput} that names the place. */
export function parseEdit(json: unknown, place: string): DesignEdit {
  const bad = (cure: string): never => {
    throw new BadInput('design-edit', `${place}: ${cure}.`, { place });
  };
  if (!isObject(json)) return bad('must be an object');
  const text = (key: string, most = 80): string => {
    const v = json[key];
    return typeof v === 'string' && v.length > 0 && v.length <= most ? v : bad(`"${key}" must be a text of 1 to ${most} characters`);
  };
  const number = (v: unknown, key: string, from: number, to: number): number =>
    typeof v === 'number' && Number.isFinite(v) && v >= from && v <= to ? v : bad(`"${key}" must be a number from ${from} to ${to}`);
  const colour = (v: unknown, key: string): string => (typeof v === 'string' && COLOUR.test(v) ? v : bad(`"${key}" must be a colour such as #f6f3ea`));
  const colours = (least: number): string[] => {
    const v = json['colours'];
    return Array.isArray(v) && v.length >= least && v.length <= 24
      ? v.map((c) => colour(c, 'colours'))
      : bad(`"colours" must be a list of ${least} to 24 colours`);
  };
  const points = (v: unknown): { x: number; y: number }[] =>
    Array.isArray(v) && v.length >= 1 && v.length <= 4000
      ? v.map((p) => (isObject(p) ? { x: number(p['x'], 'x', -2000, 2000), y: number(p['y'], 'y', -2000, 2000) } : bad('"points" must be a list of {x, y}')))
      : bad('"points" must be a list of 1 to 4000 points');
  switch (json['type']) {
    case 'rename':
      return { type: 'rename', name: text('name') };
    case 'resize':
      return { type: 'resize', widthMm: number(json['widthMm'], 'widthMm', 10, 400) };
    case 'say': {
      const said = json['said'];
      if (!isObject(said)) return bad('"said" must be an object');
      for (const [k, v] of Object.entries(said)) {
        if (!(SAYABLE as readonly string[]).includes(k)) bad(`"said.${k}" is not known: use ${SAYABLE.join(', ')}`);
        if (typeof v !== 'string' || v.length > 200) bad(`"said.${k}" must be a text`);
      }
      return { type: 'say', part: text('part', 200), said: said as Record<string, string> };
    }
    case 'move':
      return { type: 'move', part: text('part', 200), before: json['before'] === null ? null : text('before', 200) };
    case 'remove':
      return { type: 'remove', part: text('part', 200) };
    case 'pattern': {
      const ask = json['ask'];
      if (!isObject(ask)) return bad('"ask" must be an object');
      const pattern = json['pattern'];
      if (!(patternIds as readonly unknown[]).includes(pattern)) bad(`"pattern" must be one of ${patternIds.join(', ')}`);
      return {
        type: 'pattern',
        id: text('id', 60),
        sectionId: text('sectionId', 200),
        pattern: pattern as PatternId,
        ask: {
          sizeMm: number(ask['sizeMm'], 'ask.sizeMm', 0.3, 40),
          spacingMm: number(ask['spacingMm'], 'ask.spacingMm', 0.5, 100),
          angleDeg: number(ask['angleDeg'], 'ask.angleDeg', -360, 360),
          count: Math.round(number(ask['count'], 'ask.count', 1, 60)),
          seed: Math.round(number(ask['seed'], 'ask.seed', 0, 1e9)),
        },
        colours: colours(1),
        seconds: json['seconds'] === null ? null : number(json['seconds'], 'seconds', 1.5, 120),
      };
    }
    case 'divide': {
      const d = json['division'];
      if (!isObject(d)) return bad('"division" must be an object');
      const division: Division =
        d['way'] === 'line'
          ? { way: 'line', points: points(d['points']) }
          : d['way'] === 'stripes' || d['way'] === 'radial'
            ? { way: d['way'], parts: Math.round(number(d['parts'], 'division.parts', 2, 24)), angleDeg: number(d['angleDeg'], 'division.angleDeg', -360, 360) }
            : bad('"division.way" must be stripes, radial or line');
      return { type: 'divide', sectionId: text('sectionId', 200), division, colours: colours(0) };
    }
    case 'detail': {
      const technique = json['technique'];
      if (!(detailTechniques as readonly unknown[]).includes(technique)) bad(`"technique" must be one of ${detailTechniques.join(', ')}`);
      return {
        type: 'detail',
        id: text('id', 60),
        name: text('name'),
        technique: technique as DetailTechnique,
        points: points(json['points']),
        closed: json['closed'] === true,
        area: json['area'] === true,
        colour: colour(json['colour'], 'colour'),
        widthMm: number(json['widthMm'], 'widthMm', 0, 30),
      };
    }
    case 'first':
      return { type: 'first', first: text('first', 200), next: text('next', 200) };
    case 'either':
      return { type: 'either', a: text('a', 200), b: text('b', 200) };
    case 'recolour':
      return { type: 'recolour', from: colour(json['from'], 'from'), to: colour(json['to'], 'to') };
    case 'transfer':
      return typeof json['on'] === 'boolean' ? { type: 'transfer', on: json['on'] } : bad('"on" must be true or false');
    case 'ordering':
      return (orderings as readonly unknown[]).includes(json['ordering'])
        ? { type: 'ordering', ordering: json['ordering'] as Ordering }
        : bad(`"ordering" must be one of ${orderings.join(', ')}`);
    case 'undo':
      return { type: 'undo' };
    case 'redo':
      return { type: 'redo' };
    default:
      return bad(`"type" is not one of the known edits`);
  }
}
