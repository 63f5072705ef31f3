import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenOnCard, type Card } from '../../../test/check-card.js';
import { boundingBox, pathData } from '../../geometry/shape.js';
import { deriveSteps } from '../../steps/derive.js';
import { type SchoolId, schoolById } from '../../steps/school.js';
import type { DrawnPath } from '../drawn-path.js';
import { readDesign, readDrawing } from '../read-design.js';
import { markTechniques, sectionTechniques } from '../technique-names.js';
import { parseEdit } from './design-format.js';
import { type DesignDocument, type DesignEdit, SAYABLE } from './document.js';
import { foldDesign } from './fold.js';

const at = (file: string) => new URL(`../../../test/fixtures/cards/${file}`, import.meta.url);
const cards = JSON.parse(readFileSync(at('cards.json'), 'utf8')) as Record<string, Card & { readonly what: string }>;
const isOf = (list: readonly string[], v: string | undefined) => v !== undefined && list.includes(v);

/** What the tools of the page make of one path: one stroke of a tool, then what is said of it beside the cookie. */
function byHand(p: DrawnPath): DesignEdit[] {
  const technique = p.data['part'] === 'guide' ? 'guide' : (p.data['technique'] ?? (p.data['part'] === 'line' ? 'piped-line' : 'flood'));
  const area = p.fill !== null && !isOf(['drag', 'wet-line'], technique);
  const strokes = p.subpaths.map((s) => ({ points: s.points, closed: s.closed }));
  const drawn = {
    type: 'draw',
    id: p.id,
    name: p.data['name'] ?? p.id.replace(/[-_]+/g, ' '),
    technique,
    strokes,
    area,
    layer: p.data['over'] === 'layer',
    colour: p.fill ?? p.stroke ?? '#ffffff',
    widthMm: Math.max(0.2, p.strokeWidthMm || 1),
  } as DesignEdit;
  const words = Object.fromEntries(
    Object.entries(p.data).filter(
      ([k]) => (SAYABLE as readonly string[]).includes(k) && !['part', 'technique', 'name', 'over'].includes(k),
    ),
  );
  // What a tool lays side by side or on top is said by the tool; a drawing that leaves it open is read by what it looks like.
  const over: Record<string, string> = isOf(sectionTechniques, technique) && !p.data['over'] ? { over: '' } : {};
  const said = { ...words, ...over };
  return Object.keys(said).length > 0 ? [drawn, { type: 'say', part: p.id, said }] : [drawn];
}

/** The card begun as its cutter alone, with the flood a starting shape has; everything else is piped on it, and that flood taken off. */
function documentOf(file: string): DesignDocument {
  const svg = readFileSync(at(file), 'utf8');
  const { paths } = readDrawing(svg);
  const cookie = paths.find((p) => p.data['part'] === 'cookie') as DrawnPath;
  const ring = cookie.subpaths.map((s) => s.points);
  const box = boundingBox(ring.flat());
  const start = `<svg xmlns="http://www.w3.org/2000/svg" width="${box.maxX}mm" height="${box.maxY}mm" viewBox="0 0 ${box.maxX} ${box.maxY}"><path id="cookie" data-part="cookie" fill="#d9a566" d="${pathData(ring)}"/><path id="start" data-part="section" fill="#ffffff" d="${pathData(ring)}"/></svg>`;
  const rest = paths.filter((p) => p !== cookie);
  const floods = rest.filter((p) => !isOf(markTechniques, p.data['technique']) && p.data['part'] !== 'mark');
  const wet = rest.filter((p) => !floods.includes(p));
  // Wet work is laid into a flood that is there: floods first, then what lies in them.
  const edits = [...floods.flatMap(byHand), { type: 'remove', part: 'start' } as DesignEdit, ...wet.flatMap(byHand)];
  return {
    format: 'kestfog-design/3',
    name: file,
    svg: start,
    edits: edits.map((e, i) => parseEdit(JSON.parse(JSON.stringify(e)), `edits.${i}`)),
  };
}

// Common practice, no published source: as in cards.test.ts.
describe('the thirteen cookies, made by the tools of the page instead of drawn elsewhere', () => {
  it.each(Object.entries(cards))('%s: keeps the order a practitioner keeps, and that of its drawing', (file, card) => {
    const design = foldDesign(documentOf(file));
    expect(design.notes.filter((n) => n.code === 'skipped')).toEqual([]);
    const graphFor = (school: string) => deriveSteps(design, schoolById(school as SchoolId));
    const own = card.school ?? 'two-bags';
    expect(brokenOnCard(card, graphFor(own), own, graphFor)).toEqual([]);
    for (const [school, more] of Object.entries(card.bySchool ?? {}))
      expect(brokenOnCard(more, graphFor(school), school, graphFor)).toEqual([]);
    const drawn = deriveSteps(readDesign(readFileSync(at(file), 'utf8'), file), schoolById(own as SchoolId));
    const orderOf = (g: typeof drawn) => g.steps.map((s) => `${s.round} ${s.technique} ${s.part.replace(/\.\d+$/, '')}`);
    expect(orderOf(graphFor(own))).toEqual(orderOf(drawn));
  });
});
