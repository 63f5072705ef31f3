import { intersection, offset, shapeFromRings, union } from '../geometry/clip.js';
import { ofOne, ofPair } from '../geometry/remembered.js';
import { areaMm2, type Box, boundingBox, centroid, contains, type Shape } from '../geometry/shape.js';
import { gradeOfSeconds, grades } from '../icing/grade.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { colourName } from './colour-names.js';
import { DEFAULT_FLOOD_DEPTH_MM, type Design, type DesignNote } from './design.js';
import { type DrawnPath, drawnPaths } from './drawn-path.js';
import { islands } from './islands.js';
import { type DrawnPart, type Note, settled } from './settle.js';
import { parseSvg } from './svg-tree.js';
import {
  type DetailTechnique,
  detailTechniques,
  guideKinds,
  type MarkTechnique,
  markTechniques,
  type Ordering,
  orderings,
  type SectionTechnique,
  sectionTechniques,
} from './technique-names.js';
import { colourWordOf, idsOf, numberOf, wordOf, wordsOf } from './words.js';

/** A closed fill at least this large is a section; a smaller one inside a section a wet mark. */
export const SECTION_MIN_MM2 = 20;
/** Anything smaller is a slip of the pen. */
const SLIVER_MM2 = 0.3;
/** Cookie shown around the icing where the drawing has no outline of its own. */
const BARE_RIM_MM = 2;
/** Loose pieces nearer than this are on one cookie, mm: *assumed*. */
const HOLDS_OVER_MM = 24;
/** An unfilled ring is the cookie's outline only if it goes round at least this share of the icing. */
const COOKIE_COVERS = 0.95;
const DEFAULT_LINE_WIDTH_MM = 2;

const PARTS = ['cookie', 'section', 'line', 'mark', 'guide'] as const;
const OVERS = ['layer', 'inlay'] as const;
type Technique = SectionTechnique | MarkTechnique | DetailTechnique;
const TECHNIQUES: readonly Technique[] = [...sectionTechniques, ...markTechniques, ...detailTechniques];
/** Marks that are an area or a place rather than a stroke. */
const PLACED_MARKS: readonly MarkTechnique[] = ['wet-drop', 'sprinkle', 'lay-in'];
/** A background coat is a film: *assumed*, "full depth not needed". */
const THIN_COAT_MM = 0.7;

const isOneOf = <T extends string>(list: readonly T[], v: string | undefined): v is T =>
  v !== undefined && (list as readonly string[]).includes(v);

/** Consistency named by data-seconds or data-grade. */
function secondsOf(path: DrawnPath): { seconds?: number } {
  const seconds = numberOf(path.id, path.data, 'seconds', 1.5, 120, msg`seconds`);
  if (seconds !== undefined) return { seconds };
  const grade = wordOf(
    path.id,
    path.data,
    'grade',
    grades.map((g) => g.id),
  );
  return grade ? { seconds: (grades.find((g) => g.id === grade) ?? gradeOfSeconds(15)).typicalS } : {};
}

const nameOf = (path: DrawnPath) => path.data['name'] || path.id.replace(/[-_]+/g, ' ');

/** A drawing taken apart into its paths, in painting order: the stack before anybody has asked what each of them is. */
export interface Drawing {
  readonly paths: readonly DrawnPath[];
  readonly notes: readonly DesignNote[];
}

export function readDrawing(svgText: string): Drawing {
  // A design that is worked on is read again with every edit, and its drawing is always the same.
  if (lastRead?.svgText !== svgText) lastRead = { svgText, drawing: drawnPaths(parseSvg(svgText)) };
  return lastRead.drawing;
}
let lastRead: { readonly svgText: string; readonly drawing: Drawing } | null = null;

/**
 * Reads a design from SVG text. Roles, techniques and a part's own words are plain `data-` attributes (docs/formats.md),
 * inherited from groups; a drawing without them is read by what it looks like, and every guess is noted. Order in the
 * file is the order of laying. Throws {@link BadInput} for anything malformed, hostile, or without a single section.
 */
export function readDesign(svgText: string, name = 'design'): Design {
  return designOf(readDrawing(svgText), name);
}

const filledShapes = new WeakMap<DrawnPath, Shape>();
/** The ground inside a path; worked out once, since a path never changes. */
function filled(p: DrawnPath): Shape {
  const known = filledShapes.get(p);
  if (known) return known;
  const shape = shapeFromRings(
    p.subpaths.map((s) => s.points),
    p.fillRule,
  );
  filledShapes.set(p, shape);
  return shape;
}

const partsKnown = new WeakMap<DrawnPath, Map<string, DrawnPart[]>>();
/** What a path is as a part: the same objects as long as the path is there, so that what is known of them stays known. */
function partsOf(path: DrawnPath, as: string, make: () => DrawnPart[]): DrawnPart[] {
  const known = partsKnown.get(path) ?? new Map<string, DrawnPart[]>();
  partsKnown.set(path, known);
  const found = known.get(as);
  if (found) return found;
  const made = make();
  known.set(as, made);
  return made;
}

/** What a path is, by what it says of itself and what it looks like, before anything is known of what lies under it. */
interface PathRole {
  readonly role: 'cookie' | 'section' | 'small' | 'line' | 'mark' | 'guide' | 'nothing';
  readonly technique?: Technique;
  readonly shape: Shape;
  /** why it is nothing, where that is worth saying */
  readonly skipped?: string;
}
const rolesKnown = new WeakMap<DrawnPath, PathRole>();
function roleOf(path: DrawnPath): PathRole {
  const known = rolesKnown.get(path);
  if (known) return known;
  const found = findRole(path);
  rolesKnown.set(path, found);
  return found;
}
function findRole(path: DrawnPath): PathRole {
  const part = wordOf(path.id, path.data, 'part', PARTS);
  const technique = wordOf(path.id, path.data, 'technique', TECHNIQUES);
  if (part === 'guide') return { role: 'guide', shape: [] };
  if (path.fill === null && path.stroke === null && part === undefined && technique === undefined) return { role: 'nothing', shape: [] };
  const shape = path.fill !== null || part === 'cookie' || part === 'section' ? filled(path) : [];
  const area = areaMm2(shape);
  const given =
    part ??
    (technique &&
      (isOneOf<string>(markTechniques, technique) ? 'mark' : isOneOf<string>(detailTechniques, technique) ? 'line' : 'section'));
  if (given === 'section' && area < SLIVER_MM2) return { role: 'nothing', shape, skipped: msg`A section without area was skipped.` };
  if (given) return { role: given, ...(technique ? { technique } : {}), shape };
  if (path.fill === null) return { role: 'line', shape };
  if (area >= SECTION_MIN_MM2) return { role: 'section', shape };
  return area >= SLIVER_MM2
    ? { role: 'small', shape }
    : { role: 'nothing', shape, skipped: msg`A speck of ${area.toFixed(2)} mm² was skipped.` };
}

const floodOf = (path: DrawnPath): DrawnPart[] => {
  const { shape, technique } = roleOf(path);
  return partsOf(path, `section ${technique}`, () => [sectionOf(path, shape, technique)]);
};
const detailsOf = (path: DrawnPath): DrawnPart[] => {
  const { shape, technique } = roleOf(path);
  const t = isOneOf<DetailTechnique>(detailTechniques, technique) ? technique : 'piped-line';
  return partsOf(path, `line ${t}`, () => linesOfPath(path, shape, t));
};

/** A path that says itself, or shows by its size, that it is wet work. */
export const isWetWork = (path: DrawnPath): boolean => roleOf(path).role === 'mark';
/** The floods and details a path is for sure, before it is known what lies under it; none of a small fill that might be either. */
export function bodiesOf(path: DrawnPath): readonly DrawnPart[] {
  const { role } = roleOf(path);
  return role === 'section' ? floodOf(path) : role === 'line' ? detailsOf(path) : [];
}

/** What a drawing's paths mean as a cookie. `gone` are parts taken off again, by id. */
export function designOf(drawing: Drawing, name: string, gone: ReadonlySet<string> = new Set()): Design {
  const { paths } = drawing;
  const notes: DesignNote[] = [...drawing.notes];
  const note: Note = (code, place, text, answers) => notes.push({ code, place, text, ...(answers ? { answers } : {}) });
  const roles = paths.map((path) => ({ path, ...roleOf(path) }));
  for (const { path, skipped } of roles) if (skipped) note('skipped', path.id, skipped);

  // Whether a small fill is a mark depends on what lies under it, so the shapes of sections are known first.
  let cookie: Shape | undefined;
  const shapes: Shape[] = [];
  const stack: { path: DrawnPath; parts: DrawnPart[] }[] = [];
  for (const { path, role, technique, shape } of roles) {
    if (role === 'cookie') cookie = cookie ? union(cookie, shape) : shape;
    else if (role === 'section') {
      shapes.push(shape);
      stack.push({ path, parts: floodOf(path) });
    } else if (role === 'small') {
      const centre = centroid(shape);
      if (shapes.some((s) => contains(s, centre))) {
        stack.push({ path, parts: partsOf(path, `mark wet-drop`, () => marksOfPath(path, shape, 'wet-drop')) });
        note(
          'guessed',
          path.id,
          msg`"${path.id}" (${areaMm2(shape).toFixed(0)} mm²) was read as a wet drop; data-part="section" floods it instead.`,
          {
            right: { part: 'mark' },
            otherwise: { label: msg`a small flood`, said: { part: 'section' } },
          },
        );
      } else {
        shapes.push(shape);
        stack.push({ path, parts: floodOf(path) });
        note(
          'guessed',
          path.id,
          msg`"${path.id}" (${areaMm2(shape).toFixed(0)} mm²) lies on no other section, so it was read as a small section.`,
          {
            right: { part: 'section' },
            otherwise: { label: msg`a bead`, said: { part: 'line', technique: 'piped-line' } },
          },
        );
      }
    } else if (role === 'mark') {
      const t = isOneOf<MarkTechnique>(markTechniques, technique)
        ? technique
        : path.subpaths.every((s) => s.closed)
          ? 'wet-drop'
          : 'wet-line';
      stack.push({ path, parts: partsOf(path, `mark ${t}`, () => marksOfPath(path, shape, t)) });
    } else if (role === 'guide') stack.push({ path, parts: guidesOfPath(path, note) });
    else if (role === 'line') stack.push({ path, parts: detailsOf(path) });
  }

  // The cookie: said, else an unfilled ring round everything, else the icing and a bare rim.
  if (!cookie) {
    const icing = shapes.reduce<Shape>(withIcing, NO_ICING);
    const ring = stack.find(({ path, parts }) => {
      if (parts[0]?.role !== 'line' || path.data['part'] || path.data['technique'] || !path.subpaths.every((s) => s.closed)) return false;
      const inside = filled(path);
      return (
        areaMm2(inside) > 0 &&
        areaMm2(intersection(inside, icing)) >= COOKIE_COVERS * areaMm2(icing) &&
        areaMm2(inside) >= areaMm2(icing) * 0.999
      );
    });
    if (ring) {
      cookie = filled(ring.path);
      stack.splice(stack.indexOf(ring), 1);
      note(
        'guessed',
        ring.path.id,
        msg`"${ring.path.id}" goes round everything, so it was read as the cookie's outline; data-part="line" pipes it instead.`,
        {
          right: { part: 'cookie' },
          otherwise: { label: msg`a bead round it`, said: { part: 'line' } },
        },
      );
    } else if (shapes.length > 0) {
      cookie = heldTogether(icing, note);
      note(
        'guessed',
        'cookie',
        msg`The drawing has no cookie outline, so the cookie reaches ${BARE_RIM_MM} mm beyond the icing; data-part="cookie" sets it.`,
      );
    }
  }
  if (shapes.length === 0 || !cookie)
    throw new BadInput(
      'no-section',
      msg`The drawing has no area to flood: fill at least one closed path of ${SECTION_MIN_MM2} mm² or more.`,
    );
  for (const { path, parts } of stack)
    if (parts[0]?.role === 'line' && !path.data['part'] && !path.data['technique'])
      note(
        'guessed',
        path.id,
        msg`"${path.id}" is ${path.subpaths[0]?.closed ? msg`an unfilled` : msg`an open`} stroke, so it was read as a piped line.`,
        {
          right: { part: 'line' },
          otherwise: { label: msg`a line laid wet`, said: { part: 'mark', technique: 'wet-line' } },
        },
      );

  const ordering = orderingOf(paths);
  const parts = settled(
    named(stack, boundingBox(cookie.flat())).filter((p) => !gone.has(p.id)),
    note,
  );
  const transfer = paths.some((p) => p.data['transfer'] === 'true');
  return { name, cookie, parts, notes, ...(ordering ? { ordering } : {}), ...(transfer ? { transfer } : {}) };
}

const NO_ICING: Shape = [];
/** Icing so far and one flood more. An edit leaves most floods as they were, so most of this is known. */
const withIcing = ofPair((icing: Shape, flood: Shape) => union(icing, flood));
const rimmed = ofOne((icing: Shape) => offset(icing, BARE_RIM_MM));

/**
 * A cookie round icing that has none drawn: a bare rim, wide enough between loose pieces to bake as one where they are near,
 * and said where they are not.
 */
function heldTogether(icing: Shape, note: Note): Shape {
  const bare = rimmed(icing);
  const pieces = (s: Shape) => s.filter((r) => areaMm2([r]) > 0).length;
  if (pieces(bare) < 2) return bare;
  for (let reach = BARE_RIM_MM + 1; reach <= HOLDS_OVER_MM / 2; reach += 1) {
    const held = offset(offset(icing, reach), BARE_RIM_MM - reach);
    if (pieces(held) > 1) continue;
    note('guessed', 'cookie', msg`The icing lies in ${pieces(bare)} pieces: the cookie was made to hold them together.`);
    return held.filter((r) => areaMm2([r]) > 0);
  }
  note(
    'guessed',
    'cookie',
    msg`The icing lies in ${pieces(bare)} pieces too far apart for one cookie: they are counted as one and baked as ${pieces(bare)}.`,
  );
  return bare;
}

/** Parts the drawing has no names for get some that can be said: "red, top left"; of several alike, counted. */
function named(stack: readonly { readonly path: DrawnPath; readonly parts: readonly DrawnPart[] }[], cookie: Box): DrawnPart[] {
  const times = new Map<string, number>();
  return stack.flatMap(({ path, parts }) => {
    if (!path.unnamed || path.data['name']) return parts;
    return parts.map((p) => {
      const name = `${colourName(p.colour)}, ${placeName(boundingBox(p.role === 'section' ? p.drawn.flat() : p.points), cookie)}`;
      const n = (times.get(name) ?? 0) + 1;
      times.set(name, n);
      return called(p, n === 1 ? name : `${name} ${n}`);
    });
  });
}
const calledBefore = new WeakMap<DrawnPart, DrawnPart>();
/** The same part under a name; the very object as before where it is the same name. */
function called(part: DrawnPart, name: string): DrawnPart {
  const known = calledBefore.get(part);
  if (known?.name === name) return known;
  const made = { ...part, name };
  calledBefore.set(part, made);
  return made;
}

/** Where a part lies on its cookie, in thirds. */
function placeName(own: Box, cookie: Box): string {
  const third = (at: number, from: number, to: number) =>
    Math.min(2, Math.max(0, Math.floor((3 * (at - from)) / Math.max(1e-9, to - from))));
  const across = third((own.minX + own.maxX) / 2, cookie.minX, cookie.maxX);
  const down = third((own.minY + own.maxY) / 2, cookie.minY, cookie.maxY);
  const [row, column] = [['top', '', 'bottom'][down], ['left', '', 'right'][across]];
  return [row, column].filter(Boolean).join(' ') || 'middle';
}

/** The free order a drawing asks for, said once of the whole or of its cookie. */
function orderingOf(paths: readonly DrawnPath[]): Ordering | undefined {
  const said = paths.find((p) => p.data['order']);
  return said && wordOf(said.id, said.data, 'order', orderings);
}

const common = (path: DrawnPath, i = 0) => {
  const words = wordsOf(path.id, path.data);
  const group = path.data['group'];
  return { id: subId(path, i), name: nameOf(path), ...secondsOf(path), ...(words ? { words } : {}), ...(group ? { group } : {}) };
};

function sectionOf(path: DrawnPath, shape: Shape, technique?: Technique): DrawnPart {
  const over = wordOf(path.id, path.data, 'over', OVERS);
  const flushWith = idsOf(path.data['flush']);
  const damPaint =
    path.data['dam'] === 'contrast' && !path.data['dam-colour'] && path.stroke && path.stroke !== path.fill ? path.stroke : undefined;
  const made = common(path);
  if (over === 'layer' && flushWith.length > 0)
    throw new BadInput(
      'contradiction',
      msg`"${path.id}" says data-over="layer" and data-flush="${path.data['flush']}", which contradict each other: what lies on top is not
        level.`,
      { place: path.id },
    );
  const words = damPaint && made.words ? { ...made.words, damColour: damPaint } : made.words;
  if (words?.dam === 'contrast' && !words.damColour)
    throw new BadInput('attribute', msg`"${path.id}" says data-dam="contrast": say its colour with data-dam-colour, such as #3a3f45.`, {
      place: path.id,
    });
  if (words?.dam && words.dam !== 'none' && technique === 'thin-coat')
    throw new BadInput(
      'contradiction',
      msg`"${path.id}" says data-technique="thin-coat" and data-dam="${words.dam}", which contradict each other: a coat has no dam.`,
      {
        place: path.id,
      },
    );
  return {
    role: 'section',
    ...made,
    ...(words ? { words } : {}),
    shape,
    drawn: shape,
    colour: colourWordOf(path.id, path.data, 'colour') ?? path.fill ?? path.stroke ?? '#ffffff',
    depthMm:
      numberOf(path.id, path.data, 'depth-mm', 0.3, 10, msg`mm`) ?? (technique === 'thin-coat' ? THIN_COAT_MM : DEFAULT_FLOOD_DEPTH_MM),
    layerOn: [],
    ...(over ? { over } : {}),
    ...(technique === 'thin-coat' ? { technique } : {}),
    ...(flushWith.length > 0 ? { flushWith } : {}),
  };
}

const strokeOf = (path: DrawnPath) => ({
  colour: colourWordOf(path.id, path.data, 'colour') ?? path.stroke ?? path.fill ?? '#ffffff',
  widthMm: path.stroke && path.strokeWidthMm > 0 ? path.strokeWidthMm : DEFAULT_LINE_WIDTH_MM,
});

/** Sub-paths of one path are parts of their own: the first bears its name, the others name and number. */
const subId = (path: DrawnPath, i: number) => (i === 0 ? path.id : `${path.id}.${i + 1}`);

function linesOfPath(path: DrawnPath, shape: Shape, technique: DetailTechnique): DrawnPart[] {
  const guides = idsOf(path.data['guides']);
  const made = (i: number) => ({
    role: 'line' as const,
    ...common(path, i),
    technique,
    restsOn: [],
    ...(guides.length > 0 ? { guides } : {}),
  });
  if (path.fill !== null && shape.length > 0 && isOneOf<string>(detailTechniques, path.data['technique'])) {
    // A filled area: stencilled, airbrushed, dusted, crackled, glued on.
    const colour = colourWordOf(path.id, path.data, 'colour') ?? path.fill ?? '#ffffff';
    return islands(shape).map(
      ({ ring, holes }, i): DrawnPart => ({
        ...made(i),
        points: ring,
        closed: true,
        area: true,
        ...(holes.length > 0 ? { holes } : {}),
        colour,
        widthMm: 0,
      }),
    );
  }
  return path.subpaths.map((sub, i): DrawnPart => ({ ...made(i), points: sub.points, closed: sub.closed, ...strokeOf(path) }));
}

function marksOfPath(path: DrawnPath, shape: Shape, technique: MarkTechnique): DrawnPart[] {
  const placed = PLACED_MARKS.includes(technique);
  const pieces =
    placed && shape.length > 0 ? shape.filter((r) => areaMm2([r]) > 0).map((ring) => ({ points: ring, closed: true })) : path.subpaths;
  const look = placed && path.fill ? { colour: colourWordOf(path.id, path.data, 'colour') ?? path.fill, widthMm: 0 } : strokeOf(path);
  return pieces.map(
    (sub, i): DrawnPart => ({
      role: 'mark',
      ...common(path, i),
      technique,
      sectionId: '',
      points: sub.points,
      closed: sub.closed,
      ...look,
    }),
  );
}

function guidesOfPath(path: DrawnPath, note: Note): DrawnPart[] {
  const said = wordOf(path.id, path.data, 'guide', guideKinds);
  if (!said)
    note('guessed', path.id, msg`"${path.id}" is a guide, read as traced from a template; data-guide says how it is made.`, {
      right: { guide: 'traced' },
      otherwise: { label: msg`projected`, said: { guide: 'projected' } },
    });
  const guides = idsOf(path.data['guides']);
  return path.subpaths.map(
    (sub, i): DrawnPart => ({
      role: 'guide',
      ...common(path, i),
      kind: said ?? 'traced',
      points: sub.points,
      closed: sub.closed,
      colour: strokeOf(path).colour,
      restsOn: [],
      ...(guides.length > 0 ? { guides } : {}),
    }),
  );
}
