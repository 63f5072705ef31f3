import { describe, expect, it } from 'vitest';
import { drawing } from '../../test/play.js';
import { marksOf } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { areaMm2 } from '../geometry/shape.js';
import { wetStages } from '../marbling/index.js';
import type { FlowedDesign } from '../marbling/stages.js';
import { stagesAsWorked, WetPlay, wipingSeen } from './wet-play.js';

/** Two floods that do not touch, dots in both, told as one step; and pulls through the second. */
const twoPools = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><rect id="cookie" data-part="cookie" width="80" height="40" fill="#d9a566"/>
   <circle id="a" data-part="section" cx="20" cy="20" r="15" fill="#f6f3ea"/><circle id="b" data-part="section" cx="60" cy="20" r="15" fill="#f6f3ea"/>
   ${[14, 26, 54, 66].map((x, i) => `<circle id="d${i}" data-part="mark" data-technique="wet-drop" cx="${x}" cy="20" r="2.5" fill="#1d4e89"/>`).join('')}
   <path id="pull" data-part="mark" data-technique="drag" fill="none" stroke="#333" stroke-width="1" d="M50 20H72"/>
   <path id="pull-2" data-part="mark" data-technique="drag" fill="none" stroke="#333" stroke-width="1" d="M60 10V32"/></svg>`,
  'Two pools',
);
const dots = marksOf(twoPools).filter((m) => m.technique === 'wet-drop');
const inkOf = (
  stages: readonly { readonly inks: readonly { readonly markId: string; readonly shape: Parameters<typeof areaMm2>[0] }[] }[],
) => Object.fromEntries(stages.flatMap((s) => s.inks.map((i) => [i.markId, areaMm2(i.shape)])));

describe('wet work in play', () => {
  it('goes on from pool to pool where one step lies in two: neither is left out', () => {
    const play = new WetPlay(twoPools);
    const marks = dots.map((d) => d.id);
    const seen = (share: number) => play.at({ marks, share }).map(({ pool, after }) => [pool.id, after]);
    expect(seen(0)).toEqual([
      ['a', 0],
      ['b', 0],
    ]);
    expect(seen(0.25)).toEqual([
      ['a', 1],
      ['b', 0],
    ]);
    expect(seen(0.75)).toEqual([
      ['a', 2],
      ['b', 1],
    ]);
    expect(seen(1)).toEqual([
      ['a', 2],
      ['b', 2],
    ]);
    // At the end it lies as the stages say that are kept with the design.
    const kept = wetStages(twoPools).filter((s) => s.made.length === 2);
    const [played, asKept] = [inkOf(play.stages({ marks, share: 1 })), inkOf(kept)];
    expect(Object.keys(played).sort()).toEqual([...marks].sort());
    for (const id of marks) expect(played[id]).toBeCloseTo(asKept[id] as number, 6);
    expect(play.at({ marks: ['nobody'], share: 1 })).toEqual([]);
  });
});

describe('a scribe that is not wiped', () => {
  it('is seen where the way of working has it so, and only there', () => {
    expect([wipingSeen(twoPools, 'always'), wipingSeen(twoPools, 'single-pulls'), wipingSeen(twoPools, 'never')]).toEqual([
      undefined,
      undefined,
      'never',
    ]);
    expect([wipingSeen(drawing('lighthouse'), 'never'), wipingSeen(twoPools, undefined)]).toEqual([undefined, undefined]);
    const kept: FlowedDesign = { ...twoPools, wet: wetStages(twoPools) };
    expect(stagesAsWorked(kept, 'always')).toBe(kept.wet);
    // Pulled through blue dots, it begins the next pull with their colour.
    const smeared = (wiping: 'never' | 'always') => {
      const last = stagesAsWorked(kept, wiping).findLast((s) => s.pool === 'b');
      return (last?.inks ?? []).filter((i) => i.markId === 'pull-2').length;
    };
    expect([smeared('never'), smeared('always')]).toEqual([1, 0]);
  });
});
