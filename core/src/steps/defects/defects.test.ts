import { describe, expect, it } from 'vitest';
import { surfaceStates } from '../../drying/state.js';
import { defectById, defectIds, defects, rescue } from './index.js';

// The ways out are common practice, no published source; what is checked is that each is offered when it is open and not after.
describe('rescue', () => {
  it('knows every defect once, with causes and what prevents it', () => {
    expect(defects.map((d) => d.id)).toEqual([...defectIds]);
    for (const d of defects) expect([d.seen, d.causes, d.prevention].every((t) => t.length > 5)).toBe(true);
  });
  it('offers a cure only while the surface allows it, and says from when a cover holds', () => {
    for (const d of defects)
      for (const s of surfaceStates) {
        const found = rescue(d.id, s);
        const at = surfaceStates.indexOf(s);
        expect(found.cure !== null).toBe(d.cure !== null && at <= surfaceStates.indexOf(d.cure.until));
        if (found.cover) expect(found.cover.now).toBe(at >= surfaceStates.indexOf(found.cover.from));
      }
    expect(rescue('crater', 'wet').cure).toMatch(/quick-set/);
    expect(rescue('crater', 'set')).toMatchObject({ cure: null, cover: { now: true } });
    expect(rescue('stood-up', 'skinned').cure).toMatch(/press/);
    expect(rescue('broken', 'dry')).toMatchObject({ cure: null, cover: null });
    expect(defectById('bled').cure).toBeNull();
  });
});
