import type { Ring } from '../geometry/shape.js';
import { boundingBox } from '../geometry/shape.js';
import { belongs } from './arrange.js';
import type { Design, Part } from './design.js';
import type { DesignDocument } from './document/document.js';
import { draftOf, foldDesign } from './document/fold.js';
import type { DrawnPath } from './drawn-path.js';

/** Air round the cookie on the page, mm. */
const AROUND_MM = 2;
/** What a drawing says once of the whole, not of each of its paths. */
const OF_THE_WHOLE: readonly string[] = ['order', 'transfer', 'simplify-mm'];

/**
 * A design as an SVG drawing of true size, in millimetres, with everything that was said as the attributes of
 * docs/formats.md: read again it is the same stack of parts. Words chosen by hand for the order come out as `data-after`.
 */
export function writeDesignSvg(doc: DesignDocument): string {
  const design = foldDesign(doc);
  const { paths } = draftOf(doc).drawing;
  const box = boundingBox([...design.cookie.flat(), ...paths.flatMap((p) => p.subpaths.flatMap((s) => s.points))]);
  // From where it was drawn, so that numbers stay what they were; farther out only where something lies there.
  const [x, y] = [Math.min(0, box.minX - AROUND_MM), Math.min(0, box.minY - AROUND_MM)];
  const [w, h] = [box.maxX + AROUND_MM - x, box.maxY + AROUND_MM - y];
  const whole = { ...(design.ordering ? { 'data-order': design.ordering } : {}), ...(design.transfer ? { 'data-transfer': 'true' } : {}) };
  const after = new Map<string, string[]>();
  for (const [first, next] of design.before ?? []) after.set(next, [...(after.get(next) ?? []), first]);
  const lines = paths.flatMap((p) => elements(p, paths, design, after));
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${n(w)}mm" height="${n(h)}mm" viewBox="${n(x)} ${n(y)} ${n(w)} ${n(h)}"${attributes(whole)}>`,
    `  <title>${escaped(design.name)}</title>`,
    ...lines.map((l) => `  ${l}`),
    '</svg>',
    '',
  ].join('\n');
}

/** A path as it is; where some of its pieces were taken off, each piece that is left by itself, under its own name. */
function elements(p: DrawnPath, paths: readonly DrawnPath[], design: Design, after: ReadonlyMap<string, readonly string[]>): string[] {
  const own = design.parts.filter((part) => belongs(part.id, p.id) && !paths.some((other) => other !== p && other.id === part.id));
  const pieces = p.subpaths.length;
  const isWhole = own.length === 0 || own.length >= pieces || own[0]?.role === 'section' || isFilledWithHoles(p, own);
  if (isWhole) return [element(p, p.id, data(p, after.get(p.id)))];
  return own.map((part) =>
    element({ ...p, subpaths: ringsOf(part).map((points) => ({ points, closed: isClosed(part) })) }, part.id, data(p, after.get(part.id))),
  );
}

/** A filled path's pieces are its islands: fewer than its rings, though nothing was taken off. */
const isFilledWithHoles = (p: DrawnPath, own: readonly Part[]): boolean =>
  p.fill !== null && own.reduce((rings, part) => rings + ringsOf(part).length, 0) >= p.subpaths.length;
const ringsOf = (part: Part): readonly Ring[] =>
  part.role === 'section' ? part.drawn : [part.points, ...(part.role === 'line' ? (part.holes ?? []) : [])];
const isClosed = (part: Part): boolean => part.role === 'section' || part.closed;

function data(p: DrawnPath, comesAfter: readonly string[] = []): Record<string, string> {
  const said = Object.entries(p.data).filter(([key, value]) => value !== '' && !OF_THE_WHOLE.includes(key));
  const after = [p.data['after'] ?? '', ...comesAfter].join(' ').trim();
  return Object.fromEntries(
    [...said.filter(([key]) => key !== 'after'), ...(after === '' ? [] : [['after', after]])].map(([key, value]) => [
      `data-${key}`,
      value as string,
    ]),
  );
}

function element(p: DrawnPath, id: string, said: Readonly<Record<string, string>>): string {
  const d = p.subpaths.map((s) => `M${s.points.map((q) => `${n(q.x)} ${n(q.y)}`).join('L')}${s.closed ? 'Z' : ''}`).join('');
  const look = {
    fill: p.fill ?? 'none',
    ...(p.stroke === null ? {} : { stroke: p.stroke, 'stroke-width': n(p.strokeWidthMm) }),
    ...(p.fillRule === 'evenodd' ? { 'fill-rule': 'evenodd' } : {}),
  };
  return `<path${attributes({ id, ...look, ...said })} d="${d}"/>`;
}

const n = (v: number): string => String(Math.round(v * 1e4) / 1e4);
const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const attributes = (of: Readonly<Record<string, string>>): string =>
  Object.entries(of)
    .map(([key, value]) => ` ${key}="${escaped(value)}"`)
    .join('');
