import { type OrderView, parseOrder, planOrder, readDesign } from '@kestfog/core';
import { describe, expect, it } from 'vitest';
import { changedOrder, differenceText } from './what-if.js';

const buoy = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path id="body" d="M5 5H30V55H5Z" fill="#c8413a"/><path id="light" d="M30 5H55V55H30Z" fill="#f5ead7"/></svg>',
  'Buoy',
);
const file = parseOrder({
  format: 'kestfog-order/1',
  designs: [{ file: 'buoy.svg', count: 4 }],
  trays: [{ id: 'A', places: 6 }],
  bench: [['2026-06-05T14:00:00Z', '2026-06-06T14:00:00Z']],
  air: { tempC: 22, humidityPct: 45 },
});
const plan = planOrder({ order: file, designs: [buoy], rounds: 0 });
const order = { name: 'Two buoys', air: file.air, fan: file.fan, margin: file.margin, schoolUsed: file.school, bags: [] } as unknown as OrderView;
const again = (humidityPct: number) =>
  planOrder({ order: changedOrder(order, plan, { tempC: 22, humidityPct, margin: file.margin }), designs: [buoy], rounds: 0 });

describe('another evening', () => {
  it('that is the same evening gives the same plan and says so', () => {
    const same = again(45);
    expect(same.endS).toBe(plan.endS);
    expect(differenceText(plan, same)).toMatch(/^Packed as before, /);
  });
  it('that is damper is packed later, and the text names the tray and the wait that grew', () => {
    const damp = again(62);
    expect(damp.endS).toBeGreaterThan(plan.endS);
    expect(differenceText(plan, damp)).toMatch(/^Packed .* later.*tray A now waits .*: /);
    expect(differenceText(damp, plan)).toMatch(/^Packed .* sooner/);
  });
});
