import { describe, expect, it } from 'vitest';
import { dryingStates } from '../drying/state.js';
import { askText } from '../wording/why.js';
import { asks, type How, PLAIN } from './law.js';
import { schoolById, schoolIds } from './school.js';
import { type TechniqueId, techniqueById, techniques } from './techniques/index.js';

const answer = (
  later: TechniqueId,
  earlier: TechniqueId,
  school = 'two-bags' as (typeof schoolIds)[number],
  c: Partial<typeof PLAIN> = {},
) => asks(techniqueById(later), techniqueById(earlier).leaves, schoolById(school), { ...PLAIN, ...c });

describe('the one law', () => {
  it('answers every pair of techniques, both ways round, however they meet, in every school', () => {
    let pairs = 0;
    for (const school of schoolIds)
      for (const how of ['on', 'beside', 'reach'] as const satisfies readonly How[])
        for (const later of techniques)
          for (const earlier of techniques) {
            const a = asks(later, earlier.leaves, schoolById(school), { ...PLAIN, how });
            pairs += 1;
            expect(askText(a.ask, a.kind === 'state' ? a.state : undefined).length, `${later.id} ${how} ${earlier.id}`).toBeGreaterThan(3);
            if (a.kind === 'state') {
              expect(dryingStates).toContain(a.state);
              expect(a.times ?? 1).toBeGreaterThan(0);
            }
            if (a.kind === 'refused') expect(['wet', 'none']).toContain(later.asks);
          }
    expect(pairs).toBe(schoolIds.length * 3 * techniques.length ** 2);
  });
  // Common practice, no published source: the table of bodies and what is asked of them.
  it.each([
    ['flood', 'flood', { how: 'beside' }, { state: 'crusted', times: 1 }],
    ['flood', 'flood', { how: 'beside', strongContrast: true }, { state: 'set' }],
    ['flood', 'flood', { how: 'beside', sugared: true }, { state: 'skinned' }],
    ['flood', 'flood', { how: 'on' }, { state: 'set' }],
    ['flood', 'flood', { how: 'on', light: true }, { state: 'crusted' }],
    ['flood', 'pen', {}, { kind: 'at-once' }],
    ['flood', 'airbrush', {}, { kind: 'at-once', seconds: 600 }],
    ['flood', 'piped-line', { how: 'beside' }, { kind: 'at-once' }],
    ['piped-line', 'flood', {}, { state: 'set' }],
    ['piped-line', 'flood', { how: 'beside' }, { kind: 'at-once' }],
    ['lettering', 'piped-line', { sameBag: true }, { kind: 'at-once' }],
    ['lettering', 'piped-line', {}, { state: 'crusted' }],
    ['relief', 'flood', {}, { state: 'crusted' }],
    ['dipped-bead', 'flood', {}, { state: 'set' }],
    ['glued-transfer', 'flood', {}, { state: 'set' }],
    ['glued-transfer', 'flood', { leansOn: 2 }, { state: 'firm' }],
    ['guide-traced', 'flood', {}, { state: 'firm' }],
    ['guide-projected', 'flood', { projected: true }, { state: 'crusted' }],
    ['pen', 'flood', {}, { state: 'firm', careful: true }],
    ['pen', 'dust', {}, { kind: 'at-once' }],
    ['stencil', 'flood', {}, { state: 'firm', careful: true }],
    ['stencil', 'glued-transfer', {}, { state: 'firm', careful: true }],
    ['airbrush', 'flood', {}, { state: 'crusted' }],
    ['airbrush', 'flood', { throughStencil: true }, { state: 'firm' }],
    ['airbrush', 'airbrush', {}, { kind: 'at-once' }],
    ['dust', 'pen', {}, { kind: 'at-once' }],
    ['dust', 'flood', {}, { state: 'dry' }],
    ['wafer', 'airbrush', {}, { seconds: 600 }],
    ['assembly', 'flood', {}, { state: 'dry' }],
    ['wet-drop', 'pen', {}, { kind: 'refused' }],
  ] as const)('%s meeting %s %j', (later, earlier, c, expected) => expect(answer(later, earlier, 'two-bags', c)).toMatchObject(expected));
  it.each([
    ['kit', [0.5, 'crusted'], 'crusted', 'crusted', 'crusted', 'crusted', 'dry', 'set'],
    ['one-bag', [0.65, 'crusted'], 'crusted', 'crusted', 'crusted', 'crusted', 'firm', 'set'],
    ['two-bags', [1, 'crusted'], 'set', 'set', 'set', 'set', 'firm', 'set'],
    ['patient', [3, 'crusted'], 'set', 'set', 'set', 'dry', 'dry', 'dry'],
    ['warm-box', [1, 'crusted'], 'crusted', 'crusted', 'crusted', 'crusted', 'dry', 'set'],
  ] as const)('%s asks what the table of schools says', (school, [times, neighbour], contrast, layer, detail, grains, pen, glued) => {
    expect(answer('flood', 'flood', school, { how: 'beside' })).toMatchObject({ state: neighbour, times });
    expect(answer('flood', 'flood', school, { how: 'beside', strongContrast: true })).toMatchObject({ state: contrast });
    expect(answer('flood', 'flood', school, { how: 'on' })).toMatchObject({ state: layer });
    expect(answer('piped-line', 'flood', school)).toMatchObject({ state: detail });
    expect(answer('dipped-bead', 'flood', school)).toMatchObject({ state: grains });
    expect(answer('pen', 'flood', school)).toMatchObject({ state: pen, careful: true });
    expect(answer('glued-transfer', 'flood', school)).toMatchObject({ state: glued });
    expect(answer('relief', 'flood', school)).toMatchObject({ state: school === 'patient' ? 'set' : 'crusted' });
    // A layer in the kit waits as a neighbour does: ten minutes, not an hour.
    if (school === 'kit') expect(answer('flood', 'flood', school, { how: 'on' })).toMatchObject({ times: 0.5 });
    // Half a skin under grains is wet icing: there the kit's multiple does not count.
    expect(answer('flood', 'flood', school, { how: 'beside', sugared: true })).toMatchObject({
      state: 'skinned',
      times: Math.max(1, times),
    });
    const bead = answer('flood', 'piped-line', school, { how: 'beside' });
    expect(bead).toMatchObject(school === 'kit' || school === 'patient' ? { state: 'skinned' } : { kind: 'at-once' });
  });
});
