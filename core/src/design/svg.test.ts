import { describe, expect, it } from 'vitest';
import { shapeFromRings } from '../geometry/clip.js';
import { flattenPath } from '../geometry/flatten.js';
import { polylineLengthMm } from '../geometry/point.js';
import { areaMm2 } from '../geometry/shape.js';
import { lengthMm, userUnits } from './svg-length.js';
import { pathDataOf } from './svg-shape.js';
import { INITIAL_STYLE, paintHex, readStyleSheet, styleOf } from './svg-style.js';
import type { SvgElement } from './svg-tree.js';

const element = (tag: string, attributes: Record<string, string>): SvgElement => ({ tag, attributes, children: [], text: '' });
const area = (e: SvgElement) =>
  areaMm2(
    shapeFromRings(
      flattenPath(pathDataOf(e) ?? '', ['scale(1)']).map((s) => s.points),
      'nonzero',
    ),
  );

// SVG 2, chapters "Basic Shapes" and "Coordinate Systems"; CSS Values and Units for lengths.
describe('basic shapes', () => {
  it.each([
    ['rect', { x: '1', y: '2', width: '10', height: '5' }, 50],
    ['rect', { width: '10', height: '10', rx: '2' }, 100 - (4 - Math.PI) * 4],
    ['rect', { width: '10', height: '10', rx: '50', ry: '50' }, Math.PI * 25],
    ['circle', { cx: '3', cy: '4', r: '6' }, Math.PI * 36],
    ['ellipse', { rx: '4', ry: '2' }, Math.PI * 8],
    ['polygon', { points: '0,0 10,0 10,10' }, 50],
  ])('%s %#', (tag, attributes, mm2) =>
    expect(Math.abs(area(element(tag, attributes as Record<string, string>)) - mm2)).toBeLessThan(0.15),
  );
  it('lines and polylines are open', () => {
    const [l] = flattenPath(pathDataOf(element('line', { x1: '0', y1: '0', x2: '3', y2: '4' })) ?? '', ['scale(1)']);
    expect([l?.closed, polylineLengthMm(l?.points ?? [])]).toEqual([false, 5]);
    expect(pathDataOf(element('polyline', { points: '0 0 1 1 5' }))).toBe('M0 0 1 1');
  });
  it('what has no size draws nothing, and groups draw nothing themselves', () => {
    expect(pathDataOf(element('circle', { r: '0' }))).toBe('');
    expect(pathDataOf(element('rect', { width: '-3', height: '4' }))).toBe('');
    expect(pathDataOf(element('polygon', { points: '1 2' }))).toBe('');
    expect(pathDataOf(element('g', {}))).toBeNull();
  });
});

describe('lengths', () => {
  it.each([
    ['10mm', 10],
    ['2.5cm', 25],
    ['1in', 25.4],
    ['96px', 25.4],
    ['96', 25.4],
    ['72pt', 25.4],
    ['6pc', 25.4],
    ['4q', 1],
    ['1e1mm', 10],
  ])('%s is %f mm', (text, mm) => expect(lengthMm(text)).toBeCloseTo(mm, 9));
  it.each(['50%', '3em', 'wide', undefined])('%s has no size of its own', (text) => expect(lengthMm(text)).toBeNull());
  it('user units fall back', () => expect([userUnits('3.5'), userUnits(undefined, 7), userUnits('x', 2)]).toEqual([3.5, 7, 2]));
});

describe('styles', () => {
  const sheet = readStyleSheet('.a { fill: red } #b { fill: #00ff00 } path.a { stroke: blue } rect { fill: black } g .a { fill: pink }');
  it('attributes, then the sheet by its weight, then the element’s own style', () => {
    const style = (attributes: Record<string, string>, tag = 'path') => styleOf(element(tag, attributes), INITIAL_STYLE, sheet);
    expect(style({ class: 'x a', fill: 'white' })).toMatchObject({ fill: 'red', stroke: 'blue' });
    expect(style({ class: 'a', id: 'b' }).fill).toMatch(/^#00ff00$/);
    expect(style({ class: 'a', style: 'fill:#123456;stroke-width:2mm' })).toMatchObject({ fill: '#123456', strokeWidth: '2mm' });
    expect(style({ fill: 'inherit' }).fill).toBe('black');
    expect(style({ style: 'display:none' }).hidden).toBe(true);
    expect(style({ 'fill-rule': 'evenodd' }).fillRule).toBe('evenodd');
  });
  it('paints become colours, or nothing', () => {
    expect(paintHex('rgb(255, 0, 0)', INITIAL_STYLE, () => null)).toBe('#ff0000');
    expect(paintHex('hsl(120 100% 50%)', INITIAL_STYLE, () => null)).toBe('#00ff00');
    expect(paintHex('currentColor', { ...INITIAL_STYLE, color: 'navy' }, () => null)).toBe('#000080');
    expect(paintHex('none', INITIAL_STYLE, () => null)).toBeNull();
    expect(paintHex('rgba(0,0,0,0)', INITIAL_STYLE, () => null)).toBeNull();
    expect(paintHex('url(#grad)', INITIAL_STYLE, () => null)).toBe('#808080');
  });
});
