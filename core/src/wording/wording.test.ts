import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { REFERENCE_AIR } from '../drying/air.js';
import { timeGap } from '../planning/timed-gap.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import type { Facts } from '../steps/why.js';
import { NoAnswer } from '../units/bad-input.js';
import { refusalText } from './refusal.js';
import { consequenceOf, reasonOf } from './why.js';

const demo = (file: string) => readDesign(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'), file);
const gaps = (file: string) => deriveSteps(demo(file), schoolById('two-bags')).gaps;
const between = (file: string, from: string, to: string) => {
  const found = gaps(file).find((g) => g.from === from && g.to === to);
  if (!found) throw new Error(`${file} has no wait from ${from} to ${to}`);
  return found;
};

describe('a wait in words', () => {
  it('a neighbour, a detail, a window, packing', () => {
    const neighbour = between('mackerel', 'flood.head', 'flood.belly');
    expect(reasonOf(neighbour)).toBe('head crusts before belly beside it is flooded');
    expect(consequenceOf(neighbour)).toBe('the colours run together and no step shows');
    const detail = between('lighthouse', 'flood.band-1', 'piped-line.gallery');
    expect(reasonOf(detail)).toBe('top band sets before the gallery rail on it (piped detail)');
    const window = between('mackerel', 'flood.back', 'wet-line.stripe-1');
    expect(reasonOf(window)).toMatch(/^.+ goes into back while it is wet$/);
    expect(consequenceOf(window)).toBe('stands proud on the skin');
    expect(reasonOf(between('lighthouse', 'flood.band-1', 'pack.cookie'))).toBe('top band is dry through before the cookie is packed');
  });
  it('what was asked in the part’s own words is said so', () => {
    const facts: Facts = {
      kind: 'meeting',
      earlier: 'hull',
      later: 'name',
      technique: 'piped-line',
      isFlood: false,
      how: 'on',
      ask: 'plain',
      state: 'set',
      said: { state: 'firm', minutes: 40 },
    };
    expect(reasonOf({ facts })).toBe('hull is firm and 40 min old before the name on it, as it was said of name');
  });
  it('what an earlier plan said is shown as it was written', () => {
    const facts: Facts = { kind: 'in-words', reason: 'the hull sets before the rope on it', consequence: 'it sinks' };
    expect([reasonOf({ facts }), consequenceOf({ rule: 'detail-rests-on', facts })]).toEqual([facts.reason, facts.consequence]);
  });
});

describe('a refusal in words', () => {
  it('an order that runs in a circle names both, and what each rests on', () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90">
      <path id="lee" data-part="section" data-after="far" fill="#eeeeee" d="M10 10H45V45H10Z"/>
      <path id="far" data-part="section" data-after="lee" fill="#dddddd" d="M50 10H75V45H50Z"/></svg>`;
    expect(said(() => deriveSteps(readDesign(svg, 'two'), schoolById('two-bags')))).toBe(
      '"far" comes after "lee" (as you said) and "lee" comes after "far" (as you said), which contradict each other: take one of these orders back.',
    );
  });
  it('air in which it never dries names the wait that would not end', () => {
    const gap = between('mackerel', 'flood.head', 'flood.belly');
    expect(said(() => timeGap(gap, { ...REFERENCE_AIR, humidityFrac: 1 }, 'normal'))).toMatch(
      /^At 100 % humidity and 22 °C this would wait for ever; it works at \d+ % or below, or in warmer air, as a dehydrator has it \(head crusts before belly beside it is flooded\)\.$/,
    );
  });
  it('any other says what it says itself', () => {
    expect(refusalText(new NoAnswer('too-many', '40 cookies do not fit 36 places: add a tray.'))).toBe(
      '40 cookies do not fit 36 places: add a tray.',
    );
  });
});

function said(refused: () => unknown): string {
  try {
    refused();
  } catch (error) {
    return refusalText(error as NoAnswer);
  }
  return 'was not refused';
}
