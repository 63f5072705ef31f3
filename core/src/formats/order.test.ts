import { describe, expect, it } from 'vitest';
import { schoolById } from '../steps/school.js';
import { complementIntervals, END_OF_TIME_S } from '../time/interval.js';
import { parseOrder } from './order.js';

const good = {
  format: 'kestfog-order/3',
  designs: [{ file: 'a.svg', count: 6 }],
  trays: [{ id: 'A', places: 8 }],
  openingHours: [[0, 3600]],
};

describe('kestfog-order/3', () => {
  it('completes what is left out', () => {
    expect(parseOrder(good)).toMatchObject({
      air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
      fan: null,
      school: { id: 'two-bags', floodS: 15 },
      margin: 'normal',
      packBy: null,
    });
  });
  it('waits as surely as the school it follows, unless another margin is named', () => {
    expect(parseOrder({ ...good, school: 'patient' }).margin).toBe(schoolById('patient').margin);
    expect(schoolById('patient').margin).not.toBe('normal');
    expect(parseOrder({ ...good, school: 'patient', margin: 'bold' }).margin).toBe('bold');
    // What an order of version 1 did not say was normal.
    const { openingHours: bench, ...first } = good;
    expect(parseOrder({ ...first, bench, format: 'kestfog-order/1', school: 'patient' }).margin).toBe('normal');
  });
  it('turns ISO times into seconds since the first opening', () => {
    const o = parseOrder({
      ...good,
      openingHours: [
        ['2026-06-06T07:00:00+02:00', '2026-06-06T12:00:00+02:00'],
        ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
      ],
      packBy: '2026-06-06T10:00:00Z',
    });
    expect(o.epoch).toBe('2026-06-05T14:00:00.000Z');
    expect(o.openingHours).toEqual([
      [0, 28_800],
      [54_000, 72_000],
    ]);
    expect(o.packBy).toBe(72_000);
  });
  it('takes the whole bench, and completes what each part leaves out', () => {
    const o = parseOrder({
      ...good,
      designs: [{ file: 'a.svg', count: 6, spares: 1, for: 'a christening', packBy: 1800 }],
      trays: [{ id: 'A', widthMm: 400, depthMm: 300 }],
      dehydrator: {},
      decorators: [{ id: 'Ada' }],
      openBags: 4,
      pins: [
        { kind: 'away', from: 600, to: 900 },
        { kind: 'tray-first', tray: 'A' },
      ],
    });
    expect(o.dehydrator).toEqual({ places: 1, tempC: 35, airMPerS: 1 });
    expect(o.decorators).toEqual([{ id: 'Ada', pace: 1 }]);
    expect(o.pins[0]).toEqual({ kind: 'away', from: 600, to: 900, label: 'away', who: null });
    expect(o.designs[0]).toMatchObject({ spares: 1, for: 'a christening', packBy: 1800 });
    expect(parseOrder(JSON.parse(JSON.stringify(o)))).toEqual(o);
  });
  it('moves the times of pins and designs with the epoch', () => {
    const o = parseOrder({
      ...good,
      designs: [{ file: 'a.svg', count: 6, packBy: '2026-06-05T18:00:00Z' }],
      openingHours: [['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z']],
      pins: [
        { kind: 'away', from: '2026-06-05T15:00:00Z', to: '2026-06-05T15:30:00Z', label: 'tea' },
        { kind: 'not-before', tray: 'A', at: '2026-06-05T14:30:00Z' },
      ],
    });
    expect(o.designs[0]?.packBy).toBe(4 * 3600);
    expect(o.pins).toMatchObject([{ from: 3600, to: 5400 }, { at: 1800 }]);
  });
  it.each([
    [{ ...good, designs: [{ file: 'a.svg', count: 1, spares: -1 }] }, /designs\[0\].spares/],
    [{ ...good, designs: [{ file: 'a.svg', count: 1, for: 3 }] }, /designs\[0\].for: must name an order/],
    [{ ...good, designs: [{ file: 'a.svg', count: 1, packBy: '2026-06-05T22:00:00Z' }] }, /designs\[0\].packBy/],
    [{ ...good, trays: [{ id: 'A', places: 3, widthMm: 300 }] }, /not both/],
    [{ ...good, trays: [{ id: 'A', widthMm: 300 }] }, /trays\[0\] \(A\).depthMm/],
    [{ ...good, trays: [{ id: 'A', widthMm: 30, depthMm: 300 }] }, /trays\[0\] \(A\).widthMm: must be a number from 50/],
    [{ ...good, dehydrator: { tempC: 200 } }, /dehydrator.tempC/],
    [{ ...good, decorators: [] }, /decorators: must be a list of one to 3/],
    [{ ...good, decorators: [{ id: 'a' }, { id: 'a' }] }, /"a" is there twice/],
    [{ ...good, decorators: [{ id: 'a', pace: 9 }] }, /decorators\[0\] \(a\).pace/],
    [{ ...good, openBags: 0 }, /openBags/],
    [{ ...good, handGapMm: 100 }, /handGapMm/],
    [{ ...good, pins: [{ kind: 'nap' }] }, /pins\[0\].kind/],
    [{ ...good, pins: [{ kind: 'tray-first', tray: 'A', at: 3 }] }, /pins\[0\].at: is not known/],
    [{ ...good, pins: [{ kind: 'not-before', tray: 'A' }] }, /pins\[0\].at/],
    [{ ...good, format: 'x' }, /format/],
    [{ ...good, colour: 1 }, /colour: is not known/],
    [{ ...good, designs: [] }, /designs: must be a list/],
    [{ ...good, designs: [{ file: 'a.svg', count: -3 }] }, /designs\[0\].count: must be a number from 1/],
    [{ ...good, designs: [{ file: 'a.svg', count: 2.5 }] }, /designs\[0\].count: must be a whole number/],
    [
      {
        ...good,
        trays: [
          { id: 'A', places: 8 },
          { id: 'A', places: 8 },
        ],
      },
      /trays\[1\].id: "A" is there twice/,
    ],
    [{ ...good, openingHours: [[3600, 0]] }, /openingHours\[0\]: must end after it begins/],
    [
      {
        ...good,
        openingHours: [
          [0, 100],
          [50, 200],
        ],
      },
      /overlaps/,
    ],
    [{ ...good, openingHours: [['yesterday', 'today']] }, /openingHours\[0\]\[0\]/],
    [
      { ...good, openingHours: [['2026-02-27T14:00:00Z', '2026-02-30T14:00:00Z']] },
      /openingHours\[0\]\[1\]: must be whole seconds or an ISO time/,
    ],
    [{ ...good, air: { humidityPct: 140 } }, /air.humidityPct: must be a number from 1 to 100/],
    [{ ...good, air: { tempC: '22' } }, /air.tempC/],
    [{ ...good, school: 'academy' }, /school: must be one of kit/],
    [{ ...good, margin: 'brave' }, /margin/],
    [{ ...good, packBy: '2026-06-05T22:00:00Z' }, /packBy/],
    [null, /object/],
  ])('refuses %# by its place', (json, text) => {
    expect(() => parseOrder(json)).toThrow(text);
  });
  it('open hours and closed hours fill time without a gap', () => {
    expect(
      complementIntervals([
        { fromS: 10, toS: 20 },
        { fromS: 15, toS: 30 },
        { fromS: 50, toS: 60 },
      ]),
    ).toEqual([
      { fromS: 0, toS: 10 },
      { fromS: 30, toS: 50 },
      { fromS: 60, toS: END_OF_TIME_S },
    ]);
  });
});
