import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { type OrderFile, parseOrder } from '../formats/order.js';
import type { Plan, TimedGap } from '../formats/plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { Step } from '../steps/step.js';
import { techniqueById } from '../steps/techniques/index.js';
import { lateText } from '../wording/late.js';
import { planOrder } from './plan-order.js';
import { separation } from './separation.js';
import type { Visit } from './visit.js';
import { runVisit, type VisitTimes } from './visit.js';

const drawing = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}`, import.meta.url), 'utf8'), file);
const DAY1 = [0, 8 * 3600] as const;
const DAY2 = [17 * 3600, 29 * 3600] as const;
const orderOf = (more: object = {}): OrderFile =>
  parseOrder({
    format: 'kestfog-order/3',
    designs: [
      { file: 'lighthouse.svg', count: 12 },
      { file: 'mackerel.svg', count: 12 },
    ],
    trays: ['A', 'B', 'C'].map((id) => ({ id, places: 8 })),
    openingHours: [DAY1, DAY2],
    air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
    packBy: DAY2[1],
    ...more,
  });
const plan = (more: object = {}, passes = 120): Plan => {
  const order = orderOf(more);
  return planOrder({ order, designs: order.designs.map((d) => drawing(d.file)), passes });
};

describe('visits', () => {
  const step = (id: string, technique: Step['technique'], seconds: number, colour: string | null): Step => ({
    id,
    technique,
    kind: techniqueById(technique).kind,
    part: 's',
    parts: ['s'],
    label: id,
    round: 1,
    batch: 1,
    seconds,
    bag: colour ? { colour, seconds: 15 } : null,
    sectionId: 's',
    inside: ['s'],
    region: null,
  });
  const bundle = {
    id: 'b',
    kind: 'wet' as const,
    round: 1,
    batch: 1,
    steps: [step('flood', 'flood', 54, '#fff'), step('red', 'wet-drop', 7, '#f00'), step('blue', 'wet-line', 11, '#00f')],
    bags: [],
    family: null,
  };
  it('first cookie: its wet work ends at k·p + Σ(4 + k·q) − (k − 1)·q_last', () => {
    for (let k = 1; k <= 6; k++) {
      const times = runVisit(bundle, k, 'colour-by-colour', ASSUMED_PACE, []);
      expect(times.endS.get('blue')?.[0]).toBeCloseTo(k * 60 + (4 + k * 7) + (4 + k * 11) - (k - 1) * 11, 9);
    }
  });
  const visit = (id: string, p: number, k: number, stepId: string): Visit => {
    const ends = [...Array(k).keys()].map((i) => (i + 1) * p);
    const times: VisitTimes = {
      widened: [],
      parts: 1,
      durationS: k * p,
      startS: new Map([[stepId, ends.map((e) => e - p)]]),
      endS: new Map([[stepId, ends]]),
      way: 'colour-by-colour',
    };
    return {
      id,
      lot: { id: 'L', trayId: 'A', designId: 'd', cookies: k, firstPlace: 0 },
      bundle: { ...bundle, steps: [] },
      cookies: [0, k],
      times,
    };
  };
  const timed = (minS: number, maxS: number | null): TimedGap => ({
    gap: { from: 'x', to: 'y', rule: 'touching-sections', facts: { kind: 'prepared' } },
    minS,
    maxS,
  });
  it('nine cookies, 60 s and 20 s each, a wait of 1200 s: 1580 s from start to start', () => {
    expect(separation(visit('U', 60, 9, 'x'), visit('V', 20, 9, 'y'), timed(1200, null))?.minS).toBe(1580);
  });
  it('agrees with moving every cookie by hand, second by second', () => {
    for (const [p, q, k, wait, window] of [
      [60, 20, 9, 1200, 2000],
      [20, 60, 7, 300, 900],
      [33, 33, 1, 10, 100],
      [10, 45, 5, 0, 400],
    ] as const) {
      const s = separation(visit('U', p, k, 'x'), visit('V', q, k, 'y'), timed(wait, window));
      const holds = (d: number) =>
        [...Array(k).keys()].every((i) => d + i * q >= (i + 1) * p + wait && d + (i + 1) * q <= (i + 1) * p + window);
      const good = [...Array(4000).keys()].filter(holds);
      if (good.length > 0) expect([s?.minS, s?.maxS]).toEqual([good[0], good.at(-1)]);
      else expect(s?.minS).toBeGreaterThan(s?.maxS ?? 0);
    }
  });
});

describe('the demo’s order', () => {
  const p = plan({ fan: { places: 1, airMPerS: 1 } }, 300);
  it('keeps every rule of the trade on every cookie', () => {
    expect(brokenRules(p)).toEqual([]);
  });
  it('works all 24 cookies in both designs and packs them the next morning', () => {
    expect(p.trays.flatMap((t) => t.lots).reduce((s, l) => s + l.cookies, 0)).toBe(24);
    expect(p.endS).toBeGreaterThanOrEqual(DAY2[0]);
    expect(p.endS).toBeLessThanOrEqual(DAY2[1]);
    expect(p.lowerBoundS).toBeLessThanOrEqual(p.endS);
  });
  it('the fan is used only where it frees the hands sooner, or gets all packed on the first day', () => {
    const two = {
      designs: [
        { file: 'lighthouse.svg', count: 8 },
        { file: 'mackerel.svg', count: 8 },
      ],
      trays: ['A', 'B'].map((id) => ({ id, places: 8 })),
    };
    const withFan = plan({ ...two, fan: { places: 1, airMPerS: 1 } }, 300);
    const without = plan(two, 300);
    const free = (x: Plan) => Math.max(...x.tasks.filter((t) => t.startS < DAY1[1]).map((t) => t.endS));
    expect(withFan.stays.length).toBeGreaterThan(0);
    expect(without.stays).toEqual([]);
    if (withFan.endS > DAY1[1]) expect(free(withFan)).toBeLessThan(free(without));
    expect(brokenRules(withFan)).toEqual([]);
  });
  it('every task but the first says what it waited for', () => {
    for (const t of p.tasks.slice(1)) expect(t.because.kind).not.toBe('first');
    expect(p.tasks.some((t) => t.because.kind === 'drying')).toBe(true);
  });
  it('is the same plan again for the same order', () => {
    expect(plan({ fan: { places: 1, airMPerS: 1 } }, 300)).toEqual(p);
  });
});

describe('what cannot be done is said with its reason', () => {
  it.each([
    ['trays-full', { trays: [{ id: 'A', places: 8 }] }, /24 cookies do not fit on one tray with 8 places/],
    ['never-dries', { air: { tempC: 22, humidityPct: 88 } }, /At 88 % humidity .* it works at \d+ % or below/],
  ])('%s', (code, more, text) => {
    let caught: unknown;
    try {
      plan(more, 20);
    } catch (e) {
      caught = e;
    }
    expect(caught).toMatchObject({ name: 'NoAnswer', code });
    expect((caught as Error).message).toMatch(text);
  });
  it.each([
    [{ openingHours: [DAY1], packBy: DAY1[1] }, /^The best plan found ends \d+ h \d+ min after the time it must be packed by\./],
    [{ packBy: DAY2[0] + 60 }, /after the time it must be packed by/],
    [{ openingHours: [DAY1], packBy: null }, /after the bench closes for the last time/],
  ])('what cannot be packed in time gets the best late plan, which says by how much: %#', (more, text) => {
    const late = plan(more, 20);
    expect(late.late?.byS).toBeGreaterThan(0);
    expect(lateText(late)).toMatch(text);
    expect(brokenRules(late)).toEqual([]);
  });
  it('that it does not fit is said only where nothing could: on half the hours a day of drying asks for', () => {
    expect(plan({ openingHours: [[0, 3600]], packBy: 3600 }, 20).late).toMatchObject({ proven: true });
    expect(plan({}, 20).late).toBeNull();
  });
  it('wet work too long for its window names the window and the cures', () => {
    const order = orderOf({ designs: [{ file: 'busy.svg', count: 2 }] });
    const marks = [...Array(9).keys()]
      .map(
        (i) =>
          `<g data-technique="wet-line" fill="none" stroke="#${i}0${i}0${i}0" stroke-width="1">${[...Array(8).keys()].map((j) => `<path d="M5 ${5 + i * 8 + j}H75"/>`).join('')}</g>`,
      )
      .join('');
    const busy = readDesign(
      `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><rect width="80" height="80" fill="#fff"/>${marks}</svg>`,
      'Busy tile',
    );
    expect(() => planOrder({ order, designs: [busy], passes: 10 })).toThrow(
      /Busy tile: 9 passes of wet work take \d+:\d\d on one cookie and the window is \d:\d\d: .*drop a colour/,
    );
  });
});
