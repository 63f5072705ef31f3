import { describe, expect, it } from 'vitest';
import { logOf } from '../../test/play.js';
import { readDesign } from '../design/index.js';
import { parseOrder } from '../formats/index.js';
import { planOrder } from '../planning/index.js';
import { defects } from '../steps/index.js';
import { judge, OF_THE_HAND } from './judge.js';
import { BY_THE_BOOK, slower } from './kitchen.js';
import { playEvening } from './play.js';
import { isMistimed } from './spoilt.js';
import { truthOf } from './truth.js';

/** On a white round: what is done on it too early or too late, and what is seen then (common practice, no published source). */
const line = (technique: string, width = 2) =>
  `<path id="p" data-part="line" data-technique="${technique}" fill="none" stroke="#883322" stroke-width="${width}" d="M20 20H50"/>`;
const patch = (part: string, technique: string, r = 8) =>
  `<circle id="p" data-part="${part}" data-technique="${technique}" cx="35" cy="35" r="${r}" fill="#cc6677"/>`;
const pull = '<path id="n" data-part="mark" data-technique="drag" fill="none" stroke="#333" stroke-width="1" d="M25 35H45"/>';
const EARLY = [
  ['flood', '<circle id="p" data-part="section" cx="35" cy="35" r="9" fill="#b3261e"/>', 'ran-together'],
  ['pen', line('pen', 0.6), 'pen-slipped'],
  ['paint', line('paint'), 'rough'],
  ['dust', patch('line', 'dust'), 'rough'],
  ['stencil', patch('line', 'stencil'), 'stencil-smeared'],
  ['airbrush', patch('line', 'airbrush'), 'ridges'],
  ['wafer', patch('line', 'wafer'), 'paper-lifted'],
  ['glued-transfer', patch('line', 'glued-transfer'), 'sank'],
  ['piped-line', line('piped-line'), 'sank'],
  ['crackle', patch('line', 'crackle'), 'dent'],
  ['pack', '', 'bumped'],
] as const;
const LATE = [
  ['wet-drop', patch('mark', 'wet-drop', 3), 'stood-up'],
  ['drag', patch('mark', 'wet-drop', 3) + pull, 'dragged-lumps'],
  ['sprinkle', patch('mark', 'sprinkle'), 'missed-patch'],
  ['lay-in', patch('mark', 'lay-in'), 'transfer-broke'],
] as const;

function planOf(extra: string) {
  const design = readDesign(
    `<svg xmlns="http://www.w3.org/2000/svg" width="70mm" height="70mm" viewBox="0 0 70 70">
      <circle id="cookie" data-part="cookie" cx="35" cy="35" r="34" fill="#d9a566"/>
      <circle id="base" data-part="section" data-name="round" cx="35" cy="35" r="28" fill="#f6f3ea"/>${extra}</svg>`,
    'Round',
  );
  const order = parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: 'round', count: 3 }],
    trays: [{ id: 'A', places: 3 }],
    openingHours: [
      ['2026-06-05T06:00:00Z', '2026-06-05T22:00:00Z'],
      ['2026-06-06T06:00:00Z', '2026-06-06T22:00:00Z'],
    ],
    margin: 'normal',
  });
  return planOrder({ order, designs: [design], passes: 10 });
}

describe('a mistake that is made on purpose', () => {
  it.each(EARLY)('%s long before its wait is over', (technique, extra, seen) => {
    const plan = planOf(extra);
    const truth = truthOf(BY_THE_BOOK, 3);
    const own = judge(plan, playEvening(plan, truth, { goesBy: 'bench', patience: 0.1 }), truth)
      .spoilt.filter(isMistimed)
      .filter((s) => s.technique === technique);
    expect(own.map((s) => s.seen)).toContain(seen);
    // … is laid at its rule's door, with the moment that would have saved it.
    for (const s of own) expect([s.when, s.why.rule.length > 0, s.rightS === null || s.rightS > s.atS]).toEqual(['too-early', true, true]);
  });
  it.each(LATE)('%s after its window has shut', (technique, extra, seen) => {
    const plan = planOf(extra);
    // Icing that skins within seconds, whatever the plan believes.
    const truth = truthOf(slower(0.01), 3);
    const own = judge(plan, logOf(plan), truth)
      .spoilt.filter(isMistimed)
      .filter((s) => s.technique === technique && s.when === 'too-late');
    expect(own.map((s) => s.seen)).toContain(seen);
    for (const s of own) expect([s.why.rule, s.rightS !== null && s.rightS < s.atS]).toEqual(['wet-window', true]);
  });
  it('is found, or is of the hand and named so: no defect of the bench is in neither list', () => {
    // By risks that were let grow, by contrast, by shaking, by lifting: `rehearsal.test.ts`.
    const elsewhere = ['crater', 'spread', 'bled'];
    const found = new Set<string>([...[...EARLY, ...LATE].map(([, , seen]) => seen), ...elsewhere]);
    expect(OF_THE_HAND.filter((id) => found.has(id))).toEqual([]);
    expect(defects.map((d) => d.id).filter((id) => !found.has(id) && !OF_THE_HAND.includes(id))).toEqual([]);
  });
});
