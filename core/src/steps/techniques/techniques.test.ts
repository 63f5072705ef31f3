import { describe, expect, it } from 'vitest';
import { ASSUMED_PACE } from '../pace.js';
import { rules } from '../rules/index.js';
import { schoolById, schoolIds, schools } from '../school.js';
import { techniqueIds } from '../step.js';
import { techniqueById, techniques } from './index.js';

describe('registries', () => {
  it('every technique is there once, with what goes wrong early and late', () => {
    expect(techniques.map((t) => t.id).sort()).toEqual([...techniqueIds].sort());
    for (const t of techniques) {
      expect(t.tooEarly.length).toBeGreaterThan(5);
      expect(t.tooLate.length).toBeGreaterThan(5);
      expect(techniqueById(t.id)).toBe(t);
    }
  });
  it('motions take the pace’s seconds and grow with what there is to do', () => {
    const s = (id: (typeof techniqueIds)[number], lengthMm: number, areaMm2: number, count: number, wipes = true) =>
      techniqueById(id).seconds({ lengthMm, areaMm2, count }, ASSUMED_PACE, wipes);
    expect(s('outline', 110, 0, 1)).toBe(10);
    expect(s('flood', 0, 1000, 1)).toBe(14);
    expect(s('wet-drop', 0, 0, 5)).toBe(6);
    expect(s('drag', 0, 0, 2)).toBe(7);
    expect(s('drag', 0, 0, 2, false)).toBe(4);
    for (const id of techniqueIds) expect(s(id, 200, 2000, 4)).toBeGreaterThanOrEqual(s(id, 100, 1000, 2));
  });
  it('every rule has a name of its own, every school its preset', () => {
    expect(new Set(rules.map((r) => r.id)).size).toBe(rules.length);
    expect(schools.map((s) => s.id)).toEqual([...schoolIds]);
    for (const id of schoolIds) expect(schoolById(id).id).toBe(id);
    expect(() => schoolById('academy' as never)).toThrow('academy');
  });
});
