import { type Design, sectionsOf, type WetMark } from '../design/design.js';
import { inscribedCircle, offset } from '../geometry/clip.js';
import type { Point } from '../geometry/point.js';
import { msg } from '../words/index.js';

/** Bare rim left round a rescued cookie, mm: *assumed*. */
const RIM_MM = 3;
/** An ordinary flood, mm. */
const DEPTH_MM = 2.5;
/** Thirds of the circle, left to right. */
const STRIPES = [-0.55, 0, 0.55] as const;

/**
 * A spoilt cookie rescued: flooded whole over its outline with what is left in the bags, lines of other colours drawn through it while
 * wet.
 */
export function tieDye(of: Design): Design {
  const colours = [...new Set(sectionsOf(of).map((s) => s.colour))];
  const shape = offset(of.cookie, -RIM_MM);
  const { centre, diameterMm } = inscribedCircle(shape);
  const r = diameterMm / 2;
  const base = colours[0] ?? '#ffffff';
  const others = colours.slice(1).length > 0 ? colours.slice(1) : [base];
  const across = (share: number, half: number): Point[] => [
    { x: centre.x + share * r, y: centre.y - half * r },
    { x: centre.x + share * r, y: centre.y + half * r },
  ];
  const mark = (id: string, name: string, technique: WetMark['technique'], points: Point[], colour: string): WetMark => ({
    role: 'mark',
    id,
    name,
    technique,
    sectionId: 'base',
    points,
    closed: false,
    colour,
    widthMm: 2,
  });
  return {
    name: msg`${of.name}, tie-dye`,
    cookie: of.cookie,
    parts: [
      { role: 'section', id: 'base', name: 'base', shape, drawn: shape, colour: base, depthMm: DEPTH_MM, layerOn: [] },
      ...STRIPES.map((share, i) =>
        mark(`stripe-${i + 1}`, msg`stripes of what is left`, 'wet-line', across(share, 0.7), others[i % others.length] as string),
      ),
      mark(
        'swirl',
        'swirl',
        'drag',
        [
          { x: centre.x - 0.7 * r, y: centre.y },
          { x: centre.x + 0.7 * r, y: centre.y },
        ],
        base,
      ),
    ],
    notes: [],
  };
}
