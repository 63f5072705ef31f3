import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import { chanceOf } from './chance.js';
import { planOrder } from './plan-order.js';
import { plannedChecks } from './planned-checks.js';

const HOUR = 3600;
const flag = readDesign(readFileSync(new URL('../../../server/demo/signal-flag.svg', import.meta.url), 'utf8'), 'signal-flag.svg');
const plan = (more: object) =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: [{ file: 'signal-flag.svg', count: 8 }],
      trays: ['A', 'B'].map((id) => ({ id, places: 4 })),
      openingHours: [[0, 8 * HOUR]],
      air: { tempC: 22, humidityPct: 90, airMPerS: 0.1 },
      ...more,
    }),
    designs: [flag],
    passes: 60,
  });

describe('air so damp that nothing dries on the bench', () => {
  it('is no dead end where a dehydrator stands in the kitchen: every tray goes there after each of its rounds', () => {
    const p = plan({ dehydrator: { places: 2 } });
    expect(p.late).toBeNull();
    expect(brokenRules(p)).toEqual([]);
    for (const tray of ['A', 'B'])
      expect(p.stays.filter((s) => s.trayId === tray).map((s) => [s.round, s.why])).toEqual([1, 2, 3].map((r) => [r, 'dries']));
    expect(plannedChecks(p).map((c) => c.kind)).not.toContain('never-dries');
    // Hands that are a little slow still pack in time: a due time is set, and the evenings are lived.
    expect(chanceOf(plan({ dehydrator: { places: 2 }, packBy: 6 * HOUR }), { draws: 40, seed: 1 }).onTime).toBeGreaterThan(0.5);
  });
  it('a fan, which only moves the damp air, and a bare bench are refused with what would help', () => {
    for (const more of [{}, { fan: { places: 2, airMPerS: 1 }, air: { tempC: 22, humidityPct: 97, airMPerS: 0.1 } }])
      expect(() => plan(more)).toThrow(/would wait for ever; it works at \d+ % or below, or in warmer air, as a dehydrator has it/);
  });
});
