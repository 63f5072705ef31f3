import { intersection, shapeFromRings, union } from '../geometry/clip.js';
import { type FlatSubpath, flattenPath, PathDataError, REACH_MM, TooFarError } from '../geometry/flatten.js';
import { contains, type Shape } from '../geometry/shape.js';
import { simplified } from '../geometry/simplify.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import type { DesignNote } from './design.js';
import { gradientMean } from './svg-gradient.js';
import { lengthMm, userUnits } from './svg-length.js';
import { pathDataOf } from './svg-shape.js';
import { INITIAL_STYLE, paintHex, readStyleSheet, type Style, styleOf } from './svg-style.js';
import type { SvgElement } from './svg-tree.js';

/** A path as it lies on the page, in mm, with what the drawing says of it. */
export interface DrawnPath {
  readonly id: string;
  readonly tag: string;
  /** the drawing has no name for it: its id was made up */
  readonly unnamed?: boolean;
  readonly subpaths: readonly FlatSubpath[];
  readonly fill: string | null;
  readonly stroke: string | null;
  readonly strokeWidthMm: number;
  readonly fillRule: 'nonzero' | 'evenodd';
  /** data-… attributes, its own before those of the groups around it; names without "data-" */
  readonly data: Readonly<Record<string, string>>;
}

const MAX_USE_DEPTH = 8;
/** Elements with all copies written out, and points of all paths: *assumed*, many times what a cookie has. */
const MAX_DRAWN = 5_000;
const MAX_POINTS = 40_000;
/** As many are read where the drawing asks to be simplified. */
const MAX_POINTS_READ = 1_000_000;
/** `data-simplify-mm` of the whole drawing: from what nobody sees to what no tip can follow. */
const SIMPLIFY_MM = [0.01, 1] as const;
const SKIPPED_WITH_NOTICE: Readonly<Record<string, string>> = {
  text: msg`Text was skipped: turn it into paths to pipe it.`,
  image: msg`A picture was skipped: only drawn paths can be piped.`,
  foreignObject: msg`Foreign content was skipped: only drawn paths can be piped.`,
};
const DEFINITIONS = new Set([
  'defs',
  'symbol',
  'clipPath',
  'mask',
  'pattern',
  'marker',
  'linearGradient',
  'radialGradient',
  'filter',
  'style',
  'title',
  'desc',
  'metadata',
]);

/** By how much the drawing may be simplified as it is read, mm; null where it is read as it is. */
function simplifyMm(root: SvgElement): number | null {
  const said = root.attributes['data-simplify-mm'];
  if (said === undefined) return null;
  const mm = Number(said);
  if (!(mm >= SIMPLIFY_MM[0] && mm <= SIMPLIFY_MM[1]))
    throw new BadInput('simplify', msg`data-simplify-mm="${said}" must be a number from ${SIMPLIFY_MM[0]} to ${SIMPLIFY_MM[1]}.`);
  return mm;
}

/** The drawing's own units → mm, as a transform list; from width, height and viewBox (SVG 2, "The viewBox attribute"). */
function rootTransform(root: SvgElement): string {
  const box = (root.attributes['viewBox'] ?? '').split(/[\s,]+/).map(Number);
  const hasBox = box.length === 4 && box.every(Number.isFinite) && (box[2] as number) > 0 && (box[3] as number) > 0;
  const perPx = lengthMm('1px') as number;
  if (!hasBox) return `scale(${perPx})`;
  const [minX, minY, w, h] = box as [number, number, number, number];
  const widthMm = lengthMm(root.attributes['width']);
  const heightMm = lengthMm(root.attributes['height']);
  const sx = widthMm ? widthMm / w : heightMm ? heightMm / h : perPx;
  const sy = heightMm ? heightMm / h : sx;
  // preserveAspectRatio: "none" stretches, everything else keeps the proportions and fits.
  const stretch = (root.attributes['preserveAspectRatio'] ?? '').trim() === 'none';
  const s = Math.min(sx, sy);
  return stretch ? `scale(${sx} ${sy}) translate(${-minX} ${-minY})` : `scale(${s}) translate(${-minX} ${-minY})`;
}

/** The closed parts of a path inside every clip; open strokes keep their points inside. */
function clipped(
  subpaths: readonly FlatSubpath[],
  fillRule: 'nonzero' | 'evenodd',
  clips: readonly (Shape | null)[],
): readonly FlatSubpath[] {
  return clips.reduce<readonly FlatSubpath[]>((parts, clip) => {
    if (!clip) return parts;
    const closed = parts.filter((s) => s.closed).map((s) => s.points);
    const inside = closed.length > 0 ? intersection(shapeFromRings(closed, fillRule), clip) : [];
    const strokes = parts
      .filter((s) => !s.closed)
      .map((s) => ({ points: s.points.filter((p) => contains(clip, p)), closed: false }))
      .filter((s) => s.points.length > 1);
    return [...inside.map((points) => ({ points, closed: true })), ...strokes];
  }, subpaths);
}

/** All visible paths of a drawing in painting order. */
export function drawnPaths(root: SvgElement): { paths: DrawnPath[]; notes: DesignNote[] } {
  const paths: DrawnPath[] = [];
  const notes: DesignNote[] = [];
  const byId = new Map<string, SvgElement>();
  const styles: string[] = [];
  const collect = (e: SvgElement) => {
    const id = e.attributes['id'];
    if (id && !byId.has(id)) byId.set(id, e);
    if (e.tag === 'style') styles.push(e.text);
    e.children.forEach(collect);
  };
  collect(root);
  const sheet = readStyleSheet(styles.join('\n'));
  const taken = new Set<string>();
  const freshId = (wanted: string | undefined, tag: string) => {
    const base = wanted && wanted.trim() !== '' ? wanted.trim() : `${tag}-${paths.length + 1}`;
    let id = base;
    for (let n = 2; taken.has(id); n++) id = `${base}-${n}`;
    taken.add(id);
    return id;
  };

  /** What a clip path leaves visible, in mm; null (and a notice) where it cannot be read. */
  const clipShape = (id: string, transforms: readonly string[], place: string): Shape | null => {
    const element = byId.get(id);
    const unread = () => {
      notes.push({ code: 'skipped', place, text: msg`The clip path "${id}" could not be applied: the whole shape was read.` });
      return null;
    };
    if (element?.tag !== 'clipPath' || element.attributes['clipPathUnits'] === 'objectBoundingBox') return unread();
    const own = element.attributes['transform'];
    const around = own ? [own, ...transforms] : transforms;
    try {
      return element.children.reduce<Shape>((sum, child) => {
        const d = pathDataOf(child);
        if (d === null) return sum;
        const t = child.attributes['transform'];
        const rings = flattenPath(d, t ? [t, ...around] : around).map((s) => s.points);
        return union(sum, shapeFromRings(rings, child.attributes['clip-rule'] === 'evenodd' ? 'evenodd' : 'nonzero'));
      }, []);
    } catch (error) {
      if (error instanceof PathDataError || error instanceof TooFarError) return unread();
      throw error;
    }
  };

  let drawn = 0;
  let points = 0;
  let pointsRead = 0;
  const countOf = (subpaths: readonly FlatSubpath[]) => subpaths.reduce((n, s) => n + s.points.length, 0);
  const byMm = simplifyMm(root);
  const visit = (
    e: SvgElement,
    inherited: Style,
    transforms: readonly string[],
    data: Readonly<Record<string, string>>,
    uses: number,
    idFrom?: string,
    outerClips: readonly (Shape | null)[] = [],
  ): void => {
    if (DEFINITIONS.has(e.tag) && !(e.tag === 'symbol' && uses > 0)) return;
    const place = e.attributes['id'] ?? `<${e.tag}>`;
    const skipped = SKIPPED_WITH_NOTICE[e.tag];
    if (skipped) {
      notes.push({ code: 'skipped', place, text: skipped });
      return;
    }
    drawn += 1;
    if (drawn > MAX_DRAWN)
      throw new BadInput(
        'too-large',
        msg`The drawing has more than ${MAX_DRAWN} shapes, its copies counted: delete those that lie behind others, or unlink them.`,
      );
    const style = styleOf(e, inherited, sheet);
    if (style.hidden) return;
    const own: Record<string, string> = { ...data };
    for (const [k, v] of Object.entries(e.attributes)) if (k.startsWith('data-')) own[k.slice(5)] = v.trim();
    const t = e.attributes['transform'];
    const all = t ? [t, ...transforms] : transforms;
    const clip = /^url\(\s*['"]?#([^'")]+)['"]?\s*\)$/.exec((e.attributes['clip-path'] ?? '').trim())?.[1];
    const clips = clip ? [...outerClips, clipShape(clip, all, place)] : outerClips;

    if (e.tag === 'use') {
      const target = byId.get((e.attributes['href'] ?? '').trim().slice(1));
      if (!target || uses >= MAX_USE_DEPTH) {
        notes.push({ code: 'skipped', place, text: msg`A copy of something that is not in the drawing was skipped.` });
        return;
      }
      const shift = `translate(${userUnits(e.attributes['x'])} ${userUnits(e.attributes['y'])})`;
      visit(target, style, [shift, ...all], own, uses + 1, e.attributes['id'] ?? idFrom, clips);
      return;
    }
    const d = pathDataOf(e);
    if (d === null) {
      for (const child of e.children) visit(child, style, all, own, uses, idFrom, clips);
      return;
    }
    const wanted = idFrom ?? e.attributes['id'];
    try {
      const read = flattenPath(d, all);
      const flat = byMm === null ? read : read.flatMap((s) => simplified(s, byMm) ?? []);
      pointsRead += countOf(read);
      points += countOf(flat);
      if (points > MAX_POINTS || pointsRead > MAX_POINTS_READ)
        throw new BadInput(
          'too-many-points',
          msg`The drawing has more than ${
            byMm === null
              ? msg`${MAX_POINTS} points`
              : msg`${MAX_POINTS} points once simplified to ${byMm}
            mm`
          }: simplify its paths in the drawing program.`,
        );
      const subpaths = clipped(flat, style.fillRule, clips);
      if (subpaths.length === 0) return;
      const unit = flattenPath('M0 0H1M0 0V1', all).map((s) => s.points);
      const [ux, uy] = [unit[0], unit[1]].map((p) =>
        p && p.length > 1
          ? { x: (p[1] as { x: number }).x - (p[0] as { x: number }).x, y: (p[1] as { y: number }).y - (p[0] as { y: number }).y }
          : { x: 0, y: 0 },
      ) as [{ x: number; y: number }, { x: number; y: number }];
      const scale = Math.sqrt(Math.abs(ux.x * uy.y - ux.y * uy.x));
      const widthMm =
        /[a-z]/i.test(style.strokeWidth) && !/px$/i.test(style.strokeWidth)
          ? (lengthMm(style.strokeWidth) ?? 0)
          : userUnits(style.strokeWidth, 1) * scale;
      const id = freshId(wanted, e.tag);
      const mixed = (gradient: string) => {
        const mean = gradientMean(gradient, byId, sheet);
        notes.push({
          code: 'guessed',
          place: id,
          text: msg`"${id}" is painted in ${mean ? msg`a gradient` : msg`a pattern`}, which icing cannot be: ${
            mean
              ? msg`its mean
            colour`
              : msg`grey`
          } was taken.`,
        });
        return mean;
      };
      paths.push({
        id,
        tag: e.tag,
        ...(wanted && wanted.trim() !== '' ? {} : { unnamed: true }),
        subpaths,
        fill: paintHex(style.fill, style, mixed),
        stroke: paintHex(style.stroke, style, mixed),
        strokeWidthMm: widthMm,
        fillRule: style.fillRule,
        data: own,
      });
    } catch (error) {
      if (error instanceof TooFarError)
        throw new BadInput(
          'too-far',
          msg`The path "${wanted ?? e.tag}" reaches more than ${REACH_MM / 1000} m away: delete it, or draw it at the size of a cookie.`,
          {
            place: wanted ?? e.tag,
          },
        );
      if (!(error instanceof PathDataError)) throw error;
      throw new BadInput(
        'path-data',
        msg`The path "${wanted ?? e.tag}" cannot be read (${error.message.replace(/^SvgPath: /, '')}): redraw it or delete it.`,
        {
          place: wanted ?? e.tag,
        },
      );
    }
  };
  visit(root, INITIAL_STYLE, [rootTransform(root)], {}, 0);
  if (byMm !== null)
    notes.push({
      code: 'repaired',
      place: '<svg>',
      text: msg`The drawing was simplified to ${byMm} mm: ${pointsRead} points became ${points}.`,
    });
  return { paths, notes };
}
