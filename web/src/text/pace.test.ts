import { describe, expect, it } from 'vitest';
import { paceEffectText, takesText } from './pace.js';

describe('a learned pace in words', () => {
  it('says longer, less, or as assumed', () => {
    expect([1.123, 0.8, 1.004].map(takesText)).toEqual(['12 % longer', '20 % less', 'as assumed']);
  });
  it('names whose hands, the motions that differ most, and what it comes to', () => {
    const own = [
      { who: 'Ada', kind: 'pack', takes: 1.04 },
      { who: 'Ada', kind: 'flood', takes: 1.3 },
      { who: 'Bo', kind: 'detail', takes: 0.7 },
    ] as const;
    expect(paceEffectText({ own, moreS: 900 })).toBe(
      'Planned at the pace these hands were seen to have (Ada: flooding 30 % longer, packing 4 % longer; Bo: details 30 % less): 15 min more work than assumed.',
    );
    expect(paceEffectText({ own, moreS: -20 })).toContain('about as much work as assumed');
  });
});
