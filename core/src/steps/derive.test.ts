import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { REFERENCE_AIR } from '../drying/air.js';
import { dryingRate, REFERENCE_REGION, secondsToLose } from '../drying/front.js';
import { stateThresholds } from '../drying/state.js';
import { consequenceOf, reasonOf } from '../wording/why.js';
import { deriveSteps, type StepGraph } from './derive.js';
import { schoolById, schools } from './school.js';

const demo = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}`, import.meta.url), 'utf8'), file);
const graph = (file: string, school = 'two-bags' as const) => deriveSteps(demo(file), schoolById(school));
const gap = (g: StepGraph, from: string, to: string) => g.gaps.find((x) => x.from === from && x.to === to);

describe('steps of the demo’s cookies', () => {
  const lighthouse = graph('lighthouse.svg');
  const mackerel = graph('mackerel.svg');
  it('alternating bands take two rounds, the fish with its four meeting parts three', () => {
    expect([lighthouse.rounds, lighthouse.roundsProven]).toEqual([2, true]);
    expect([mackerel.rounds, mackerel.roundsProven]).toEqual([3, true]);
    for (const g of [lighthouse, mackerel])
      for (const s of g.sections) for (const t of s.touches) expect(g.sections.find((x) => x.id === t)?.round).not.toBe(s.round);
  });
  it('white waits to set before red, grey only to crust', () => {
    expect(gap(lighthouse, 'flood.band-1', 'flood.band-2')).toMatchObject({ minState: 'set', rule: 'touching-sections' });
    expect(gap(lighthouse, 'flood.rock', 'flood.band-4')).toMatchObject({ minState: 'crusted' });
  });
  it('wet work stands inside its flood’s window and keeps its order', () => {
    expect(gap(mackerel, 'flood.back', 'wet-line.stripe-1')).toMatchObject({ maxState: 'thickening', minSeconds: 0 });
    expect(gap(mackerel, 'wet-line.stripe-1', 'drag.drag-1')).toMatchObject({ rule: 'marks-in-order' });
    expect(mackerel.steps.find((s) => s.id === 'wet-line.stripe-1')?.parts).toHaveLength(6);
  });
  it('details rest on set icing, packing waits for dry, every gap says why', () => {
    expect(gap(lighthouse, 'flood.band-1', 'piped-line.gallery')).toMatchObject({ minState: 'set' });
    for (const s of lighthouse.steps.filter((x) => x.technique === 'flood' || x.technique === 'piped-line'))
      expect(gap(lighthouse, s.id, 'pack.cookie')?.minState).toBe('dry');
    for (const g of [...lighthouse.gaps, ...mackerel.gaps]) {
      expect(reasonOf(g).length).toBeGreaterThan(10);
      expect(consequenceOf(g).length).toBeGreaterThan(5);
    }
  });
  it('hands-on seconds follow the pace: 11 mm/s of bead, 1.4 s a square centimetre, 1.2 s a drop', () => {
    const rock = lighthouse.sections.find((s) => s.id === 'rock');
    expect(lighthouse.steps.find((s) => s.id === 'outline.rock')?.seconds).toBeCloseTo((rock?.perimeterMm ?? 0) / 11, 0);
    expect(lighthouse.steps.find((s) => s.id === 'flood.rock')?.seconds).toBeCloseTo(((rock?.areaMm2 ?? 0) / 100) * 1.4, 0);
    expect(lighthouse.steps.find((s) => s.id === 'wet-drop.window-2')?.seconds).toBe(2.4);
  });
});

describe('layers and pools', () => {
  const svg = (inner: string) =>
    readDesign(`<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90">${inner}</svg>`);
  it('a small light layer waits for a crust, a large one for set, and the base passes water on to it', () => {
    const g = (w: number, depth: number) =>
      deriveSteps(
        svg(
          `<rect id="base" width="80" height="80" fill="#fff"/><rect id="wing" x="20" y="20" width="${w}" height="10" fill="#eee" data-over="layer" data-depth-mm="${depth}"/>`,
        ),
        schoolById('two-bags'),
      );
    expect(gap(g(15, 1.5), 'flood.base', 'flood.wing')).toMatchObject({ minState: 'crusted', rule: 'second-layer' });
    expect(gap(g(30, 2.5), 'flood.base', 'flood.wing')).toMatchObject({ minState: 'set' });
    expect(gap(g(30, 2.5), 'flood.wing', 'pack.cookie')?.minLossKgPerM2).toBeGreaterThan(stateThresholds(REFERENCE_REGION).dry);
  });
  it('more than four small pools of a round go in batches where they are quick-set, each after the last has skinned', () => {
    const pools = [...Array(6).keys()].map((i) => `<rect id="p${i}" x="${i * 14}" y="5" width="9" height="9" fill="#246"/>`).join('');
    const g = deriveSteps(svg(pools), schoolById('warm-box'));
    expect(g.rounds).toBe(1);
    expect(g.sections.map((s) => s.batch)).toEqual([1, 1, 1, 1, 2, 2]);
    for (const first of [0, 1, 2, 3])
      for (const next of [4, 5])
        expect(gap(g, `flood.p${first}`, `flood.p${next}`)).toMatchObject({ minState: 'skinned', rule: 'few-pools' });
    // A school that does not quick-set has all of them in one go, and its check tells the risk.
    expect(deriveSteps(svg(pools), schoolById('two-bags')).sections.map((s) => s.batch)).toEqual([1, 1, 1, 1, 1, 1]);
  });
});

describe('schools', () => {
  // At the reference, bold: common practice, no published source.
  it.each([
    ['kit', 8, 12],
    ['one-bag', 10, 15],
    ['two-bags', 15, 30],
    ['patient', 50, 75],
    ['warm-box', 15, 30],
  ] as const)('%s: the neighbour waits %d–%d min', (id, from, to) => {
    const school = schoolById(id);
    const m = school.neighbourCrusts * stateThresholds({ ...REFERENCE_REGION, seconds: school.floodS }).crusted;
    const min = secondsToLose(dryingRate(REFERENCE_AIR), 0, m) / 60;
    expect(min).toBeGreaterThanOrEqual(from);
    expect(min).toBeLessThanOrEqual(to);
  });
  it('a dam that sets is drawn before its neighbours are flooded; one that merges has a window instead', () => {
    const set = deriveSteps(demo('lighthouse.svg'), schoolById('patient'));
    expect(gap(set, 'outline.band-2', 'flood.band-2')).toMatchObject({ minState: 'skinned' });
    expect(gap(set, 'outline.band-2', 'flood.band-1')).toMatchObject({ rule: 'dam-before-neighbour' });
    expect(gap(graph('lighthouse.svg'), 'outline.band-2', 'flood.band-2')).toMatchObject({ maxState: 'thickening' });
  });
  it('one bag means one icing for dam and flood', () => {
    const g = deriveSteps(demo('mackerel.svg'), schoolById('one-bag'));
    for (const s of schools.filter((x) => x.floodS === x.outlineS)) expect(s.outlineS).toBe(s.floodS);
    expect(g.steps.find((s) => s.id === 'outline.belly')?.bag).toEqual(g.steps.find((s) => s.id === 'flood.belly')?.bag);
  });
});
