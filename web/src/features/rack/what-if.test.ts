import { readDesign } from '@kestfog/core/design';
import { type Pin, parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../app/clock.js';
import { asPlanned, changedOrder, differenceText, isChanged, pinText, type WhatIf, withPin } from './what-if.js';

beforeAll(() => setClock(24));

const buoy = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path id="body" d="M5 5H30V55H5Z" fill="#c8413a"/><path id="light" d="M30 5H55V55H30Z" fill="#f5ead7"/></svg>',
  'Buoy',
);
const file = parseOrder({
  format: 'kestfog-order/3',
  designs: [{ file: 'buoy.svg', count: 4 }],
  trays: [{ id: 'A', places: 6 }],
  openingHours: [['2026-06-05T14:00:00Z', '2026-06-06T14:00:00Z']],
  air: { tempC: 22, humidityPct: 45 },
});
const plan = planOrder({ order: file, designs: [buoy], passes: 0 });
const tried = (more: Partial<WhatIf>) => changedOrder(file, { ...asPlanned(file), ...more });
const again = (humidityPct: number) => planOrder({ order: tried({ humidityPct }), designs: [buoy], passes: 0 });

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

describe('what may be changed', () => {
  it('nothing changed is the order itself', () => {
    expect(isChanged(file, asPlanned(file))).toBe(false);
    expect(tried({})).toEqual(file);
  });
  it('fan, dehydrator, pace and start change just that', () => {
    expect(tried({ fanPlaces: 2 }).fan).toEqual({ places: 2, airMPerS: 1 });
    expect(tried({ dehydratorPlaces: 1 }).dehydrator).toEqual({ places: 1, tempC: 35, airMPerS: 1 });
    expect(tried({ pace: 1.25 }).decorators).toEqual([{ id: 'me', pace: 1.25 }]);
    expect(tried({ laterMin: 90 }).openingHours[0]?.[0]).toBe(5400);
    expect(planOrder({ order: tried({ laterMin: 90 }), designs: [buoy], passes: 0 }).tasks[0]?.startS).toBeGreaterThanOrEqual(5400);
    // Never past the closing of the day.
    expect(tried({ laterMin: 60 * 48 }).openingHours[0]?.[0]).toBeLessThan(file.openingHours[0]?.[1] as number);
  });
  it('a faster pace is no slower, a dehydrator no later', () => {
    const end = (more: Partial<WhatIf>) => planOrder({ order: tried(more), designs: [buoy], passes: 20 }).endS;
    expect(end({ pace: 1.5 })).toBeLessThanOrEqual(end({ pace: 0.7 }));
    expect(end({ dehydratorPlaces: 1 })).toBeLessThan(end({}));
  });
});

describe('what the user insists on', () => {
  const first: Pin = { kind: 'tray-first', tray: 'A' };
  const lunch: Pin = { kind: 'away', from: 3600, to: 5400, label: 'lunch', who: null };
  it('one tray is first, one time counts for a tray, breaks add up', () => {
    expect(withPin([first], { kind: 'tray-first', tray: 'B' })).toEqual([{ kind: 'tray-first', tray: 'B' }]);
    expect(withPin([{ kind: 'not-before', tray: 'A', at: 1 }, lunch], { kind: 'not-before', tray: 'A', at: 2 })).toEqual([
      lunch,
      { kind: 'not-before', tray: 'A', at: 2 },
    ]);
    expect(withPin([lunch], { ...lunch, from: 7200, to: 7800 })).toHaveLength(2);
  });
  it('is said in words', () => {
    const epochMs = Date.parse('2026-06-05T14:00:00');
    expect(pinText(first, epochMs)).toBe('tray A first');
    expect(pinText({ kind: 'not-before', tray: 'B', at: 5400 }, epochMs)).toBe('tray B not before Fri 15:30');
    expect(pinText(lunch, epochMs)).toBe('lunch, Fri 15:00 to 15:30');
    expect(pinText({ ...lunch, who: 'Ada' }, epochMs)).toMatch(/, Ada$/);
  });
});
