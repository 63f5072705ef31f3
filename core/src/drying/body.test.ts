import { describe, expect, it } from 'vitest';
import { REFERENCE_AIR, withFan } from './air.js';
import { airAt, airsWith, always, lostBetween, momentOfLoss, piecesFrom } from './airs.js';
import { type Asked, type Body, type Look, lostAt, lostBy, readyAfterLook, stateAt } from './body.js';
import { dryingRate, lossAfter, REFERENCE_REGION, secondsToLose } from './front.js';
import { stateThresholds } from './state.js';
import { PRIOR_FACTORS, waitFactor } from './uncertainty.js';

const fan = withFan(REFERENCE_AIR, 1);
const thresholds = stateThresholds(REFERENCE_REGION);
const crust: Asked = { state: 'crusted', lossKgPerM2: thresholds.crusted, firmKgPerM2: thresholds.firm };
const body: Body = { region: REFERENCE_REGION, leftAtS: 1000, airs: always(REFERENCE_AIR), looked: [] };
/** Found not to be there yet, or to be there, at so many seconds. */
const looked = (...looks: readonly [atS: number, found: Look['found'], state?: Look['state']][]): Body => ({
  ...body,
  looked: looks.map(([atS, found, state = 'crusted']) => ({ atS, found, state })),
});

describe('the airs of a place', () => {
  it('are the base air but for the stays, the first of those that overlap, with no gap between two in a row', () => {
    const airs = airsWith(REFERENCE_AIR, [
      { startS: 200, endS: 300, air: fan },
      { startS: 100, endS: 200, air: fan },
      { startS: 250, endS: 400, air: REFERENCE_AIR },
    ]);
    expect([0, 100, 199, 200, 299, 350, 500].map((s) => airAt(airs, s) === fan)).toEqual([false, true, true, true, true, false, false]);
    expect(piecesFrom(airs, 150).reduce((s, p) => s + (p.air === fan ? p.seconds : 0), 0)).toBe(150);
    expect(airsWith(REFERENCE_AIR, [{ startS: 5, endS: Number.POSITIVE_INFINITY, air: fan }]).air).toEqual([REFERENCE_AIR, fan]);
  });
  it('what is lost in one air is the closed form, and the moment of a loss takes it back through any', () => {
    expect(lostBetween(always(REFERENCE_AIR), 50, 650)).toBeCloseTo(lossAfter(dryingRate(REFERENCE_AIR), 0, 600), 12);
    const airs = airsWith(REFERENCE_AIR, [{ startS: 300, endS: 900, air: fan }]);
    for (const toS of [200, 600, 1500]) expect(momentOfLoss(airs, 100, lostBetween(airs, 100, toS))).toBeCloseTo(toS, 6);
  });
});

describe('a body', () => {
  it('has lost nothing before it was left alone, and comes to its states by what it loses', () => {
    expect(lostAt(body, 900)).toBe(0);
    const crustedS = lostBy(body, thresholds.crusted);
    expect(crustedS).toBeCloseTo(1000 + secondsToLose(dryingRate(REFERENCE_AIR), 0, thresholds.crusted), 6);
    expect([stateAt(body, crustedS - 1), stateAt(body, crustedS + 1)]).toEqual(['skinned', 'crusted']);
  });
  it('found not to be there yet is ready later than one nobody looked at, and the later the later it was found', () => {
    const unseenS = lostBy(body, thresholds.crusted * waitFactor('crusted', 'normal'));
    const after = [600, 1500, 2400].map((s) => readyAfterLook(looked([1000 + s, 'not-yet']), crust, 120, 'normal') as number);
    expect(after[0]).toBeGreaterThan(unseenS);
    expect(after).toEqual([...after].sort((a, b) => a - b));
    const wet = looked([2500, 'not-yet']);
    expect(readyAfterLook(wet, crust, 120, 'careful')).toBeGreaterThan(readyAfterLook(wet, crust, 120, 'bold') as number);
    expect(readyAfterLook(looked([1e6, 'not-yet']), crust, 120, 'bold', PRIOR_FACTORS)).toBeGreaterThanOrEqual(1e6 + 120);
  });
  it('is put off by what was found of the state asked for or a lesser one, and by nothing else', () => {
    const ready = (b: Body) => readyAfterLook(b, crust, 120, 'normal');
    expect(ready(body)).toBeNull();
    expect(ready(looked([2500, 'not-yet', 'set']))).toBeNull();
    expect(ready(looked([2500, 'not-yet', 'skinned']))).toBe(ready(looked([2500, 'not-yet'])));
    expect(ready(looked([2500, 'not-yet'], [2900, 'reached']))).toBeNull();
    expect(ready(looked([2500, 'not-yet'], [2900, 'reached', 'skinned']))).toBe(ready(looked([2500, 'not-yet'])));
  });
});
