import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenRules } from '../cli/check-plan.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import { schoolById, schoolIds } from '../steps/school.js';
import { seededRng } from '../time/rng.js';
import { cannotBeInTime } from './least-time.js';
import { planOrder } from './plan-order.js';
import { preparePlanning } from './planning.js';

const SEED = 7001;
const ORDERS = Number(process.env['ORDERS'] ?? 20);
/** One in a hundred: a search may end a little later by chance. */
const ALLOWED = 1.01;
const HOUR = 3600;
const DAY = 24 * HOUR;

const files = ['gull', 'life-ring', 'lighthouse', 'mackerel', 'sailboat', 'signal-flag', 'compass-badge', 'sea-glass'] as const;
const svg = (file: string) => readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8');
const mirror = (text: string) => text.replace(/(<svg[^>]*>)([\s\S]*)(<\/svg>)/, '$1<g transform="translate(90 0) scale(-1 1)">$2</g>$3');

const turned = (text: string) => text.replace(/(<svg[^>]*>)([\s\S]*)(<\/svg>)/, '$1<g transform="translate(90 0) rotate(90)">$2</g>$3');

const rng = seededRng(SEED);
const pick = <T>(list: readonly T[]): T => list[Math.floor(rng() * list.length)] as T;
const orders = [...Array(ORDERS).keys()].map(() => {
  const designs = [...new Set([pick(files), pick(files)])].map((file) => ({ file, count: 2 + Math.floor(rng() * 5) }));
  const made = designs.reduce((s, d) => s + d.count, 0);
  return {
    format: 'kestfog-order/3',
    designs,
    trays: [...'ABCD'].slice(0, Math.ceil(made / 4)).map((id) => ({ id, places: 4 })),
    openingHours: [
      [0, (5 + Math.floor(rng() * 6)) * HOUR],
      [DAY, DAY + 12 * HOUR],
      [2 * DAY, 2 * DAY + 12 * HOUR],
    ],
    school: pick(schoolIds),
  };
});
type Order = (typeof orders)[number];
const plan = (o: object, designs: readonly { readonly file: string }[], of = svg) =>
  planOrder({ order: parseOrder(o), designs: designs.map((d) => readDesign(of(d.file), d.file)), passes: 40 });

describe(`random orders (seed ${SEED}): more to work with is never worse, and names and sides do not matter`, () => {
  const base = orders.map((o) => plan(o, o.designs));
  const later = (
    variant: (
      o: Order,
    ) => { readonly order: object; readonly designs?: readonly { readonly file: string }[]; readonly of?: typeof svg } | null,
  ) =>
    orders.flatMap((o, i) => {
      const v = variant(o);
      if (!v) return [];
      const was = base[i]?.endS as number;
      const is = plan(v.order, v.designs ?? o.designs, v.of).endS;
      return is > ALLOWED * was ? [`order ${i}: ${was} s, then ${is} s`] : [];
    });
  it('every one keeps the rules of the trade on every cookie', () => {
    for (const p of base) expect(brokenRules(p)).toEqual([]);
  });
  it('that none can be in time is never said of what was packed just then', () => {
    const proven = base.map((p, i) => {
      const designs = (orders[i] as Order).designs.map((d) => readDesign(svg(d.file), d.file));
      const due = (packBy: number) => cannotBeInTime(preparePlanning({ order: parseOrder({ ...orders[i], packBy }), designs }));
      // And it is said of a quarter of the time, on most.
      return [due(Math.ceil(p.endS)), due(Math.floor(p.endS / 4))];
    });
    expect(proven.filter(([just]) => just)).toEqual([]);
    expect(proven.filter(([, early]) => early).length).toBeGreaterThan(ORDERS / 2);
  });
  // A school that quick-sets uses what there is against craters, whatever time that costs.
  it.each([
    ['a dehydrator', { dehydrator: { places: 2 } }],
    ['a fan', { fan: { places: 1 } }],
    ['both', { dehydrator: { places: 1 }, fan: { places: 1 } }],
  ])(
    'with %s',
    (_what, more) => expect(later((o) => (schoolById(o.school).quickSets ? null : { order: { ...o, ...more } }))).toEqual([]),
    240_000,
  );
  it('with an hour more each day', () =>
    expect(later((o) => ({ order: { ...o, openingHours: o.openingHours.map(([from, to]) => [from, (to as number) + HOUR]) } }))).toEqual(
      [],
    ));
  it('with a second pair of hands', () =>
    expect(later((o) => ({ order: { ...o, decorators: [{ id: 'Ada' }, { id: 'Bo' }] } }))).toEqual([]));
  it('with bags more that may lie open', () => {
    const worse = orders.flatMap((o, i) => {
      const p = base[i] as (typeof base)[number];
      const inHand = Math.max(...p.tasks.map((t) => t.bags.length));
      const ends = [inHand, inHand + 2].map((openBags) => plan({ ...o, openBags }, o.designs).endS).concat(p.endS);
      return ends.some((endS, k) => endS > ALLOWED * (ends[k - 1] ?? endS)) ? [`order ${i}: ${ends}`] : [];
    });
    expect(worse).toEqual([]);
  });
  it('with a tray more', () => expect(later((o) => ({ order: { ...o, trays: [...o.trays, { id: 'X', places: 4 }] } }))).toEqual([]));
  it('with a design split in two', () =>
    expect(
      later((o) => {
        const [first, ...rest] = o.designs as [Order['designs'][number], ...Order['designs']];
        const designs = [...rest, { ...first, count: 1 }, { ...first, count: first.count - 1 }];
        return { order: { ...o, designs }, designs };
      }),
    ).toEqual([]));
  it('with designs and trays in another order, and other names', () =>
    expect(
      later((o) => {
        const designs = [...o.designs].reverse();
        const trays = [...o.trays].reverse().map((t, i) => ({ ...t, id: `tray ${i}` }));
        return { order: { ...o, designs, trays }, designs };
      }),
    ).toEqual([]));
  it('with every drawing turned by a right angle', () => expect(later((o) => ({ order: o, of: (file) => turned(svg(file)) }))).toEqual([]));
  it('with every drawing mirrored', () => expect(later((o) => ({ order: o, of: (file) => mirror(svg(file)) }))).toEqual([]));
});
