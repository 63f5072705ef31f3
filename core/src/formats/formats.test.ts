import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { finishedBy, lookOfAll } from '../../test/look.js';
import { foldRun } from '../bench/fold.js';
import { openRun, withPlan } from '../bench/run-format.js';
import { brokenRules } from '../cli/check-plan.js';
import { linesOf, marksOf, sectionsOf } from '../design/design.js';
import { openDesign } from '../design/document/design-format.js';
import { foldDesign } from '../design/document/fold.js';
import { openSolution, solutionFormat } from '../scheduling/solution-format.js';
import { USUAL_TIPS } from '../steps/tips.js';
import { consequenceOf, reasonOf } from '../wording/why.js';
import { parseOrder } from './order.js';
import { openPlan } from './plan-format.js';

const kept = (file: string) =>
  JSON.parse(readFileSync(new URL(`../../test/fixtures/formats/${file}.json`, import.meta.url), 'utf8')) as Record<string, unknown>;

describe('what earlier releases wrote opens and means the same', () => {
  it('a design of version 1: three lists of edits, one stack', () => {
    const design = foldDesign(openDesign(kept('design-1')));
    expect(openDesign(kept('design-1')).format).toBe('kestfog-design/3');
    // As that release folded it: its parts, colours and layers.
    expect(sectionsOf(design).map((s) => [s.id, s.colour, s.layerOn])).toEqual([
      ['left', '#f6f3ea', []],
      ['right.1', '#b3261e', []],
      ['right.2', '#e9eef0', []],
      ['wing', '#22343c', ['right.2', 'right.1']],
    ]);
    expect(marksOf(design)).toHaveLength(35);
    expect(new Set(marksOf(design).map((m) => m.sectionId))).toEqual(new Set(['left']));
    expect(linesOf(design).map((l) => [l.id, l.colour])).toEqual([
      ['rope', '#5a3f2b'],
      ['d1', '#22343c'],
    ]);
    expect(sectionsOf(design)[0]).toMatchObject({ name: 'lee', seconds: 20 });
  });
  it('a design of version 2: its stack and its own words', () => {
    const design = foldDesign(openDesign(kept('design-2')));
    expect(design.parts[0]?.id).toBe('rope');
    expect(sectionsOf(design)[0]).toMatchObject({ id: 'left', words: { fill: 'low', edgeMm: 1 } });
  });
  it('a plan of version 2: its stays saved time, its tips were the usual ones', () => {
    const plan = openPlan(kept('plan-2'));
    expect(plan.stays).toMatchObject([{ id: 'A.box.r1', where: 'dehydrator', why: 'time', batch: null, forS: 1200 }]);
    expect(plan.order).toMatchObject({ format: 'kestfog-order/3', tips: USUAL_TIPS, piecesFrom: null, dehydrator: { tempC: 35 } });
    expect(plan.order.school.drops).toBe('injected');
    expect(plan.designs.every((d) => d.pieces === false)).toBe(true);
    expect(new Set(Object.values(lookOfAll(plan, finishedBy(plan)).sections))).toEqual(new Set(['dry']));
  });
  it('a plan of version 3: why something waits stays as it was written', () => {
    const old = kept('plan-3') as { waits: { reason: string; consequence: string }[]; tasks: { because: { reason?: string } }[] };
    const plan = openPlan(old);
    expect(plan.waits.map((w) => [reasonOf(w), consequenceOf(w)])).toEqual(old.waits.map((w) => [w.reason, w.consequence]));
    const whyNow = plan.tasks.map((t) => (t.because.kind === 'drying' ? reasonOf(t.because) : undefined));
    expect(whyNow).toEqual(old.tasks.map((t) => t.because.reason));
    expect(whyNow.filter((w) => w !== undefined).length).toBeGreaterThan(2);
    expect(plan.designs[0]?.graph.gaps.every((g) => reasonOf(g).length > 10)).toBe(true);
    expect(plan).toMatchObject({
      order: { pins: [{ where: 'dehydrator' }], school: { quickSetDehydratorMin: 3 } },
      stays: [{ where: 'dehydrator' }, {}],
    });
    expect([plan.openingHours, plan.dehydratorAir?.tempC]).toEqual([plan.order.openingHours, 35]);
    expect(brokenRules(plan)).toEqual([]);
  });
  it('a plan of version 1 and the log of a run on it', () => {
    const old = kept('plan-1');
    const plan = openPlan(old);
    const run = openRun(kept('run-1'));
    const [gull] = plan.designs;
    const drawing = (old['designs'] as { drawing: { sections: { id: string }[]; lines: { id: string }[]; marks: unknown[] } }[])[0]
      ?.drawing;
    expect(sectionsOf(gull?.drawing ?? { parts: [] }).map((s) => s.id)).toEqual(drawing?.sections.map((s) => s.id));
    expect(linesOf(gull?.drawing ?? { parts: [] }).map((l) => l.id)).toEqual(drawing?.lines.map((l) => l.id));
    expect(plan.order.school).toMatchObject({
      id: 'mine',
      neighbourCrusts: 1.5,
      wiping: 'always',
      contrastOn: 'set',
      layerOn: 'light-crusted',
    });
    const state = foldRun(plan, run.events);
    expect([...state.tasks.values()].filter((t) => t.doneAtMs !== null)).toHaveLength(2);
    expect(state.room).toHaveLength(1);
    // It can be drawn at its end, every surface dry.
    expect(new Set(Object.values(lookOfAll(plan, finishedBy(plan)).sections))).toEqual(new Set(['dry']));
  });
  it('a run of version 1 has no plan; one with an old plan brings it along', () => {
    const run = openRun(kept('run-1'));
    expect(run.plan).toBeNull();
    expect(() => withPlan(run)).toThrow(/^plan: is missing/);
    expect(withPlan(openRun({ ...run, plan: kept('plan-1') })).plan).toEqual(openPlan(kept('plan-1')));
    expect(() => openRun({ ...run, plan: { ...kept('plan-1'), tasks: 'none' } })).toThrow(/^plan: tasks: must be a list, not "none"\.$/);
  });
  it('an order of version 1 with a school of one’s own', () => {
    expect(parseOrder(kept('order-2'))).toMatchObject({
      dehydrator: { tempC: 35 },
      openingHours: [[0, 14_400], {}],
      pins: [{ where: 'dehydrator' }],
    });
    expect(parseOrder(kept('order-1')).school).toMatchObject({ id: 'mine', grainsOn: 'set', quickSets: false });
  });
  it('every published solution opens', () => {
    const problems = new URL('../../test/fixtures/problems/airbrush-96001.solution.json', import.meta.url);
    expect(openSolution(JSON.parse(readFileSync(problems, 'utf8')))).toMatchObject({ makespan: 6708 });
    expect(solutionFormat.version).toBe(1);
  });
});

describe('what cannot be opened is refused in one sentence', () => {
  const plan = kept('plan-1');
  it.each([
    [null, /^kestfog-plan: must be a JSON object\.$/],
    [{ ...plan, format: 'kestfog-order/1' }, /^format: must be "kestfog-plan\/4", not "kestfog-order\/1"\.$/],
    [{ ...plan, format: 'kestfog-plan/9' }, /made by a newer Kestfog/],
    [{ ...plan, tasks: 'none' }, /^tasks: must be a list, not "none"\.$/],
    [{ ...plan, tasks: [{ id: 7 }] }, /^tasks\[0\]\.id: must be a text, not 7\.$/],
    [
      { ...plan, stays: [{ id: 'a', where: 'oven', trayId: 'A', startS: 0, endS: 1 }] },
      /^stays\[0\] \(a\)\.where: must be one of fan, dehydrator, not "oven"\.$/,
    ],
  ])('a plan: %#', (json, sentence) => expect(() => openPlan(json)).toThrow(sentence));
  const design = kept('design-1');
  it.each([
    [{ ...design, svg: 7 }, /^svg: must be a text, not 7\.$/],
    [{ ...design, edits: [{ type: 'resize', widthMm: 4000 }] }, /^edits\[0\]\.widthMm: must be 400 or less, not 4000\.$/],
    [{ ...design, edits: [{ type: 'recolour', from: 'red', to: '#112233' }] }, /^edits\[0\]\.from: must be a colour such as #f6f3ea\.$/],
    [{ ...design, edits: [{ type: 'paint' }] }, /^edits\[0\]\.type: /],
    [{ ...design, edits: [{ type: 'say', part: 'a', said: { onclick: 'x' } }] }, /^edits\[0\]\.said/],
  ])('a design: %#', (json, sentence) => expect(() => openDesign(json)).toThrow(sentence));
  it('a run', () => {
    const run = kept('run-1') as { events: object[] };
    expect(() => openRun({ ...run, events: [{ ...run.events[0], deviceSeq: 0 }] })).toThrow(
      /^events\[0\]\.deviceSeq: must be 1 or more, not 0\.$/,
    );
    expect(() => openRun({ ...run, events: [{ ...run.events[0], type: 'baked' }] })).toThrow(/^events\[0\]\.type: /);
  });
});
