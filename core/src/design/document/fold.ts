import type { Point } from '../../geometry/point.js';
import { boundingBox, type Shape } from '../../geometry/shape.js';
import { msg } from '../../words/index.js';
import { belongs } from '../arrange.js';
import { type Design, type DesignNote, sectionById } from '../design.js';
import { dividedShape } from '../divide.js';
import type { DrawnPath } from '../drawn-path.js';
import { patternById, strokesOf } from '../patterns/index.js';
import { readDrawing } from '../read-design.js';
import { wetBodyAt } from '../settle.js';
import { type MarkTechnique, markTechniques, type SectionTechnique, sectionTechniques } from '../technique-names.js';
import { arranged, copied, cutOut, islandsApart, setFree, united } from './arranged.js';
import { amended, type DesignDocument, type DrawnStroke, type SingleEdit, standingEdits } from './document.js';
import { type Draft, designIn, freshName, NOTHING_GONE, withPaths } from './draft.js';
import { afterWet, bodyAt, levelBodies } from './wet-place.js';

/** Seconds a pattern's spread is reckoned with where the school decides the icing. */
const USUAL_MARK_S = 15;

/**
 * The design a document stands for: its drawing with everything said of its parts and done to it, in order. Whatever is
 * said works on drawn, made and divided parts alike. An edit of something that is not there any more does nothing, and is noted.
 */
export function foldDesign(doc: DesignDocument): Design {
  const fold = folded(doc);
  const known = designsKnown.get(fold);
  if (known) return known;
  const design = designIn(fold.draft);
  const made = { ...design, notes: [...design.notes, ...fold.skipped] };
  designsKnown.set(fold, made);
  return made;
}
/** The same edits folded again are the same object, so that what is known of it stays known. */
const designsKnown = new WeakMap<Fold, Design>();

/** The paths a document stands for, for those who write them down again. */
export const draftOf = (doc: DesignDocument): Draft => folded(doc).draft;

/** A design in the middle of its edits, and what was left out so far. */
interface Fold {
  readonly draft: Draft;
  readonly skipped: readonly DesignNote[];
}
/** The last document, and how it stood after each of its last edits: one edit more costs that edit alone. */
let last: {
  readonly svg: string;
  readonly name: string;
  readonly standing: readonly SingleEdit[];
  readonly folds: ReadonlyMap<number, Fold>;
} | null = null;
const KEPT_FOLDS = 64;

function folded(doc: DesignDocument): Fold {
  const standing = amended(standingEdits(doc.edits).standing);
  const folds = new Map<number, Fold>();
  let at = 0;
  let now: Fold | undefined;
  if (last && last.svg === doc.svg && last.name === doc.name) {
    const known = last.standing;
    const differs = standing.findIndex((e, i) => e !== known[i]);
    const common = differs < 0 ? standing.length : differs;
    for (const [i, fold] of last.folds)
      if (i <= common) {
        folds.set(i, fold);
        if (!now || i > at) [at, now] = [i, fold];
      }
  }
  now ??= {
    draft: { drawing: readDrawing(doc.svg), gone: NOTHING_GONE, name: doc.name, before: [], transfer: undefined, ordering: undefined },
    skipped: [],
  };
  if (at === 0) folds.set(0, now);
  for (; at < standing.length; at++) {
    const edit = standing[at] as SingleEdit;
    const was: Fold = now;
    const next = applied(was.draft, edit);
    const place = placeOf(edit);
    now = next
      ? { ...was, draft: next }
      : {
          ...was,
          skipped: [
            ...was.skipped,
            { code: 'skipped', place, text: msg`"${place}" is not there any more, so what was done to it was left out.` },
          ],
        };
    if (at + 1 > standing.length - KEPT_FOLDS) folds.set(at + 1, now);
  }
  for (const i of folds.keys()) if (i <= standing.length - 2 * KEPT_FOLDS) folds.delete(i);
  last = { svg: doc.svg, name: doc.name, standing, folds };
  return now;
}

/** What an edit speaks of, to say that it is not there any more. */
function placeOf(e: SingleEdit): string {
  if ('sectionId' in e) return e.sectionId;
  if ('part' in e) return e.part;
  if (e.type === 'arrange') return e.moves.map((m) => m.part).join(', ');
  if (e.type === 'unite') return e.parts.join(', ');
  return e.type === 'draw' ? e.name : e.type === 'pattern-again' ? e.id : e.type;
}

/** null where the edit speaks of something that is not there. */
function applied(d: Draft, e: SingleEdit): Draft | null {
  const { paths } = d.drawing;
  switch (e.type) {
    case 'rename':
      return { ...d, name: e.name };
    case 'resize': {
      const box = boundingBox(designIn(d).cookie.flat());
      return withPaths(d, scaled(paths, e.widthMm / (box.maxX - box.minX)));
    }
    case 'recolour':
      return withPaths(
        d,
        paths.map((p) => repainted(p, e.from, e.to)),
      );
    case 'transfer':
      return { ...d, transfer: e.on };
    case 'ordering':
      return { ...d, ordering: e.ordering };
    case 'say': {
      // A piece of a path shares its path's words; a part that is not there keeps nobody from going on.
      const own = paths.some((p) => belongs(p.id, e.part)) ? e.part : e.part.replace(/\.\d+$/, '');
      if (!paths.some((p) => belongs(p.id, own))) return null;
      return withPaths(
        d,
        paths.map((p) => (belongs(p.id, own) && (!e.ofColour || inkOf(p) === e.ofColour) ? { ...p, data: { ...p.data, ...e.said } } : p)),
      );
    }
    case 'remove':
      return removed(d, e.part);
    case 'move':
      return moved(d, e.part, e.before);
    case 'pattern':
      return patterned(d, e);
    case 'divide':
      return divided(d, e);
    case 'detail': {
      const made: DrawnPath = {
        id: freshName(d, e.id),
        tag: 'path',
        subpaths: [{ points: e.points, closed: e.closed || e.area }],
        fill: e.area ? e.colour : null,
        stroke: e.area ? null : e.colour,
        strokeWidthMm: e.widthMm,
        fillRule: 'nonzero',
        data: { part: 'line', technique: e.technique, name: e.name },
      };
      return withPaths(d, [...paths, made]);
    }
    case 'draw':
      return drawn(d, e);
    case 'first': {
      const ids = new Set(designIn(d).parts.map((p) => p.id));
      if (!ids.has(e.first) || !ids.has(e.next) || e.first === e.next) return null;
      return { ...d, before: [...d.before.filter(([a, b]) => !isPair(a, b, e.first, e.next)), [e.first, e.next]] };
    }
    case 'either':
      return { ...d, before: d.before.filter(([a, b]) => !isPair(a, b, e.a, e.b)) };
    case 'arrange':
      return arranged(d, e.moves);
    case 'copy':
      return copied(d, e);
    case 'part-islands':
      return islandsApart(d, e.part);
    case 'unite':
      return united(d, e.parts);
    case 'cut-out':
      return cutOut(d, e);
    case 'set-free':
      return setFree(d, e.part);
    // Written into what they change before anything is folded; what they would change is gone.
    case 'pattern-again':
    case 'divide-again':
      return null;
    case 'undo':
    case 'redo':
      return d;
  }
}

/** The colour a path is piped in: said, or painted. */
const inkOf = (p: DrawnPath): string | null => p.data['colour']?.toLowerCase() || p.fill || p.stroke;
const isMark = (technique: string): technique is MarkTechnique => (markTechniques as readonly string[]).includes(technique);
const isFlood = (technique: string): technique is SectionTechnique => (sectionTechniques as readonly string[]).includes(technique);

function drawn(d: Draft, e: Extract<SingleEdit, { type: 'draw' }>): Draft | null {
  const wet = isMark(e.technique);
  const filled = e.area || e.technique === 'wet-drop';
  const part = e.technique === 'guide' ? 'guide' : wet ? 'mark' : isFlood(e.technique) ? 'section' : 'line';
  const said: Readonly<Record<string, string>> = e.technique === 'guide' ? { guide: 'traced' } : { technique: e.technique };
  const path = (id: string, strokes: readonly DrawnStroke[]): DrawnPath => ({
    id,
    tag: 'path',
    subpaths: strokes.map((s) => ({ points: s.points, closed: s.closed || filled })),
    fill: filled ? e.colour : null,
    stroke: filled ? null : e.colour,
    strokeWidthMm: filled ? 0 : e.widthMm,
    fillRule: 'nonzero',
    data: { part, ...said, name: e.name, ...(isFlood(e.technique) ? { over: e.layer ? 'layer' : 'inlay' } : {}) },
  });
  const { paths } = d.drawing;
  const name = freshName(d, e.id);
  if (!wet) return withPaths(d, [...paths, path(name, e.strokes)]);
  // Laid straight into its flood, each by itself: after what lies in it already, before anything that may cover it.
  const first = e.strokes[0]?.points[0];
  const made = e.strokes.map((s, i) => path(e.strokes.length === 1 ? name : `${name}.${i + 1}`, [s]));
  const body = first && d.gone.size === 0 ? bodyAt(paths, first) : undefined;
  if (body) {
    // Drawn across floods that lie level it belongs to all of them, and comes after the last.
    const after = afterWet(paths, levelBodies(paths, body));
    return withPaths(d, [...paths.slice(0, after + 1), ...made, ...paths.slice(after + 1)]);
  }
  // A small flood that nobody said is one, or a piece of what was parted: asked of the settled stack, which costs more.
  const design = designIn(d);
  const found = first && wetBodyAt(design, first);
  if (!found) return null;
  const level = found.role === 'section' ? (found.flushWith ?? []) : [];
  return withPaths(d, laidInto(d, design, [found.id, ...level], made));
}

/** The stack with something more laid wet into some of its floods or beads. */
function laidInto(d: Draft, design: Design, bodies: readonly string[], made: readonly DrawnPath[]): DrawnPath[] {
  const inIt = design.parts.filter((p) => bodies.includes(p.id) || (p.role === 'mark' && bodies.includes(p.sectionId))).map((p) => p.id);
  const { paths } = d.drawing;
  const after = paths.reduce((last, p, i) => (inIt.some((id) => belongs(id, p.id)) ? i : last), 0);
  return [...paths.slice(0, after + 1), ...made, ...paths.slice(after + 1)];
}

const isPair = (a: string, b: string, x: string, y: string) => (a === x && b === y) || (a === y && b === x);

function scaled(paths: readonly DrawnPath[], f: number): DrawnPath[] {
  const point = (p: Point): Point => ({ x: p.x * f, y: p.y * f });
  return paths.map((p) => ({
    ...p,
    subpaths: p.subpaths.map((s) => ({ ...s, points: s.points.map(point) })),
    strokeWidthMm: p.strokeWidthMm * f,
  }));
}

function repainted(p: DrawnPath, from: string, to: string): DrawnPath {
  // Wherever a colour is said in words it is the same icing.
  const said = ['colour', 'dam-colour'].filter((key) => p.data[key]?.toLowerCase() === from).map((key) => [key, to] as const);
  return {
    ...p,
    data: { ...p.data, ...Object.fromEntries(said) },
    fill: p.fill === from ? to : p.fill,
    stroke: p.stroke === from ? to : p.stroke,
  };
}

function removed(d: Draft, part: string): Draft | null {
  const design = designIn(d);
  const gone = new Set(design.parts.filter((p) => belongs(p.id, part)).map((p) => p.id));
  if (gone.size === 0) return null;
  // A cookie keeps at least one section: without any it is not decorated at all. What lay wet in one goes with it.
  const sections = design.parts.filter((p) => p.role === 'section' && !gone.has(p.id));
  if (sections.length === 0) return null;
  for (const p of design.parts) if (p.role === 'mark' && gone.has(p.sectionId)) gone.add(p.id);
  const whole = d.drawing.paths.filter(
    (p) => !gone.has(p.id) || design.parts.some((x) => x.id !== p.id && belongs(x.id, p.id) && !gone.has(x.id)),
  );
  const pieces = [...gone].filter((id) => !d.drawing.paths.some((p) => p.id === id && !whole.includes(p)));
  return { ...withPaths(d, whole), ...(pieces.length > 0 ? { gone: new Set([...d.gone, ...pieces]) } : {}) };
}

function moved(d: Draft, part: string, before: string | null): Draft | null {
  const { paths } = d.drawing;
  const own = paths.filter((p) => belongs(p.id, part));
  if (own.length === 0) return null;
  const rest = paths.filter((p) => !own.includes(p));
  const at = before === null ? endFor(d, own, rest) : rest.findIndex((p) => belongs(p.id, before));
  return at < 0 ? null : withPaths(d, [...rest.slice(0, at), ...own, ...rest.slice(at)]);
}

/** The end of the stack; for what lies wet in a flood, the end of what lies in that. */
function endFor(d: Draft, own: readonly DrawnPath[], rest: readonly DrawnPath[]): number {
  const { parts } = designIn(d);
  const mark = parts.find((p) => p.role === 'mark' && own.some((o) => belongs(p.id, o.id)));
  if (mark?.role !== 'mark') return rest.length;
  const inIt = parts.filter((p) => p.id === mark.sectionId || (p.role === 'mark' && p.sectionId === mark.sectionId));
  const last = rest.findLastIndex((p) => inIt.some((x) => belongs(x.id, p.id)));
  return last < 0 ? rest.length : last + 1;
}

function patterned(d: Draft, e: Extract<SingleEdit, { type: 'pattern' }>): Draft | null {
  const design = designIn(d);
  const section = sectionById(design, e.sectionId);
  if (!section) return null;
  const { label } = patternById(e.pattern);
  const name = freshName(d, e.id);
  const strokes = strokesOf(e.pattern, section.shape, e.ask, e.seconds ?? USUAL_MARK_S);
  const made = strokes.map((s, i): DrawnPath => {
    const colour = e.colours[Math.min(s.colour, e.colours.length - 1)] as string;
    const drop = s.technique === 'wet-drop';
    return {
      id: `${name}.${i + 1}`,
      tag: 'path',
      subpaths: [{ points: s.points, closed: s.closed }],
      fill: drop ? colour : null,
      stroke: drop ? null : colour,
      strokeWidthMm: drop ? 0 : s.sizeMm,
      fillRule: 'nonzero',
      data: {
        part: s.technique === 'piped-line' ? 'line' : 'mark',
        technique: s.technique,
        name: label,
        ...(s.way ? { drop: s.way } : {}),
        ...(e.seconds === null || s.technique === 'piped-line' ? {} : { seconds: String(e.seconds) }),
      },
    };
  });
  return withPaths(d, laidInto(d, design, [section.id], made));
}

function divided(d: Draft, e: Extract<SingleEdit, { type: 'divide' }>): Draft | null {
  const section = sectionById(designIn(d), e.sectionId);
  const path = d.drawing.paths.find((p) => p.id === e.sectionId);
  if (!section || !path) return null;
  // What lies over it is knocked out of the pieces as it was of the whole.
  const shapes = dividedShape(section.shape, e.division);
  if (shapes.length < 2) return null;
  const { flush: _flush, ...data } = path.data;
  const pieces = shapes.map(
    (shape, i): DrawnPath => ({
      ...path,
      id: `${section.id}.${i + 1}`,
      subpaths: closedRings(shape),
      fillRule: 'nonzero',
      data: { ...data, part: 'section', name: `${section.name} ${i + 1}`, colour: e.colours[i % e.colours.length] ?? section.colour },
    }),
  );
  return withPaths(
    d,
    d.drawing.paths.flatMap((p) => (p === path ? pieces : [p])),
  );
}

const closedRings = (shape: Shape) => shape.map((points) => ({ points, closed: true }));
