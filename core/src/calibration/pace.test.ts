import { describe, expect, it } from 'vitest';
import { PACE_SPREAD } from '../drying/uncertainty.js';
import { parseOrder } from '../formats/order.js';
import { seededRng } from '../time/rng.js';
import { learnPace, type PaceKind, paceKinds, TAKES, type VisitPace } from './pace.js';

const SEED = 77;
const rng = seededRng(SEED);
const gauss = () => Math.sqrt(-2 * Math.log(1 - rng())) * Math.cos(2 * Math.PI * rng());
/** Visits of somebody who takes so many times the assumed seconds, by kind: floods with wet work, outlines, details. */
function evenings(who: string, takes: Partial<Record<PaceKind, number>>, days: number): VisitPace[] {
  return [...Array(days).keys()].flatMap((day) => {
    const evening = PACE_SPREAD.evening * gauss();
    return [...Array(8).keys()].map((i): VisitPace => {
      const assumedS: VisitPace['assumedS'] =
        i % 4 === 0
          ? { dam: 120, handling: 30 }
          : i % 4 === 3
            ? { detail: 200, handling: 30 }
            : { flood: 150, mark: 40 * (i % 3), handling: 36 };
      const slow = Object.entries(assumedS).reduce((s, [k, x]) => s + x * (takes[k as PaceKind] ?? 1), 0);
      return { who, day: `${who} ${day}`, tookS: slow * Math.exp(evening + PACE_SPREAD.visit * gauss()), assumedS };
    });
  });
}

describe(`pace, learned by person and motion (seed ${SEED})`, () => {
  it('nothing seen, nothing learned; one slow evening says less of the hands than six', () => {
    expect(learnPace([]).size).toBe(0);
    const [one] = [...learnPace(evenings('Ada', {}, 1).map((v) => ({ ...v, tookS: v.tookS * 1.2 }))).values()];
    expect(one?.flood.takes).toBeGreaterThan(1.02);
    const many = learnPace(
      [...Array(6).keys()].flatMap((d) => evenings('Bo', {}, 1).map((v) => ({ ...v, day: `${d}`, tookS: v.tookS * 1.2 }))),
    ).get('Bo');
    expect(one?.flood.sigma).toBeGreaterThan(1.3 * (many?.flood.sigma ?? 1));
  });
  it('whatever strange evenings teach, a plan can still be made with it', () => {
    // Outlining tapped through in no time, everything beside it left lying for hours, on a hundred evenings.
    const odd = [...Array(100).keys()].flatMap((d): VisitPace[] => [
      { who: 'Cy', day: `${d}`, tookS: 8, assumedS: { dam: 120 } },
      { who: 'Cy', day: `${d}`, tookS: 4000, assumedS: { flood: 150 } },
    ]);
    const learned = learnPace(odd).get('Cy');
    expect([learned?.dam.takes, learned?.flood.takes]).toEqual([TAKES[0], TAKES[1]]);
    const order = {
      format: 'kestfog-order/3',
      designs: [{ file: 'a', count: 1 }],
      trays: [{ id: 'A', places: 1 }],
      openingHours: [[0, 3600]],
    };
    const takes = Object.fromEntries(Object.entries(learned ?? {}).map(([k, p]) => [k, p.takes]));
    expect(() => parseOrder({ ...order, decorators: [{ id: 'Cy', takes }] })).not.toThrow();
  });
  it('slow at flooding and quick at details is kept apart, for her and not for him', () => {
    const learned = learnPace([...evenings('Ada', { flood: 1.4, detail: 0.8 }, 12), ...evenings('Bo', {}, 12)]);
    const [ada, bo] = ['Ada', 'Bo'].map((who) => learned.get(who));
    expect(ada?.flood.takes).toBeGreaterThan(1.25);
    expect(ada?.flood.takes).toBeLessThan(1.5);
    expect(ada?.detail.takes).toBeGreaterThan(0.72);
    expect(ada?.detail.takes).toBeLessThan(0.92);
    for (const k of ['flood', 'detail', 'dam'] as const) expect(Math.abs(Math.log(bo?.[k].takes ?? 0))).toBeLessThan(0.1);
    expect(ada?.pack).toMatchObject({ visits: 0 });
    expect(ada?.flood.visits).toBe(48);
  });
  it('is as sure as it says: the truth lies in the 80 % interval four times in five', () => {
    let inside = 0;
    let asked = 0;
    for (let person = 0; person < 150; person++) {
      const all = PACE_SPREAD.person * gauss();
      const takes = Object.fromEntries(paceKinds.map((k) => [k, Math.exp(all + PACE_SPREAD.kind * gauss())])) as Record<PaceKind, number>;
      const own = learnPace(evenings('x', takes, 4)).get('x');
      for (const k of ['flood', 'dam', 'detail'] as const) {
        asked += 1;
        if (Math.abs(Math.log((own?.[k].takes ?? 1) / takes[k])) <= 1.2816 * (own?.[k].sigma ?? 0)) inside += 1;
      }
    }
    expect(inside / asked).toBeGreaterThan(0.73);
    expect(inside / asked).toBeLessThan(0.87);
  });
});
