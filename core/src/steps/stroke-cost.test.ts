import { expect, it } from 'vitest';
import type { DesignEdit } from '../design/document/document.js';
import { foldDesign } from '../design/document/fold.js';
import { circleAt } from '../design/patterns/index.js';
import { deriveSteps } from './derive.js';
import { ASSUMED_PACE } from './pace.js';
import { schoolById } from './school.js';
import { strokeCost } from './stroke-cost.js';

const svg =
  '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><circle id="cookie" data-part="cookie" cx="40" cy="40" r="39" fill="#d9a566"/><circle id="base" data-part="section" cx="40" cy="40" r="35" fill="#f6f3ea"/></svg>';
type Draw = Extract<DesignEdit, { type: 'draw' }>;
const line = [
  { x: 20, y: 30 },
  { x: 60, y: 30 },
];
const cases: [Draw['technique'], Partial<Draw>, { lengthMm: number; areaMm2: number; count: number }][] = [
  ['piped-line', {}, { lengthMm: 40, areaMm2: 0, count: 1 }],
  ['wet-line', {}, { lengthMm: 40, areaMm2: 0, count: 1 }],
  ['drag', {}, { lengthMm: 40, areaMm2: 0, count: 1 }],
  ['pen', {}, { lengthMm: 40, areaMm2: 0, count: 1 }],
  [
    'piped-line',
    { area: true, strokes: [25, 35, 45].map((x) => ({ points: circleAt({ x, y: 40 }, 2), closed: true })) },
    { lengthMm: 18.8, areaMm2: 9.35, count: 3 },
  ],
  ['dust', { area: true, strokes: [{ points: circleAt({ x: 40, y: 40 }, 16), closed: true }] }, { lengthMm: 50, areaMm2: 199.4, count: 1 }],
  ['wet-drop', { strokes: [{ points: circleAt({ x: 40, y: 40 }, 6), closed: true }] }, { lengthMm: 18.8, areaMm2: 28.04, count: 1 }],
];

it.each(cases)('%s: what is shown while it is drawn is what the plan then reckons with', (technique, more, measure) => {
  const school = schoolById('two-bags');
  const edit: DesignEdit = {
    type: 'draw',
    id: 'd',
    name: 'd',
    technique,
    strokes: [{ points: line, closed: false }],
    area: false,
    layer: false,
    colour: '#22343c',
    widthMm: 1.5,
    ...more,
  };
  const step = deriveSteps(foldDesign({ format: 'kestfog-design/3', name: 'x', svg, edits: [edit] }), school).steps.find(
    (s) => s.technique === technique,
  );
  if (technique === 'guide') throw new Error('a guide is no piping');
  const told = strokeCost(technique, { ...measure, widthMm: 1.5 }, school, ASSUMED_PACE);
  expect(told.seconds).toBeGreaterThan(0);
  expect(Math.abs(told.seconds - (step?.seconds ?? 0))).toBeLessThan(0.15);
  expect(Math.abs(told.ml - (step?.ml ?? 0))).toBeLessThan(0.01);
});
