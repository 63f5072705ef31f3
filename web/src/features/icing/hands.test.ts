import type { LeftoverView } from '@kestfog/core/wire';
import { describe, expect, it } from 'vitest';
import { gelText } from './ColourMixNote.js';
import { ageText, beforeUse, freeG, leftoversFor, stillToMixG } from './leftovers.js';

const bag = { colour: '#22343c', seconds: 15, mixG: 60 };
const left = (more: Partial<LeftoverView> = {}): LeftoverView => ({
  id: 'l',
  at: '2026-06-01T10:00:00Z',
  colour: '#22343c',
  seconds: 20,
  grams: 40,
  orderId: 'before',
  uses: [],
  frozen: false,
  kneadedAt: null,
  ...more,
});

describe('left-over icing', () => {
  it('is subtracted where it was taken, once, and nowhere before', () => {
    expect(stillToMixG(bag, [left()], 'now')).toBe(60);
    const used = left({ uses: [{ orderId: 'now', colour: bag.colour, seconds: 15, grams: 25 }] });
    expect(stillToMixG(bag, [used], 'now')).toBe(35);
    // Another bag, or another order, still mixes all of its own.
    expect(stillToMixG({ ...bag, seconds: 20 }, [used], 'now')).toBe(60);
    expect(stillToMixG(bag, [used], 'later')).toBe(60);
    expect(freeG(used)).toBe(15);
  });
  it('is offered where it looks alike, is no thinner, is not used up, and is not the order’s own', () => {
    expect(leftoversFor(bag, [left()], 'now')).toHaveLength(1);
    for (const no of [
      left({ colour: '#b3261e' }),
      left({ seconds: 10 }),
      left({ orderId: 'now' }),
      left({ uses: [{ orderId: 'other', colour: '#22343c', seconds: 15, grams: 40 }] }),
      left({ uses: [{ orderId: 'now', colour: bag.colour, seconds: 15, grams: 5 }] }),
    ])
      expect(leftoversFor(bag, [no], 'now')).toEqual([]);
  });
});

describe('gel colours', () => {
  it('grams of each follow from its parts and from how much goes into a hundred grams', () => {
    const mix = {
      parts: [
        { gel: 'navy', parts: 3 },
        { gel: 'black', parts: 1 },
      ],
      gelGPer100G: 2,
    };
    expect(gelText(mix, 200)).toBe('3.0 g navy, 1.0 g black');
    expect(gelText({ ...mix, gelGPer100G: null }, 200)).toBeNull();
    expect(gelText({ ...mix, parts: [] }, 200)).toBeNull();
  });
});

it('icing put by says how old it is, how it is kept, and what is done with it before it is used', () => {
  const nowMs = Date.parse('2026-06-03T10:00:00Z');
  expect([ageText(left(), nowMs), beforeUse(left())]).toEqual(['put by 2 days ago', 'Stir or knead it, and count it.']);
  const frozen = left({ frozen: true, kneadedAt: '2026-06-03T07:00:00Z' });
  expect(ageText(frozen, nowMs)).toBe('put by 2 days ago, frozen, kneaded 3 hours ago');
  expect(beforeUse(frozen)).toMatch(/^Thaw it/);
});
