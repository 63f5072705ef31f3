import type { Point } from '../geometry/point.js';
import { areaMm2, centroid, contains, difference, intersection, offset, type Shape, shapeFromRings, union } from '../geometry/shape.js';
import { gradeOfSeconds, grades } from '../icing/grade.js';
import { BadInput } from '../units/bad-input.js';
import type { Design, DesignNote, PipedLine, Section, WetMark } from './design.js';
import { type DrawnPath, drawnPaths } from './drawn-path.js';
import { alongside, densify, sectionsUnder } from './placing.js';
import { parseSvg } from './svg-tree.js';
import { type DetailTechnique, detailTechniques, type MarkTechnique, markTechniques, type SectionTechnique, sectionTechniques } from './technique-names.js';

/** A closed fill at least this large is a section; a smaller one inside a section a wet mark. */
export const SECTION_MIN_MM2 = 20;
/** Anything smaller is a slip of the pen. */
const SLIVER_MM2 = 0.3;
/** A section lying on another is an inlay if it covers at least this share of it or reaches its edge. */
const INLAY_SHARE = 0.25;
const EDGE_REACH_MM = 0.5;
/** Cookie shown around the icing where the drawing has no outline of its own. */
const BARE_RIM_MM = 2;
/** An unfilled ring is the cookie's outline only if it goes round at least this share of the icing. */
const COOKIE_COVERS = 0.95;
export const DEFAULT_FLOOD_DEPTH_MM = 2.5;
const DEFAULT_LINE_WIDTH_MM = 2;

interface DraftSection {
  id: string;
  name: string;
  shape: Shape;
  colour: string;
  seconds?: number;
  depthMm: number;
  layerOn: string[];
  over?: string;
  technique?: SectionTechnique;
  flushWith?: string[];
}

const PARTS = ['cookie', 'section', 'line', 'mark', 'guide'] as const;
const OVERS = ['layer', 'inlay'] as const;
type Technique = SectionTechnique | MarkTechnique | DetailTechnique;
const TECHNIQUES: readonly Technique[] = [...sectionTechniques, ...markTechniques, ...detailTechniques];
/** Marks that are an area or a place rather than a stroke. */
const PLACED_MARKS: readonly MarkTechnique[] = ['wet-drop', 'sprinkle', 'lay-in'];
/** A background coat is a film: *assumed*, "full depth not needed". */
const THIN_COAT_MM = 0.7;

const isOneOf = <T extends string>(list: readonly T[], v: string | undefined): v is T => v !== undefined && (list as readonly string[]).includes(v);

function oneOf<T extends string>(path: DrawnPath, key: string, list: readonly T[]): T | undefined {
  const v = path.data[key];
  if (v === undefined || v === '') return undefined;
  if (!isOneOf(list, v)) throw new BadInput('attribute', `"${path.id}" says data-${key}="${v}": use one of ${list.join(', ')}.`, { place: path.id });
  return v;
}

function positive(path: DrawnPath, key: string, from: number, to: number, unit: string): number | undefined {
  const v = path.data[key];
  if (v === undefined || v === '') return undefined;
  const n = Number(v);
  if (!Number.isFinite(n) || n < from || n > to)
    throw new BadInput('attribute', `"${path.id}" says data-${key}="${v}": give a number from ${from} to ${to} ${unit}.`, { place: path.id });
  return n;
}

/** Consistency named by data-seconds or data-grade. */
function secondsOf(path: DrawnPath): { seconds?: number } {
  const seconds = positive(path, 'seconds', 1.5, 120, 'seconds');
  if (seconds !== undefined) return { seconds };
  const grade = oneOf(
    path,
    'grade',
    grades.map((g) => g.id),
  );
  return grade ? { seconds: (grades.find((g) => g.id === grade) ?? gradeOfSeconds(15)).typicalS } : {};
}

/** data-colour beats the paint of the drawing. */
function colourOf(path: DrawnPath): string | undefined {
  const v = path.data['colour'];
  if (v === undefined || v === '') return undefined;
  if (!/^#[0-9a-f]{6}$/i.test(v)) throw new BadInput('attribute', `"${path.id}" says data-colour="${v}": give a colour such as #f6f3ea.`, { place: path.id });
  return v.toLowerCase();
}

const nameOf = (path: DrawnPath) => path.data['name'] || path.id.replace(/[-_]+/g, ' ');

/** Attributes (without "data-") said of parts by id, apart from the drawing. */
export type SaidOfParts = Readonly<Record<string, Readonly<Record<string, string>>>>;

/**
 * Reads a design from SVG text. Roles and techniques are plain `data-` attributes (data-part, data-technique,
 * data-over, data-seconds, data-grade, data-depth-mm, data-name), inherited from groups; a drawing without them is
 * read by what it looks like, and every guess is noted. Order in the file is the order of layers.
 * Throws {@link BadInput} for anything malformed, hostile, or without a single section.
 */
export function readDesign(svgText: string, name = 'design', said: SaidOfParts = {}): Design {
  const { paths: drawn, notes: readNotes } = drawnPaths(parseSvg(svgText));
  // What the user said of a part beats what the drawing says of it.
  const paths = drawn.map((p): DrawnPath => {
    const own = said[p.id];
    return own ? { ...p, data: { ...p.data, ...own } } : p;
  });
  const notes: DesignNote[] = [...readNotes];
  const note = (code: DesignNote['code'], place: string, text: string) => notes.push({ code, place, text });

  const filled = (p: DrawnPath): Shape =>
    shapeFromRings(
      p.subpaths.map((s) => s.points),
      p.fillRule,
    );
  const roles: { path: DrawnPath; role: 'cookie' | 'section' | 'small' | 'line' | 'mark'; technique?: Technique; shape: Shape }[] = [];
  for (const path of paths) {
    const part = oneOf(path, 'part', PARTS);
    const technique = oneOf(path, 'technique', TECHNIQUES);
    if (part === 'guide') continue;
    if (path.fill === null && path.stroke === null && part === undefined && technique === undefined) continue;
    const shape = path.fill !== null || part === 'cookie' || part === 'section' ? filled(path) : [];
    const area = areaMm2(shape);
    const given =
      part ?? (technique && (isOneOf<string>(markTechniques, technique) ? 'mark' : isOneOf<string>(detailTechniques, technique) ? 'line' : 'section'));
    if (given === 'section' && area < SLIVER_MM2) {
      note('skipped', path.id, 'A section without area was skipped.');
      continue;
    }
    if (given) roles.push({ path, role: given, ...(technique ? { technique } : {}), shape });
    else if (path.fill === null) roles.push({ path, role: 'line', shape });
    else if (area >= SECTION_MIN_MM2) roles.push({ path, role: 'section', shape });
    else if (area >= SLIVER_MM2) roles.push({ path, role: 'small', shape });
    else note('skipped', path.id, `A speck of ${area.toFixed(2)} mm² was skipped.`);
  }

  const drafts: DraftSection[] = [];
  const addSection = (path: DrawnPath, shape: Shape, technique?: Technique) =>
    drafts.push({
      id: path.id,
      name: nameOf(path),
      shape,
      colour: colourOf(path) ?? path.fill ?? path.stroke ?? '#ffffff',
      ...secondsOf(path),
      depthMm: positive(path, 'depth-mm', 0.3, 10, 'mm') ?? (technique === 'thin-coat' ? THIN_COAT_MM : DEFAULT_FLOOD_DEPTH_MM),
      layerOn: [],
      ...(path.data['over'] ? { over: oneOf(path, 'over', OVERS) as string } : {}),
      ...(technique === 'thin-coat' ? { technique } : {}),
      ...(path.data['flush'] ? { flushWith: path.data['flush'].split(/[\s,]+/).filter((id) => id !== '') } : {}),
    });
  // Sections first: whether a small fill is a mark depends on what lies under it.
  const marksToPlace: { path: DrawnPath; shape: Shape; technique: MarkTechnique }[] = [];
  const linesToPlace: { path: DrawnPath; shape: Shape; technique: DetailTechnique }[] = [];
  let cookie: Shape | undefined;
  for (const { path, role, technique, shape } of roles) {
    if (role === 'cookie') cookie = cookie ? union(cookie, shape) : shape;
    else if (role === 'section') addSection(path, shape, technique);
    else if (role === 'small') {
      const centre = centroid(shape);
      if (drafts.some((d) => contains(d.shape, centre))) {
        marksToPlace.push({ path, shape, technique: 'wet-drop' });
        note('guessed', path.id, `"${path.id}" (${areaMm2(shape).toFixed(0)} mm²) was read as a wet drop; data-part="section" floods it instead.`);
      } else {
        addSection(path, shape);
        note('guessed', path.id, `"${path.id}" (${areaMm2(shape).toFixed(0)} mm²) lies on no other section, so it was read as a small section.`);
      }
    } else if (role === 'mark') {
      const t = isOneOf<MarkTechnique>(markTechniques, technique) ? technique : path.subpaths.every((s) => s.closed) ? 'wet-drop' : 'wet-line';
      marksToPlace.push({ path, shape, technique: t });
    } else linesToPlace.push({ path, shape, technique: isOneOf<DetailTechnique>(detailTechniques, technique) ? technique : 'piped-line' });
  }
  const icing = drafts.reduce<Shape>((u, d) => union(u, d.shape), []);

  // The cookie: said, else an unfilled ring round everything, else the icing and a bare rim.
  if (!cookie) {
    const ring = linesToPlace.find(({ path }) => {
      if (path.data['part'] || path.data['technique'] || !path.subpaths.every((s) => s.closed)) return false;
      const inside = filled(path);
      return areaMm2(inside) > 0 && areaMm2(intersection(inside, icing)) >= COOKIE_COVERS * areaMm2(icing) && areaMm2(inside) >= areaMm2(icing) * 0.999;
    });
    if (ring) {
      cookie = filled(ring.path);
      linesToPlace.splice(linesToPlace.indexOf(ring), 1);
      note('guessed', ring.path.id, `"${ring.path.id}" goes round everything, so it was read as the cookie's outline; data-part="line" pipes it instead.`);
    } else if (drafts.length > 0) {
      cookie = offset(icing, BARE_RIM_MM);
      note('guessed', 'cookie', `The drawing has no cookie outline, so the cookie reaches ${BARE_RIM_MM} mm beyond the icing; data-part="cookie" sets it.`);
    }
  }
  if (drafts.length === 0 || !cookie)
    throw new BadInput('no-section', `The drawing has no area to flood: fill at least one closed path of ${SECTION_MIN_MM2} mm² or more.`);

  layOver(drafts, note);
  const sections: Section[] = drafts.filter((d) => d.shape.length > 0).map(({ over: _over, ...d }) => d);
  if (sections.length === 0) throw new BadInput('no-section', 'Every section of the drawing is covered by another: check the order of its layers.');

  const under = (points: readonly Point[]) => sectionsUnder(sections, points);
  const lines: PipedLine[] = [];
  const marks: WetMark[] = [];
  const stroke = (path: DrawnPath) => ({
    colour: colourOf(path) ?? path.stroke ?? path.fill ?? '#ffffff',
    widthMm: path.stroke && path.strokeWidthMm > 0 ? path.strokeWidthMm : DEFAULT_LINE_WIDTH_MM,
  });
  for (const { path, shape, technique } of linesToPlace) {
    const common = { name: nameOf(path), ...secondsOf(path), technique };
    if (path.fill !== null && shape.length > 0 && isOneOf<string>(detailTechniques, path.data['technique'])) {
      // A filled area: stencilled, airbrushed, dusted, crackled, glued on.
      shape.forEach((ring, i) => {
        const colour = colourOf(path) ?? path.fill ?? '#ffffff';
        const points = [...densify(ring, true), centroid([ring])];
        lines.push({ id: subId(path, i), ...common, points: ring, closed: true, area: true, colour, widthMm: 0, restsOn: under(points) });
      });
      continue;
    }
    path.subpaths.forEach((sub, i) => {
      const restsOn = under(alongside(densify(sub.points, sub.closed), stroke(path).widthMm / 2));
      lines.push({ id: subId(path, i), ...common, points: sub.points, closed: sub.closed, ...stroke(path), restsOn });
    });
    if (!path.data['part'] && !path.data['technique'])
      note('guessed', path.id, `"${path.id}" is ${path.subpaths[0]?.closed ? 'an unfilled' : 'an open'} stroke, so it was read as a piped line.`);
  }
  for (const { path, shape, technique } of marksToPlace) {
    const pieces = PLACED_MARKS.includes(technique) && shape.length > 0 ? shape.map((ring) => ({ points: ring, closed: true })) : path.subpaths;
    pieces.forEach((sub, i) => {
      const sectionId = under(PLACED_MARKS.includes(technique) ? [...sub.points, centroid([sub.points])] : densify(sub.points, sub.closed))[0];
      if (!sectionId) {
        note('skipped', path.id, `The wet mark "${path.id}" lies on no section and was skipped: move it onto flooded icing.`);
        return;
      }
      const look = PLACED_MARKS.includes(technique) && path.fill ? { colour: colourOf(path) ?? path.fill, widthMm: 0 } : stroke(path);
      marks.push({ id: subId(path, i), name: nameOf(path), technique, sectionId, points: sub.points, closed: sub.closed, ...look, ...secondsOf(path) });
    });
  }
  return { name, cookie, sections: flushBothWays(sections, note), lines, marks, notes };
}

/** A flush join goes both ways; one with a section that is not there is told and left out. */
function flushBothWays(sections: readonly Section[], note: (code: DesignNote['code'], place: string, text: string) => void): Section[] {
  const joins = new Map<string, Set<string>>(sections.map((s) => [s.id, new Set()]));
  for (const s of sections) {
    for (const other of s.flushWith ?? []) {
      if (!joins.has(other) || other === s.id) note('skipped', s.id, `"${s.id}" is to lie flush with "${other}", which is no other section: name a section.`);
      else {
        joins.get(s.id)?.add(other);
        joins.get(other)?.add(s.id);
      }
    }
  }
  return sections.map(({ flushWith: _flushWith, ...s }) => {
    const own = [...(joins.get(s.id) as Set<string>)];
    return own.length > 0 ? { ...s, flushWith: own } : s;
  });
}

const subId = (path: DrawnPath, i: number) => (i === 0 ? path.id : `${path.id}.${i + 1}`);

/** Decides for each section lying on an earlier one whether it is an inlay (knocked out, side by side) or a second layer. */
function layOver(drafts: DraftSection[], note: (code: DesignNote['code'], place: string, text: string) => void): void {
  for (const [u, upper] of drafts.entries()) {
    for (let l = u - 1; l >= 0; l--) {
      const lower = drafts[l] as DraftSection;
      if (lower.shape.length === 0) continue;
      const common = areaMm2(intersection(upper.shape, lower.shape));
      if (common < SLIVER_MM2) {
        if (common > 0) lower.shape = difference(lower.shape, upper.shape);
        continue;
      }
      const within = areaMm2(difference(upper.shape, offset(lower.shape, -EDGE_REACH_MM))) < SLIVER_MM2;
      const guess = common >= INLAY_SHARE * areaMm2(lower.shape) || !within ? 'inlay' : 'layer';
      const kind = upper.over ?? guess;
      if (!upper.over) {
        const meaning = kind === 'inlay' ? 'side by side, knocked out' : 'a second layer';
        note(
          'guessed',
          upper.id,
          `"${upper.id}" lies on "${lower.id}": read as ${meaning}; data-over="${kind === 'inlay' ? 'layer' : 'inlay'}" says otherwise.`,
        );
      }
      if (kind === 'layer') {
        upper.layerOn.push(lower.id);
        // What lies wholly on this one has nothing to do with what lies beneath it.
        if (areaMm2(difference(upper.shape, lower.shape)) < SLIVER_MM2) break;
      } else {
        const whollyOn = areaMm2(difference(upper.shape, lower.shape)) < SLIVER_MM2;
        lower.shape = difference(lower.shape, upper.shape).filter((ring) => Math.abs(areaMm2([ring])) >= SLIVER_MM2);
        if (areaMm2(lower.shape) < SLIVER_MM2) {
          lower.shape = [];
          note('repaired', lower.id, `"${lower.id}" is wholly covered by what lies on it and was left out.`);
        }
        if (whollyOn) {
          // Side by side with its ground, it lies on whatever that ground lies on.
          upper.layerOn.push(...lower.layerOn.filter((id) => !upper.layerOn.includes(id)));
          break;
        }
      }
    }
  }
}
