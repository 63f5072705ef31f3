import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import { planOrder } from './plan-order.js';
import { arrange, preparePlanning } from './planning.js';

const HOUR = 3600;
const input = (files: readonly string[], counts: number | readonly number[], more: object) => ({
  order: parseOrder({
    format: 'kestfog-order/3',
    designs: files.map((f, i) => ({ file: `${f}.svg`, count: typeof counts === 'number' ? counts : counts[i] })),
    ...more,
  }),
  designs: files.map((f) => readDesign(readFileSync(new URL(`../../../server/demo/${f}.svg`, import.meta.url), 'utf8'), `${f}.svg`)),
});
const trays = (n: number, places: number) => [...Array(n).keys()].map((k) => ({ id: `T${k + 1}`, places }));

describe('ways to put cookies on trays', () => {
  // Quick plans say that all three end next morning. Laborious beside easy came first among them, and that does; one design after the other
  // is packed in less than seven hours.
  it('are searched one after the other: what quick plans put behind is packed the same day', () => {
    const found = planOrder({
      ...input(['signal-flag', 'gull', 'compass-badge'], 8, {
        trays: trays(3, 8),
        openingHours: [0, 24, 48].map((from) => [from * HOUR, (from + 9) * HOUR]),
        dehydrator: { places: 2 },
      }),
      passes: 1200,
    });
    expect(brokenRules(found)).toEqual([]);
    expect(found.arrangement.tried.map((t) => (t.endS as number) > 24 * HOUR)).toEqual([true, true, true]);
    expect(found.endS).toBeLessThan(7 * HOUR);
    expect(found.arrangement.way).not.toBe('mixed');
    // Each tray holds one design, as the way that is told of says.
    expect(found.trays.map((t) => t.lots.map((l) => l.cookies))).toEqual([[8], [8], [8]]);
  });
  // Without stays laborious beside easy ends first, by a few minutes of the next morning.
  it('get a turn each before any gets its second: one design after the other is packed the same morning, and proven', () => {
    const found = planOrder({
      ...input(['sea-glass', 'signal-flag'], 6, {
        trays: trays(2, 6),
        openingHours: [0, 24].map((from) => [from * HOUR, (from + 8) * HOUR]),
        dehydrator: { places: 2 },
      }),
      passes: 60,
    });
    expect(brokenRules(found)).toEqual([]);
    expect([found.endS, found.proven, found.arrangement.way]).toEqual([8574, true, 'as-listed']);
  });
  // The laborious first came first and used up the time for nothing: all was packed next morning. The clock counts looks at it.
  it('get parts of a round in turn, so that one for which nothing is found leaves time to the others', () => {
    let looked = 0;
    const found = planOrder({
      ...input(['compass-badge', 'lighthouse', 'life-ring'], [8, 8, 7], {
        trays: trays(3, 8),
        openingHours: [0, 24].map((from) => [from * HOUR, (from + 8) * HOUR]),
        dehydrator: { places: 1 },
      }),
      passes: Number.POSITIVE_INFINITY,
      timeUsed: () => {
        looked += 1;
        return looked / 30;
      },
    });
    expect(brokenRules(found)).toEqual([]);
    expect(found.endS).toBeLessThan(8 * HOUR);
  });
  it('that leave a tray empty with which something is to be begun are none; where all do, that is said', () => {
    const begun = (...files: string[]) =>
      planOrder({
        ...input(files, 4, {
          trays: trays(2, 8),
          openingHours: [[0, 12 * HOUR]],
          dehydrator: { places: 1 },
          pins: [{ kind: 'tray-first', tray: 'T2' }],
        }),
        passes: 60,
      });
    // One design after the other fills T1 alone; laborious beside easy takes both.
    const found = begun('signal-flag', 'gull');
    expect(found.arrangement.way).toBe('mixed');
    expect(found.tasks[0]).toMatchObject({ trayId: 'T2' });
    expect(() => begun('gull')).toThrow('Tray T2 stays empty, since T1 hold all the cookies');
  });
  it('laborious beside easy takes as many trays as both need, and no more for a small one among them', () => {
    const mixed = (of: readonly { readonly id: string; readonly places: number }[]) =>
      arrange(preparePlanning(input(['compass-badge', 'gull'], 9, { trays: of, openingHours: [[0, 8 * HOUR]] })), 'mixed').lots.map(
        (l) => `${l.trayId} ${l.cookies}`,
      );
    expect(mixed(trays(3, 6))).toEqual(['T1 3', 'T1 3', 'T2 3', 'T2 3', 'T3 3', 'T3 3']);
    expect(mixed([...trays(2, 10), { id: 'T3', places: 2 }])).toEqual(['T1 5', 'T1 5', 'T2 4', 'T2 4']);
  });
});

describe('a longer run of planning', () => {
  // The clock counts how often it is looked at, so that time is work: whatever ends a run, a longer one went the same way until then.
  const endAfter = (looks: number, files: readonly string[], count: number, places: number) => {
    let looked = 0;
    return planOrder({
      ...input(files, count, {
        trays: trays(2, places),
        openingHours: [0, 24].map((from) => [from * HOUR, (from + 8) * HOUR]),
        dehydrator: { places: 2 },
      }),
      passes: Number.POSITIVE_INFINITY,
      timeUsed: () => {
        looked += 1;
        return looked / looks;
      },
    }).endS;
  };
  it('contains the shorter one: at five budgets no plan ends later than with less, and the same work is the same plan', () => {
    const sailboats = [20, 40, 80, 160, 320].map((looks) => endAfter(looks, ['sailboat'], 10, 5));
    const mixed = [2, 5, 20, 40, 80].map((looks) => endAfter(looks, ['sailboat', 'lighthouse'], 5, 5));
    for (const ends of [sailboats, mixed]) {
      expect(ends).toEqual([...ends].sort((a, b) => b - a));
      expect(ends.at(-1)).toBeLessThan(ends[0] as number);
    }
    expect(endAfter(80, ['sailboat'], 10, 5)).toBe(sailboats[2]);
  });
});
