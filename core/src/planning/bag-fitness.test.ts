import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { REFERENCE_AIR } from '../drying/air.js';
import { parseOrder } from '../formats/order.js';
import { type SchoolId, schoolById } from '../steps/school.js';
import { bagFitness } from './bag-fitness.js';
import { planOrder } from './plan-order.js';

const demo = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}`, import.meta.url), 'utf8'), file);
const tile = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="wide" width="60" height="40" fill="#246810"/><rect id="pane" data-name="small pane" x="5" y="48" width="9" height="9" fill="#246810"/><path d="M2 44H58" fill="none" stroke="#246810" stroke-width="1.5" data-seconds="60"/></svg>',
  'tile',
);
const making = (id: SchoolId) => ({ school: schoolById(id), air: REFERENCE_AIR, margin: 'normal' as const });
const flood = { colour: '#246810', seconds: 15 };

describe('what a counted bag is fit for', () => {
  it('12 s floods the wide field and is too loose for a 9 mm pane: 20 s', () => {
    const jobs = bagFitness(flood, 10, [tile], making('two-bags'));
    expect(jobs).toContainEqual({ job: 'flood', parts: ['wide'], verdict: 'fine', betterS: null });
    expect(jobs).toContainEqual({ job: 'flood', parts: ['small pane'], verdict: 'craters', betterS: 20 });
  });
  it('30 s does not level, and a thin piping bag spreads', () => {
    expect(bagFitness(flood, 30, [tile], making('two-bags'))).toMatchObject([{ job: 'flood', verdict: 'too-stiff', betterS: 15 }]);
    expect(bagFitness({ colour: '#246810', seconds: 60 }, 25, [tile], making('two-bags'))).toMatchObject([
      { job: 'lines', verdict: 'too-loose', betterS: 60 },
    ]);
    expect(bagFitness({ colour: '#246810', seconds: 60 }, 55, [tile], making('two-bags'))).toMatchObject([
      { job: 'lines', verdict: 'fine' },
    ]);
  });
  it('marks much stiffer than their flood stand proud', () => {
    const eye = { colour: '#22343c', seconds: 15 };
    expect(bagFitness(eye, 16, [demo('mackerel.svg')], making('two-bags'))).toMatchObject([{ job: 'marks', verdict: 'fine' }]);
    expect(bagFitness(eye, 28, [demo('mackerel.svg')], making('two-bags'))).toMatchObject([
      { job: 'marks', parts: ['stripes'], verdict: 'lumps', betterS: 15 },
      { job: 'marks', parts: ['pupil'], verdict: 'too-stiff', betterS: 15 },
    ]);
  });
});

describe('a counted bag changes what the plan waits', () => {
  const plan = (countedS?: number) =>
    planOrder({
      order: parseOrder({
        format: 'kestfog-order/3',
        designs: [{ file: 'mackerel.svg', count: 4 }],
        trays: [{ id: 'A', places: 4 }],
        openingHours: [
          [0, 28_800],
          [61_200, 90_000],
        ],
        ...(countedS ? { bags: [{ colour: '#5f9aa0', seconds: 15, countedS }] } : {}),
      }),
      designs: [demo('mackerel.svg')],
      passes: 30,
    });
  const wait = (p: ReturnType<typeof plan>) =>
    p.waits.find(({ facts: f }) => f.kind === 'meeting' && f.earlier === 'head' && f.later === 'belly' && f.state === 'crusted')?.minS ?? 0;
  it('thinner icing crusts later, thicker sooner, and the bag keeps its name', () => {
    expect(wait(plan(10))).toBeGreaterThan(wait(plan()));
    expect(wait(plan(20))).toBeLessThan(wait(plan()));
    expect(plan(10).tasks.flatMap((t) => t.bags)).toContainEqual({ colour: '#5f9aa0', seconds: 15 });
  });
});
