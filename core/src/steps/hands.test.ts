import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { bagAmounts } from './bag-amounts.js';
import { deriveSteps } from './derive.js';
import { handsWords } from './hands-words.js';
import { type SchoolId, schoolById } from './school.js';
import { techniques } from './techniques/index.js';
import { openingFor, type Tip, tipCalled, USUAL_TIPS } from './tips.js';

const svg = (inner: string) =>
  readDesign(`<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90">${inner}</svg>`);
const demo = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'), file);
const only = (...tips: Tip[]) => tips;

describe('tips', () => {
  it('are known by name, number and shape', () => {
    for (const said of ['round tip 2', 'Round 2', '2', 'tip 2']) expect(tipCalled(said, USUAL_TIPS)?.openingMm, said).toBe(1.5);
    expect(tipCalled('star', USUAL_TIPS)?.name).toBe('small star tip');
    expect(tipCalled('large leaf', USUAL_TIPS)?.openingMm).toBe(7);
    expect(tipCalled('petal 104', USUAL_TIPS)).toBeUndefined();
  });
  it('the widest that is not wider than the bead; the narrowest where all are wider; a snip where there is none', () => {
    const ask = (usualMm: number) => ({ outlet: 'round' as const, usualMm });
    expect(openingFor(ask(1.5), USUAL_TIPS)).toEqual({ name: 'round tip 2', openingMm: 1.5 });
    expect(openingFor(ask(1.9), USUAL_TIPS)).toMatchObject({ name: 'round tip 3' });
    expect(openingFor(ask(1.7), USUAL_TIPS)).toMatchObject({ name: 'round tip 2' });
    expect(openingFor(ask(0.4), USUAL_TIPS)).toMatchObject({ name: 'round tip 0' });
    expect(openingFor(ask(1.5), only({ name: 'big star', shape: 'star', openingMm: 6 }))).toEqual({ name: 'tipless bag', openingMm: 1.5 });
  });
  it('what a part says beats the kitchen, and an opening that was said is meant', () => {
    expect(openingFor({ outlet: 'round', usualMm: 1.5, said: { tip: 'star' } }, only())).toEqual({ name: 'small star tip', openingMm: 3 });
    expect(openingFor({ outlet: 'round', usualMm: 1.5, said: { openingMm: 2.2 } }, USUAL_TIPS)).toEqual({
      name: 'round tip 3',
      openingMm: 2.2,
    });
    expect(openingFor({ outlet: 'round', usualMm: 1.5, said: { tip: 'grandmother’s' } }, USUAL_TIPS)).toEqual({
      name: 'grandmother’s',
      openingMm: 1.5,
    });
  });
  it('another tip in the kitchen is another dam: its icing, its drying and its name change together', () => {
    const d = svg('<rect id="r" x="5" y="5" width="60" height="60" fill="#fff"/>');
    const school = schoolById('two-bags');
    const dam = (tips?: readonly Tip[]) => deriveSteps(d, school, { tips }).steps.find((s) => s.kind === 'dam');
    const [usual, wide] = [dam(), dam(only({ name: 'round tip 4', shape: 'round', openingMm: 2.5 }))];
    expect(usual).toMatchObject({ tip: 'round tip 2', openingMm: 1.5 });
    expect(wide).toMatchObject({ tip: 'round tip 4', openingMm: 2.5 });
    expect((wide?.ml ?? 0) / (usual?.ml ?? 1)).toBeCloseTo((2.5 / 1.5) ** 2, 6);
    expect(wide?.region?.depthMm).toBeCloseTo(0.75 * 2.5, 9);
    const bags = bagAmounts(deriveSteps(d, school, { tips: only({ name: 'round tip 4', shape: 'round', openingMm: 2.5 }) }), 1);
    expect(bags.find((b) => b.grade === 'outline')?.openings).toEqual([{ name: 'round tip 4', openingMm: 2.5 }]);
  });
});

describe('dam, fill, edge and drops reach the amounts', () => {
  const ml = (words: string, school = schoolById('two-bags'), inner = '') => {
    const d = svg(`<rect id="r" x="5" y="5" width="60" height="60" fill="#fff" ${words}/>${inner}`);
    const steps = deriveSteps(d, school).steps;
    return {
      dam: steps.find((s) => s.kind === 'dam')?.ml ?? 0,
      flood: steps.find((s) => s.kind === 'flood')?.ml ?? 0,
      drop: steps.find((s) => s.technique === 'wet-drop')?.ml ?? 0,
    };
  };
  it('twice piped is twice the icing; none is none', () => {
    expect(ml('data-dam="double"').dam).toBeCloseTo(2 * ml('').dam, 9);
    expect(ml('data-dam="none"').dam).toBe(0);
  });
  it('plump, just and low fill 1, 0.9 and 0.75 of the depth', () => {
    expect(ml('data-fill="just"').flood / ml('').flood).toBeCloseTo(0.9, 6);
    expect(ml('', schoolById('warm-box')).flood / ml('').flood).toBeCloseTo(0.75, 6);
  });
  it('the school’s edge margin takes icing off where no dam holds it, as one’s own word does', () => {
    const byWord = ml('data-dam="none" data-edge-mm="1.5"').flood;
    expect(ml('data-dam="none"', { ...schoolById('two-bags'), edgeMm: 1.5 }).flood).toBeCloseTo(byWord, 6);
    expect(byWord / ml('data-dam="none"').flood).toBeCloseTo((57 / 60) ** 2, 2);
  });
  it('a ring filled adds half of what an injected drop does', () => {
    const drop = '<circle data-technique="wet-drop" cx="30" cy="30" r="4" fill="#b3261e"/>';
    const injected = ml('', undefined, drop).drop;
    expect(ml('', { ...schoolById('two-bags'), drops: 'ring' }, drop).drop).toBeCloseTo(injected / 2, 6);
    expect(ml('', undefined, drop.replace('/>', ' data-drop="ring"/>')).drop).toBeCloseTo(injected / 2, 6);
    expect(injected).toBeCloseTo((Math.PI * 16 * 1.2) / 1000, 2);
  });
});

describe('the bench speaks the technique', () => {
  const FILES = [
    'lighthouse',
    'mackerel',
    'sailboat',
    'signal-flag',
    'life-ring',
    'sea-glass',
    'gull',
    'compass-badge',
    'harbour-plaque',
    'buoy-transfer',
  ];
  const wordsOf = (id: SchoolId) => FILES.flatMap((f) => handsWords(demo(f), deriveSteps(demo(f), schoolById(id)).steps, schoolById(id)));
  it('every technique has short lines, and what to mind', () => {
    const doing = { school: schoolById('two-bags'), fill: 'plump', edgeMm: 1, rings: 2, way: 'ring', count: 5, crossing: true } as const;
    for (const t of techniques) {
      const lines = t.hands(doing);
      expect(lines.length, t.id).toBeGreaterThan(0);
      for (const line of lines) expect(line.length, line).toBeLessThan(90);
      expect(t.badlyDone.length).toBeGreaterThan(8);
    }
    expect(wordsOf('two-bags').every((w) => w.mind.length > 8)).toBe(true);
  });
  it('a school changes only what it says of the hands', () => {
    const flood = (id: SchoolId) =>
      wordsOf(id)
        .find((w) => w.technique === 'flood')
        ?.lines.join('; ');
    expect(flood('kit')).toMatch(/shake it level; once a neighbour has thickened, pat it/);
    expect(flood('patient')).toMatch(/tap it level/);
    expect(flood('two-bags')).toMatch(/fill to a dome.*scribe/);
    expect(flood('warm-box')).toMatch(/fill it low/);
    const drag = (id: SchoolId) =>
      wordsOf(id)
        .find((w) => w.technique === 'drag')
        ?.lines.join('; ');
    expect([drag('two-bags'), drag('one-bag'), drag('kit')]).toEqual([
      expect.stringMatching(/wipe the scribe after every pull/),
      expect.stringMatching(/single pulls/),
      expect.stringMatching(/not wiped/),
    ]);
    const glue = (id: SchoolId) =>
      wordsOf(id)
        .find((w) => w.technique === 'glued-transfer')
        ?.lines.join('; ');
    expect(glue('kit')).toMatch(/dab of icing on the cookie/);
    expect(glue('two-bags')).toMatch(/corn syrup on the cookie/);
  });
  it('says the second ring, the ring of a drop, the edge, a weave and the widened snip where there are such', () => {
    const d = svg(
      '<rect id="r" x="5" y="5" width="60" height="60" fill="#fff" data-dam="double"/><circle data-technique="wet-drop" data-drop="ring" cx="30" cy="30" r="4" fill="#b3261e"/>' +
        '<path data-technique="piped-line" d="M70 10V60" stroke="#5a3f2b" stroke-width="2" fill="none"/><path data-technique="piped-line" d="M66 30H84" stroke="#5a3f2b" stroke-width="2" fill="none"/>',
    );
    const school = { ...schoolById('two-bags'), edgeMm: 1.5 };
    const text = (widens = false) =>
      handsWords(d, deriveSteps(d, school).steps, school, USUAL_TIPS, widens)
        .flatMap((w) => w.lines)
        .join('; ');
    expect(text()).toMatch(/second ring/);
    expect(text()).toMatch(/draw its ring/);
    expect(text()).toMatch(/first edge tidied last/);
    expect(text()).not.toMatch(/stop 1.5 mm short/);
    expect(text()).not.toMatch(/small cut/);
    expect(text(true)).toMatch(/small cut/);
    const bare = svg('<rect id="r" x="5" y="5" width="60" height="60" fill="#fff" data-dam="none"/>');
    expect(handsWords(bare, deriveSteps(bare, school).steps, school).flatMap((w) => w.lines)).toContain('stop 1.5 mm short of the line');
  });
});
