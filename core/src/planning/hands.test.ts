import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { REFERENCE_AIR } from '../drying/air.js';
import { lossThrough } from '../drying/front.js';
import { stateThresholds } from '../drying/state.js';
import { parseOrder } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { deriveSteps } from '../steps/derive.js';
import { type SchoolId, schoolById, schoolIds } from '../steps/school.js';
import { bagKey } from '../steps/step.js';
import { techniques } from '../steps/techniques/index.js';
import { BadInput, NoAnswer } from '../units/bad-input.js';
import { bagFitness } from './bag-fitness.js';
import { coursesOf } from './course.js';
import { suggestFewerRounds } from './design-suggestions.js';
import { pairingOf } from './pairing.js';
import { planOrder } from './plan-order.js';
import { plannedChecks } from './planned-checks.js';

const svg = (inner: string, more = '') =>
  readDesign(
    `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90"><rect data-part="cookie" width="90" height="90"/>${inner}</svg>`,
    `made${more}`,
  );
const card = (name: string) => readDesign(readFileSync(new URL(`../../test/fixtures/cards/${name}.svg`, import.meta.url), 'utf8'), name);
const demo = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'), file);
/** Six small panes that share one round. */
const PANES = [...Array(6).keys()]
  .map((i) => `<rect id="pane${i}" x="${6 + (i % 3) * 28}" y="${10 + Math.floor(i / 3) * 40}" width="9" height="9" fill="#f6f3ea"/>`)
  .join('');
const planned = (designs: readonly ReturnType<typeof svg>[], more: object = {}) =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: designs.map((_, i) => ({ file: `d${i}.svg`, count: 3 })),
      trays: designs.map((_, i) => ({ id: 'ABC'[i], places: 4 })),
      openingHours: [
        [0, 36_000],
        [64_800, 108_000],
      ],
      ...more,
    }),
    designs,
    passes: 30,
  });
const task = (p: Plan, has: (t: Plan['tasks'][number]) => boolean) => p.tasks.find(has) as Plan['tasks'][number];

describe('small pools are quick-set', () => {
  const dehydrator = planned([svg(PANES)], { school: 'warm-box', dehydrator: { places: 1 } });
  it('four at a time, each few sent to the dehydrator for its minutes before the next', () => {
    expect(brokenRules(dehydrator)).toEqual([]);
    expect(dehydrator.stays.map((s) => [s.where, s.why, s.round, s.batch])).toEqual([
      ['dehydrator', 'pools', 1, 1],
      ['dehydrator', 'pools', 1, 2],
    ]);
    // Three minutes; the last may stay longer where that is worth it, rather than be carried twice.
    expect(dehydrator.stays[0]?.forS).toBe(180);
    expect(dehydrator.stays[1]?.forS).toBeGreaterThanOrEqual(180);
    const wet = dehydrator.tasks.filter((t) => t.kind === 'wet');
    expect(new Set(wet.map((t) => t.batch))).toEqual(new Set([1, 2]));
    // Each batch is on its way within minutes of its last flood.
    for (const s of dehydrator.stays) {
      const laid = Math.max(...wet.filter((t) => t.batch === s.batch).map((t) => t.endS));
      expect(s.startS - laid).toBeGreaterThanOrEqual(0);
      expect(s.startS - laid).toBeLessThan(600);
    }
    const out = task(dehydrator, (t) => t.id === 'A.dehydrator.r1b1.out');
    for (const t of wet.filter((x) => x.batch === 2)) expect(t.startS).toBeGreaterThanOrEqual(out.endS);
    expect(dehydrator.waits.some((w) => w.facts.kind === 'stay' && w.facts.why === 'pools')).toBe(true);
  });
  it('before the fan, for longer, where there is no dehydrator; not at all where there is neither, and then the risk is shown', () => {
    const fan = planned([svg(PANES)], { school: 'warm-box', fan: { places: 1 } });
    expect(fan.stays.map((s) => [s.where, s.why, s.forS >= 600])).toEqual([
      ['fan', 'pools', true],
      ['fan', 'pools', true],
    ]);
    expect(fan.stays[0]?.forS).toBe(600);
    expect(planned([svg(PANES)], { school: 'warm-box' }).stays).toEqual([]);
  });
  it('what the check reckons with is what the plan gives: skinned in the dehydrator, long before the bench would have', () => {
    const [d] = dehydrator.designs;
    const [course] = coursesOf(dehydrator, 'd0');
    const flood = d?.graph.steps.find((s) => s.id === 'flood.pane0');
    if (!course || !flood?.region) throw new Error('no course');
    const skinned = stateThresholds(flood.region).skinned;
    const firstTenMin = course.airsAfter(flood).reduce<{ left: number; pieces: { air: typeof REFERENCE_AIR; seconds: number }[] }>(
      (sum, p) => {
        const seconds = Math.min(sum.left, p.seconds);
        return { left: sum.left - seconds, pieces: seconds > 0 ? [...sum.pieces, { air: p.air, seconds }] : sum.pieces };
      },
      { left: 600, pieces: [] },
    );
    expect(lossThrough(firstTenMin.pieces)).toBeGreaterThan(skinned);
    expect(lossThrough(firstTenMin.pieces)).toBeGreaterThan(2 * lossThrough([{ air: REFERENCE_AIR, seconds: 600 }]) * 0.8);
  });
  it('large floods of the same round are not sent away for them twice', () => {
    const mixed = planned([svg(`${PANES}<rect id="field" x="10" y="60" width="60" height="26" fill="#b3261e"/>`)], {
      school: 'warm-box',
      dehydrator: { places: 1 },
    });
    expect(brokenRules(mixed)).toEqual([]);
    expect(new Set(mixed.stays.map((s) => `${s.round} ${s.batch}`)).size).toBe(mixed.stays.length);
  });
});

describe('a stay that was asked for', () => {
  const two = '<rect id="a" x="5" y="5" width="40" height="80" fill="#fff"/><rect id="b" x="45" y="5" width="40" height="80" fill="#eee"/>';
  it('is planned whatever it saves, and says so', () => {
    const p = planned([svg(two)], {
      dehydrator: { places: 1 },
      pins: [{ kind: 'stay', tray: 'A', round: 1, where: 'dehydrator', minutes: 3 }],
    });
    const [asked] = p.stays.filter((s) => s.why === 'asked');
    expect(asked).toMatchObject({ where: 'dehydrator', round: 1, forS: 180 });
    const laid = Math.max(...p.tasks.filter((t) => t.kind === 'wet' && t.round === 1).map((t) => t.endS));
    expect((asked?.startS ?? 0) - laid).toBeLessThan(600);
    expect(brokenRules(p)).toEqual([]);
    expect(p.waits.some((w) => w.facts.kind === 'stay' && w.facts.why === 'asked')).toBe(true);
  });
  it('is refused where there is no such place, no such round, or a crust is waited for', () => {
    const pin = (more: object) => ({ pins: [{ kind: 'stay', tray: 'A', round: 1, where: 'dehydrator', minutes: 3, ...more }] });
    expect(() => planned([svg(two)], pin({}))).toThrow('pins[0].where: there is no dehydrator in this order.');
    expect(() => planned([svg(two)], { dehydrator: { places: 1 }, ...pin({ round: 7 }) })).toThrow(BadInput);
    expect(() => planned([demo('gull')], { dehydrator: { places: 1 }, ...pin({}) })).toThrow(NoAnswer);
  });
});

describe('a crust that waits to crackle', () => {
  // Looked at by rounds, small pools of the other design went to dry right between the crust and its crackling.
  it('is not carried away for small pools of another design on the same tray, whatever their rounds', () => {
    const p = planned([demo('sailboat'), demo('gull')], {
      designs: [6, 5].map((count, i) => ({ file: `d${i}.svg`, count })),
      trays: ['A', 'B', 'C'].map((id) => ({ id, places: 6 })),
      school: 'warm-box',
      margin: 'bold',
      air: { tempC: 21, humidityPct: 33, airMPerS: 0.1 },
      openingHours: [0, 1, 2].map((d) => [d * 86_400, d * 86_400 + 6 * 3600]),
      dehydrator: { places: 2 },
    });
    expect(p.stays.some((s) => s.why === 'pools')).toBe(true);
    expect(brokenRules(p)).toEqual([]);
  });
});

describe('pieces made beforehand', () => {
  const badge = svg(
    '<rect id="field" x="5" y="5" width="80" height="80" fill="#f6f3ea"/><circle id="buoy" data-technique="glued-transfer" cx="40" cy="40" r="8" fill="#b3261e"/>',
  );
  const buoy = readDesign(
    '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm" viewBox="0 0 30 30" data-transfer="true"><circle id="ball" cx="15" cy="15" r="8" fill="#b3261e"/></svg>',
    'buoy',
  );
  it('are not put on before they can be lifted, wherever they are made', () => {
    const at = 30_000;
    const early = planned([badge]);
    const glue = (p: Plan) => task(p, (t) => t.motions.some((m) => m.technique === 'glued-transfer'));
    expect(glue(early).startS).toBeLessThan(at);
    const later = planned([badge], { piecesFrom: at });
    expect(glue(later).startS).toBeGreaterThanOrEqual(at);
    if (glue(later).startS === at) expect(glue(later).because).toEqual({ kind: 'pieces' });
  });
  it('made on the same bench they are lifted first, and it is said', () => {
    const order = parseOrder({
      format: 'kestfog-order/3',
      designs: [
        { file: 'badge.svg', count: 3 },
        { file: 'buoy.svg', count: 3, spares: 1, pieces: true, for: 'buoys' },
      ],
      trays: [
        { id: 'A', places: 4 },
        { id: 'B', places: 6 },
      ],
      openingHours: [
        [0, 36_000],
        [64_800, 108_000],
      ],
    });
    const p = planOrder({ order, designs: [badge, { ...buoy, transfer: true }], passes: 30 });
    const lifts = p.tasks.filter((t) => t.kind === 'pack' && t.lotId?.includes('buoy'));
    const glue = p.tasks.filter((t) => t.motions.some((m) => m.technique === 'glued-transfer'));
    expect(lifts.length).toBeGreaterThan(0);
    for (const g of glue) for (const l of lifts) expect(g.startS).toBeGreaterThanOrEqual(l.endS);
    expect(p.waits.some((w) => w.rule === 'pieces-first')).toBe(true);
  });
});

describe('one bag snipped small, then widened', () => {
  const two = '<rect id="a" x="5" y="5" width="40" height="80" fill="#ffffff"/>';
  it('outlines that set are followed by one widening for each tray and bag', () => {
    const p = planned([svg(two)], { school: 'kit' });
    const widening = p.tasks.flatMap((t) => t.motions.filter((m) => m.technique === 'widen-snip').map(() => t));
    expect(widening).toHaveLength(1);
    expect(widening[0]?.kind).toBe('wet');
    expect(widening[0]?.title).toMatch(/^widen the snip to 2.5 mm, then flood a/);
    expect(brokenRules(p)).toEqual([]);
  });
  it('outlines that melt in: the whole lot is outlined, then filled, where its dams bear the wait; else cookie by cookie through one snip', () => {
    const large = planned([svg(two)], { school: 'one-bag' }).tasks.find((t) => t.kind === 'wet') as Plan['tasks'][number];
    expect(large.motions.some((m) => m.technique === 'widen-snip')).toBe(false);
    const p = planned([svg('<rect id="a" x="5" y="5" width="16" height="16" fill="#ffffff"/>')], { school: 'one-bag' });
    const wet = p.tasks.filter((t) => t.kind === 'wet');
    for (const t of wet) {
      const snip = t.motions.find((m) => m.technique === 'widen-snip');
      if (!snip) continue;
      const of = (kind: string) => t.motions.filter((m) => m.kind === kind);
      expect(Math.max(...of('dam').flatMap((m) => m.endS))).toBeLessThanOrEqual(snip.startS[0] as number);
      expect(Math.min(...of('flood').flatMap((m) => m.startS))).toBeGreaterThanOrEqual(snip.endS[0] as number);
    }
    expect(wet.some((t) => t.motions.some((m) => m.technique === 'widen-snip'))).toBe(true);
    expect(brokenRules(p)).toEqual([]);
  });
  it('two bags are never widened', () => {
    expect(
      planned([svg(two)])
        .tasks.flatMap((t) => t.motions)
        .some((m) => m.technique === 'widen-snip'),
    ).toBe(false);
  });
});

describe('what the school asks for is never wrong', () => {
  const designs = [
    ...['lighthouse', 'mackerel', 'gull', 'compass-badge', 'harbour-plaque', 'life-ring', 'buoy-transfer'].map(demo),
    card('picnic-blanket'),
  ];
  it.each(schoolIds)('%s: every bag, counted as it was asked for, is fine for every job', (id: SchoolId) => {
    const making = { school: schoolById(id), air: REFERENCE_AIR, margin: 'normal' as const };
    const bags = new Map(
      designs.flatMap((d) => deriveSteps(d, making.school).steps.flatMap((s) => (s.bag ? [[bagKey(s.bag), s.bag] as const] : []))),
    );
    const used = new Set(
      designs.flatMap((d) =>
        deriveSteps(d, making.school)
          .steps.filter((s) => s.bag)
          .map((s) => s.technique),
      ),
    );
    expect(used.size).toBeGreaterThan(6);
    for (const bag of bags.values())
      expect(
        bagFitness(bag, bag.seconds, designs, making).filter((j) => j.verdict !== 'fine' && j.verdict !== 'lumps'),
        bagKey(bag),
      ).toEqual([]);
  });
  it('sharp wet marks, glue and relief are judged by what was asked of them', () => {
    const making = { school: { ...schoolById('two-bags'), glue: 'icing' as const }, air: REFERENCE_AIR, margin: 'normal' as const };
    const field = '<rect id="field" x="5" y="5" width="80" height="80" fill="#f6f3ea"/>';
    const of = (inner: string, seconds: number, countedS: number) =>
      bagFitness({ colour: '#123456', seconds }, countedS, [svg(field + inner)], making)[0];
    const mark = '<path data-technique="wet-line" data-seconds="30" stroke="#123456" stroke-width="1" fill="none" d="M10 20H60"/>';
    expect(of(mark, 30, 30)).toMatchObject({ job: 'marks', verdict: 'fine' });
    expect(of(mark, 30, 15)).toMatchObject({ job: 'marks', verdict: 'too-loose', betterS: 30 });
    const relief = '<path data-technique="relief" data-seconds="25" stroke="#123456" stroke-width="2" fill="none" d="M10 20H60"/>';
    expect(of(relief, 25, 26)).toMatchObject({ job: 'lines', verdict: 'fine' });
    expect(of(relief, 25, 18)).toMatchObject({ job: 'lines', verdict: 'too-loose' });
    const glued = '<circle data-technique="glued-transfer" cx="40" cy="40" r="6" fill="#123456"/>';
    expect(of(glued, 30, 30)).toMatchObject({ job: 'glue', verdict: 'fine' });
    expect(of(glued, 30, 12)).toMatchObject({ job: 'glue', verdict: 'too-loose' });
    const dragged = `${mark.replace('30', '15')}<path data-technique="drag" d="M30 10V40" stroke="#000" fill="none"/>`;
    expect(of(dragged, 15, 22)).toMatchObject({ job: 'marks', verdict: 'lumps' });
  });
  it('every technique with icing has a job that is judged', () => {
    expect(techniques.filter((t) => t.icing !== null && !['flood', 'dam', 'mark', 'detail'].includes(t.kind)).map((t) => t.id)).toEqual([]);
  });
});

describe('what is shown of a plan', () => {
  it('a crater in a school that does not quick-set comes with the one touch that adds the stay, and is gone with it', () => {
    const design = svg(PANES.replaceAll('fill="#f6f3ea"', 'fill="#f6f3ea" data-seconds="12"'));
    const before = planned([design], { dehydrator: { places: 1 } });
    const crater = plannedChecks(before).find((c) => c.kind === 'crater');
    const told = crater?.stays[0];
    if (before.stays.length === 0) expect(told).toMatchObject({ kind: 'stay', tray: 'A', round: 1, where: 'dehydrator', minutes: 3 });
    const after = planned([design], {
      dehydrator: { places: 1 },
      pins: [{ kind: 'stay', tray: 'A', round: 1, where: 'dehydrator', minutes: 3 }],
    });
    const risk = (p: Plan) =>
      Math.max(
        0,
        ...plannedChecks(p)
          .filter((c) => c.kind === 'crater')
          .map((c) => c.risk),
      );
    expect(risk(after)).toBeLessThan(risk({ ...after, stays: [] }));
    expect(plannedChecks(after).flatMap((c) => c.stays)).toEqual([]);
  });
  it('no stay is offered where there is nowhere to go', () => {
    expect(plannedChecks(planned([svg(PANES)])).flatMap((c) => c.stays)).toEqual([]);
  });
});

describe('suggestions', () => {
  const worked = (name: string) => ({ id: name, name, graph: deriveSteps(demo(name), schoolById('two-bags')) });
  it('a laborious design is paired with a plain one: of the order, else of what there is', () => {
    const [gull, tile, boat] = [worked('gull'), worked('sea-glass'), worked('sailboat')];
    expect(gull.graph.rounds).toBeGreaterThanOrEqual(3);
    expect(pairingOf([gull, tile], [boat])).toMatchObject({ laborious: { name: 'gull' }, plain: { name: 'sea-glass' }, ordered: true });
    expect(pairingOf([gull], [boat, tile])).toMatchObject({ plain: { name: 'sea-glass' }, ordered: false });
    expect(pairingOf([tile], [gull])).toBeNull();
    expect(pairingOf([gull], [boat])).toBeNull();
  });
  it('planks of one colour: one flood, and the lines piped over it', () => {
    const planks = [...Array(4).keys()]
      .map((i) => `<rect id="plank${i}" x="5" y="${5 + i * 18}" width="70" height="18" fill="#d8c9a6"/>`)
      .join('');
    const text = `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90">${planks}</svg>`;
    const found = suggestFewerRounds(
      { format: 'kestfog-design/3', name: 'jetty', svg: text, edits: [] },
      schoolById('two-bags'),
      REFERENCE_AIR,
      'normal',
    );
    const one = found.find((s) => s.kind === 'lines-over-one-flood');
    expect(one?.savesRounds).toBe(1);
    expect(one?.edits.filter((e) => e.type === 'detail')).toHaveLength(3);
    // No single join saves a round here: all of them together do.
    expect(found.filter((s) => s.kind === 'dividing-line')).toEqual([]);
  });
});
