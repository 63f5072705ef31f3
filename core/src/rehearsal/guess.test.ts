import { describe, expect, it } from 'vitest';
import { dryingRate, lossThrough, stateAtLoss, stateThresholds } from '../drying/index.js';
import { seededRng } from '../time/index.js';
import { counted, eyeOf, type Guessable, guessable, guessOf, ladderOf, type Tally } from './guess.js';

describe('a surface that is shown, and what it is', () => {
  it('is in the state it is said to be in, by the model the plans go by; every state comes as often as any', () => {
    const rng = seededRng(12);
    const seen = new Map<Guessable, number>();
    for (let i = 0; i < 600; i++) {
      const g = guessOf(rng);
      const lost = lossThrough([{ air: g.air, seconds: g.seconds }], 0);
      const state = stateAtLoss(stateThresholds(g.region), lost);
      expect(state === 'thickening' ? 'wet' : state).toBe(g.state);
      expect(dryingRate(g.air).fluxKgPerM2S).toBeGreaterThan(0);
      const ladder = ladderOf(g);
      expect(ladder[g.state]).toBeLessThanOrEqual(g.seconds);
      expect(guessable.map((s) => ladder[s])).toEqual([...guessable.map((s) => ladder[s])].sort((a, b) => a - b));
      seen.set(g.state, (seen.get(g.state) ?? 0) + 1);
    }
    for (const s of guessable) expect([s, (seen.get(s) ?? 0) > 70]).toEqual([s, true]);
    expect(guessOf(seededRng(3))).toEqual(guessOf(seededRng(3)));
  });
  it('what was said is counted: right, too far, not far enough, and what is mistaken most', () => {
    const said: readonly (readonly [Guessable, Guessable])[] = [
      ['skinned', 'crusted'],
      ['skinned', 'crusted'],
      ['set', 'set'],
      ['dry', 'firm'],
    ];
    const tally = said.reduce<Tally>((t, [state, word]) => counted(t, state, word), {});
    expect(eyeOf(tally)).toEqual({
      all: 4,
      right: 1,
      tooFar: 2,
      notFarEnough: 1,
      most: { state: 'skinned', said: 'crusted', times: 2 },
    });
    expect(eyeOf({})).toEqual({ all: 0, right: 0, tooFar: 0, notFarEnough: 0, most: null });
  });
});
