import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import type { Design } from '../design/design.js';
import type { DesignDocument } from '../design/document/document.js';
import { foldDesign } from '../design/document/fold.js';
import { readDesign } from '../design/read-design.js';
import { type OrderFile, parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import type { Shape } from '../geometry/shape.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { chanceOf } from './chance.js';
import { criticalChain, slacks } from './critical.js';
import { suggestFewerRounds } from './design-suggestions.js';
import { latestSafeStart } from './latest-start.js';
import { orderCost, packing, suggestedSpares } from './order-cost.js';
import { planOrder } from './plan-order.js';
import { fitsSomehow, suggestFit } from './suggest-fit.js';
import { placesOn } from './tray-packing.js';

const FILES = ['lighthouse', 'mackerel', 'sailboat', 'signal-flag', 'life-ring', 'sea-glass', 'gull', 'compass-badge'];
const designs = FILES.map((f) => readDesign(readFileSync(new URL(`../../../server/demo/${f}.svg`, import.meta.url), 'utf8'), f));
/** The harbour regatta: six dozen in eight designs on seven trays, day 1 14:00–22:00, day 2 07:00–19:00. */
const regatta = parseOrder({
  format: 'kestfog-order/3',
  designs: FILES.map((file) => ({ file, count: 9 })),
  trays: [...'ABCDEFG'].map((id) => ({ id, widthMm: 420, depthMm: 300 })),
  openingHours: [
    ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
    ['2026-06-06T07:00:00Z', '2026-06-06T19:00:00Z'],
  ],
  fan: { places: 1, airMPerS: 1 },
  dehydrator: { places: 2, tempC: 35 },
  packBy: '2026-06-06T19:00:00Z',
});
const small = (more: Partial<OrderFile> = {}): OrderFile => ({
  ...regatta,
  designs: regatta.designs.slice(0, 2).map((d) => ({ ...d, count: 8 })),
  fan: null,
  dehydrator: null,
  ...more,
});
const pair = designs.slice(0, 2);

const square = (mm: number): Shape => [
  [
    { x: 0, y: 0 },
    { x: mm, y: 0 },
    { x: mm, y: mm },
    { x: 0, y: mm },
  ],
];
const circle = (mm: number): Shape => [
  [...Array(180).keys()].map((k) => ({ x: (mm / 2) * Math.cos((k * Math.PI) / 90), y: (mm / 2) * Math.sin((k * Math.PI) / 90) })),
];

describe('cookies on a tray', () => {
  it('squares lie in straight rows, with a gap between and none at the rim', () => {
    expect(placesOn(square(50), 400, 300, 10)).toBe(6 * 5);
    expect(placesOn(square(50), 50, 50, 10)).toBe(1);
    expect(placesOn(square(51), 50, 400, 0)).toBe(0);
  });
  it('discs lie staggered where that holds more: rows √3/2 of a diameter apart (plane geometry)', () => {
    const rows = 1 + Math.floor((600 - 60) / ((60 * Math.sqrt(3)) / 2));
    const staggered = Math.ceil(rows / 2) * 5 + Math.floor(rows / 2) * 4;
    expect(rows).toBe(11);
    // On 300 × 600 straight rows hold 50 and staggered ones as many; a little wider, every second row gains one.
    expect(placesOn(circle(60), 300, 600, 0)).toBe(Math.max(50, staggered));
    expect(placesOn(circle(60), 331, 600, 0)).toBe(11 * 5);
  });
  it('never fewer than the straight rows of its frame, never more than its area allows', () => {
    for (const d of designs) {
      const n = placesOn(d.cookie, 420, 300, 10);
      expect(n).toBeGreaterThan(0);
      expect(placesOn(d.cookie, 420, 300, 0)).toBeGreaterThanOrEqual(n);
      expect(placesOn(d.cookie, 840, 300, 10)).toBeGreaterThanOrEqual(2 * n);
    }
  });
});

describe('the harbour regatta', () => {
  const plan = planOrder({ order: regatta, designs, passes: 200 });
  it('fits, on seven trays sized in millimetres, and keeps every rule', () => {
    expect(brokenRules(plan)).toEqual([]);
    expect(plan.endS).toBeLessThanOrEqual(plan.packBy as number);
    expect(plan.trays.flatMap((t) => t.lots).reduce((s, l) => s + l.cookies, 0)).toBe(72);
  });
  it('the way the trays are filled is the one that ended best of those tried', () => {
    expect(plan.arrangement.tried.map((t) => t.way)).toEqual(['as-listed', 'laborious-first', 'mixed']);
    const ends = plan.arrangement.tried.flatMap((t) => (t.endS === null ? [] : [t.endS]));
    expect(plan.arrangement.tried.find((t) => t.way === plan.arrangement.way)?.endS).toBe(Math.min(...ends));
  });
  it('the latest safe start is on the quarter hour and holds: planned anew from then on, all is packed in time', () => {
    const input = { order: regatta, designs };
    const latest = latestSafeStart(input, plan);
    expect(latest).not.toBeNull();
    expect((latest as number) % 900).toBe(0);
    const from = (startS: number): OrderFile => ({
      ...regatta,
      openingHours: regatta.openingHours
        .map(([a, b]): readonly [number, number] => [Math.max(a, Math.min(startS, b - 60)), b])
        .filter(([, b]) => b > startS),
    });
    const again = planOrder({ order: from(latest as number), designs, passes: 200 });
    expect(again.endS).toBeLessThanOrEqual(regatta.packBy as number);
    expect(Math.min(...again.tasks.map((t) => t.startS))).toBeGreaterThanOrEqual(latest as number);
  });
  it('the chain that sets the end is unbroken, and nothing on it has anything to spare in between', () => {
    const chain = criticalChain(plan);
    const tasks = chain.map((id) => plan.tasks.find((t) => t.id === id) as Plan['tasks'][number]);
    expect(tasks.at(-1)?.endS).toBe(plan.endS);
    for (const [i, t] of tasks.entries()) if (i > 0) expect(t.startS).toBeGreaterThanOrEqual((tasks[i - 1] as typeof t).startS);
    expect(tasks[0]?.because.kind).toBe('first');
    const slack = slacks(plan);
    for (const t of plan.tasks) expect(slack.get(t.id)).toBeGreaterThanOrEqual(0);
  });
  it('a task begun as late as its slack allows makes nothing late: tried by shifting each with all that hangs on it', () => {
    const slack = slacks(plan);
    // Moved by its slack, a task pushes what waits for it and what its hands do next; nobody may end up late or past closing.
    for (const moved of plan.tasks) {
      const start = new Map(plan.tasks.map((t) => [t.id, t.startS]));
      start.set(moved.id, moved.startS + (slack.get(moved.id) as number));
      for (let pass = 0, changed = true; changed && pass < 200; pass++) {
        changed = false;
        const raise = (id: string, to: number) => {
          if (to <= (start.get(id) as number)) return;
          start.set(id, to);
          changed = true;
        };
        for (const w of plan.waits) raise(w.to, (start.get(w.from) as number) + w.minS);
        const inOrder = [...plan.tasks].sort((a, b) => a.startS - b.startS || a.endS - b.endS);
        for (const [i, t] of inOrder.entries()) {
          const before = inOrder[i - 1];
          if (before) raise(t.id, (start.get(before.id) as number) + before.endS - before.startS);
        }
      }
      const late = plan.tasks.filter((t) => t.kind === 'pack' && (start.get(t.id) as number) + t.endS - t.startS > (plan.packBy as number));
      expect(late, moved.id).toEqual([]);
    }
  });
  it('its chance: likely packed on time, the same for the same seed, windows weakest first', () => {
    const chance = chanceOf(plan, { draws: 120, seed: 3 });
    expect(chanceOf(plan, { draws: 120, seed: 3 })).toEqual(chance);
    expect(chance.onTime).toBeGreaterThan(0.9);
    expect(chance.windows.map((w) => w.missed)).toEqual(chance.windows.map((w) => w.missed).sort((a, b) => b - a));
    expect(chance.weakest.length).toBeLessThanOrEqual(3);
  });
});

describe('chance of success', () => {
  const plan = planOrder({ order: small(), designs: pair, passes: 100 });
  const due = (packBy: number): Plan => ({ ...plan, packBy });
  it('is surer with more time, and half of the evenings end after their middle', () => {
    const at = [-3600, 0, 3600, 4 * 3600].map((more) => chanceOf(due(plan.endS + more), { draws: 200 }).onTime as number);
    expect(at).toEqual([...at].sort((a, b) => a - b));
    expect(at[0]).toBeLessThan(0.2);
    expect(at[3]).toBeGreaterThan(0.9);
    expect(chanceOf(due(plan.endS - 3600), { draws: 200 }).late80S).toBeGreaterThan(1800);
  });
  it('where nothing is due nothing can be on time: it says so rather than 100 %', () => {
    const never = chanceOf({ ...plan, packBy: null }, { draws: 60 });
    expect(plan.designs.every((d) => d.packBy === null)).toBe(true);
    expect(never.onTime).toBeNull();
    expect(never.late80S).toBe(0);
    expect(never.weakest.some((w) => /packed on time/.test(w.cure))).toBe(false);
    // A single design that is due is enough.
    expect(
      chanceOf({ ...plan, packBy: null, designs: plan.designs.map((d) => ({ ...d, packBy: plan.endS + 4 * 3600 })) }, { draws: 60 }).onTime,
    ).toBeGreaterThan(0.9);
  });
  it('a careful plan misses its windows less often than a bold one; names what to strengthen', () => {
    const missed = (margin: OrderFile['margin']) => {
      const chance = chanceOf(planOrder({ order: small({ margin }), designs: pair, passes: 100 }), { draws: 200 });
      return { worst: chance.windows[0]?.missed ?? 0, chance };
    };
    const [bold, careful] = [missed('bold'), missed('careful')];
    expect(bold.worst).toBeGreaterThan(careful.worst);
    expect(bold.chance.weakest[0]?.cure).toMatch(/careful/);
  });
  it('without any spread the plan runs as planned: nothing is late, no window is missed', () => {
    const sure = Object.fromEntries(Object.keys(plan.factors).map((s) => [s, { mean: 0, sigma: 0 }])) as unknown as Plan['factors'];
    const hourLater = chanceOf({ ...plan, factors: sure, packBy: plan.endS + 3600 }, { draws: 60 });
    expect(hourLater.onTime).toBe(1);
    expect(hourLater.windows.every((w) => w.missed < 0.2)).toBe(true);
  });
});

describe('an order that does not fit', () => {
  const inOneGo = (hours: number) => small({ openingHours: [[0, hours * 3600]], packBy: null });
  const endS = planOrder({ order: inOneGo(24), designs: pair, passes: 40 }).endS;
  const tight = small({ openingHours: [[0, endS - 1200]], packBy: null });
  it('says how late it would be, and what would make it fit does', () => {
    expect(planOrder({ order: tight, designs: pair, passes: 40 }).late?.byS).toBeGreaterThan(0);
    const found = suggestFit({ order: tight, designs: pair });
    expect(found.length).toBeGreaterThan(0);
    expect(found.map((f) => f.costMin)).toEqual(found.map((f) => f.costMin).sort((a, b) => a - b));
    for (const f of found) {
      expect(
        fitsSomehow({ order: f.order, designs: f.designs ?? pair }, () => false),
        f.text,
      ).toBe(true);
    }
    // The dehydrator does in minutes what hours of waiting do; and twenty minutes more are twenty minutes more.
    expect(found.map((f) => f.kind)).toEqual(expect.arrayContaining(['dehydrator', 'earlier', 'longer']));
    expect(found.find((f) => f.kind === 'earlier')?.costMin).toBeGreaterThanOrEqual(15);
  });
  it('where no single change is enough, two together are offered, and do', () => {
    const hopeless = small({ ...inOneGo(2.2), designs: [{ ...(regatta.designs[1] as OrderFile['designs'][number]), count: 14 }] });
    const found = suggestFit({ order: hopeless, designs: [designs[1] as (typeof designs)[number]] });
    expect(found.length).toBeGreaterThan(0);
    for (const f of found) {
      expect(f.text).toMatch(/, and /);
      expect(
        fitsSomehow({ order: f.order, designs: [designs[1] as (typeof designs)[number]] }, () => false),
        f.text,
      ).toBe(true);
    }
  });
  it('a flush join is offered where it saves the round that is too much, with the design as it would be', () => {
    const fish = FILES.indexOf('mackerel');
    const svg = readFileSync(new URL('../../../server/demo/mackerel.svg', import.meta.url), 'utf8');
    const doc: DesignDocument = { format: 'kestfog-design/3', name: 'Mackerel', svg, edits: [] };
    const air = { tempC: 22, humidityFrac: 0.5, airMPerS: 0.1 };
    const join = suggestFewerRounds(doc, regatta.school, air, 'normal').find((x) => x.kind === 'flush-join');
    const flush = [{ design: foldDesign({ ...doc, edits: join?.edits ?? [] }), text: join?.text ?? '' }];
    const of = (hours: number): OrderFile =>
      small({ ...inOneGo(hours), designs: [{ ...(regatta.designs[fish] as OrderFile['designs'][number]), count: 6 }] });
    const endS = (design: Design) => planOrder({ order: of(24), designs: [design], passes: 40 }).endS;
    const [asDrawn, joined] = [endS(designs[fish] as Design), endS((flush[0] as { design: Design }).design)];
    expect(joined).toBeLessThan(asDrawn - 600);
    const found = suggestFit({ order: of((asDrawn + joined) / 2 / 3600), designs: [designs[fish] as Design], flush });
    expect(found.find((f) => f.kind === 'flush')).toMatchObject({ changedDesign: 0, text: join?.text });
  });
  it('what the user insists on is respected, or named as what stands in the way', () => {
    const pinned = small({ pins: [{ kind: 'not-before', tray: 'A', at: (small().packBy as number) - 1800 }] });
    expect(planOrder({ order: pinned, designs: pair, passes: 40 }).late?.byS).toBeGreaterThan(0);
    const found = suggestFit({ order: pinned, designs: pair });
    expect(found.find((f) => f.kind === 'pin')?.text).toBe('begin tray A when it suits');
  });
  it('more bags than may be open are reported', () => {
    expect(() => planOrder({ order: small({ openBags: 1 }), designs: pair })).toThrow(
      /bags in hand at once and no more than 1 may be open/,
    );
  });
});

describe('hands, cartons and money', () => {
  it('two pairs of hands are never slower, and a slower pair gets less to do', () => {
    const one = planOrder({ order: small(), designs: pair, passes: 60 });
    const two = planOrder({
      order: small({
        decorators: [
          { id: 'first', pace: 1 },
          { id: 'second', pace: 0.5 },
        ],
      }),
      designs: pair,
      passes: 60,
    });
    expect(brokenRules(two)).toEqual([]);
    expect(two.endS).toBeLessThanOrEqual(one.endS);
    expect(new Set(two.tasks.map((t) => t.by)).size).toBe(2);
    const cookies = (who: string) =>
      two.trays
        .filter((t) => two.tasks.some((x) => x.trayId === t.id && x.by === who))
        .flatMap((t) => t.lots)
        .reduce((s, l) => s + l.cookies, 0);
    expect(cookies('second')).toBeLessThanOrEqual(cookies('first'));
  });
  it('cartons and costs by hand', () => {
    const carton = { name: 'flat', widthMm: 206, depthMm: 206, layers: 2 };
    // Squares of 50 mm with 3 mm between: four in a row of 206 + 3 over 53.
    expect(packing(square(50), 40, carton)).toEqual({ perCarton: 18, cartons: 3 });
    expect(packing(square(250), 40, carton)).toEqual({ perCarton: 0, cartons: null });
    const prices = { currency: '€', handsPerHour: 30, icingPerKg: 4, cookieEach: 0.5, cartonEach: 1.2 };
    const cost = orderCost({ handsOnS: 5400, icingG: 750, made: 40, sold: 36, cartons: 3 }, prices);
    expect(cost).toMatchObject({ hands: 45, icing: 3, cookies: 20, cartons: 3.5999999999999996 });
    expect(cost.each).toBeCloseTo(71.6 / 36, 9);
  });
  it('spares: one a dozen, two where it breaks easily, 15 % of loose transfers (common practice, no published source)', () => {
    const graphs = designs.map((d) => deriveSteps(d, schoolById('two-bags')));
    expect(suggestedSpares(graphs[0] as never, 12)).toBe(1);
    expect(suggestedSpares(graphs[1] as never, 12)).toBe(2);
    expect(suggestedSpares(graphs[1] as never, 30)).toBe(5);
    expect(suggestedSpares(graphs[0] as never, 40, true)).toBe(6);
  });
});
