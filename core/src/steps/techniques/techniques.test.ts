import { describe, expect, it } from 'vitest';
import { detailTechniques, guideKinds, markTechniques, sectionTechniques } from '../../design/technique-names.js';
import { type CautionContext, cautionById, cautionIds, cautions, cautionsFor } from '../cautions/index.js';
import { ASSUMED_PACE } from '../pace.js';
import { type School, schoolById, schoolIds, schools } from '../school.js';
import { type TechniqueId, techniqueById, techniques } from './index.js';

const techniqueIds = techniques.map((t) => t.id);

describe('registries', () => {
  it('every technique is there once, with what goes wrong early, late and badly', () => {
    expect(new Set(techniqueIds).size).toBe(techniqueIds.length);
    for (const t of techniques) {
      for (const text of [t.tooEarly, t.tooLate, t.badlyDone, t.tool, t.label]) expect(text.length).toBeGreaterThan(2);
      expect(techniqueById(t.id)).toBe(t);
    }
    expect(() => techniqueById('sculpt' as never)).toThrow('sculpt');
  });
  it('everything a drawing can ask for has its definition, in the right part of a cookie’s life', () => {
    for (const id of sectionTechniques) expect(techniqueById(id).kind).toBe('flood');
    for (const id of markTechniques) expect(techniqueById(id).kind).toBe('mark');
    for (const id of detailTechniques) expect(techniqueById(id).kind).toBe('detail');
    for (const kind of guideKinds) expect(techniqueById(`guide-${kind}`).asks).toBe('guide');
    const named = [
      ...sectionTechniques,
      ...markTechniques,
      ...detailTechniques,
      ...guideKinds.map((k) => `guide-${k}`),
      'preparation',
      'outline',
      'needle',
      'pack',
      'widen-snip',
    ];
    expect([...named].sort()).toEqual([...techniqueIds].sort());
  });
  it('motions take the pace’s seconds and grow with what there is to do', () => {
    const s = (
      id: TechniqueId,
      lengthMm: number,
      areaMm2: number,
      count: number,
      wiping: School['wiping'] = 'always',
      continuous = 0,
      levelling: School['levelling'] = 'scribe',
    ) =>
      techniqueById(id).seconds({ lengthMm, areaMm2, count, filled: 0, filledMm2: 0, continuous, ringMm: 0 }, ASSUMED_PACE, {
        wiping,
        levelling,
      });
    expect(s('outline', 110, 0, 1)).toBe(10);
    expect(s('flood', 0, 1000, 1)).toBe(14);
    // A tap or a shake settles the whole cookie at once; the scribe goes over all of it.
    expect(s('flood', 0, 1000, 1, 'always', 0, 'tap')).toBe(12);
    expect(s('flood', 0, 1000, 1, 'always', 0, 'shake')).toBe(12);
    expect(s('wet-drop', 0, 0, 5)).toBe(6);
    expect(s('drag', 0, 0, 2)).toBe(7);
    expect(s('drag', 0, 0, 2, 'never')).toBe(4);
    // By design: single pulls are wiped, one way to and fro is not.
    expect(s('drag', 0, 0, 2, 'single-pulls')).toBe(7);
    expect(s('drag', 0, 0, 2, 'single-pulls', 1)).toBe(5.5);
    expect(
      techniqueById('piped-line').seconds(
        { lengthMm: 0, areaMm2: 200, count: 2, filled: 2, filledMm2: 200, continuous: 0, ringMm: 0 },
        ASSUMED_PACE,
        {
          wiping: 'never',
          levelling: 'scribe',
        },
      ),
    ).toBeCloseTo(4.4);
    expect(s('stencil', 0, 0, 1)).toBe(ASSUMED_PACE.stencilS);
    for (const id of techniqueIds) expect(s(id, 200, 2000, 4)).toBeGreaterThanOrEqual(s(id, 100, 1000, 2));
  });
  it('every school has its preset', () => {
    expect(schools.map((s) => s.id)).toEqual([...schoolIds]);
    for (const id of schoolIds) expect(schoolById(id).id).toBe(id);
    expect(() => schoolById('academy' as never)).toThrow('academy');
  });
});

describe('cautions', () => {
  const quiet: CautionContext = { techniques: [], eggWhite: 'dried', warmAir: false, cutByHand: false };
  it('each has an id and a text, and every one can be reached', () => {
    expect(cautions.map((c) => c.id)).toEqual([...cautionIds]);
    const all = cautionsFor({ techniques: techniqueIds, eggWhite: 'fresh', warmAir: true, cutByHand: true });
    expect(all.map((c) => c.id)).toEqual([...cautionIds]);
    for (const id of cautionIds) expect(cautionById(id).text).toMatch(/[.]$/);
  });
  it('none arises where nothing is done, and each where its work is', () => {
    expect(cautionsFor(quiet)).toEqual([]);
    const ids = (more: Partial<CautionContext>) => cautionsFor({ ...quiet, ...more }).map((c) => c.id);
    expect(ids({ techniques: ['airbrush'] })).toEqual(['edible-only', 'airbrush-mist']);
    expect(ids({ eggWhite: 'fresh' })).toEqual(['raw-egg']);
    expect(ids({ warmAir: true })).toEqual(['warm-air']);
    expect(ids({ techniques: ['paint'] })).toContain('spirit');
    // Dried white in the bowl: the caution of raw egg does not arise, whatever is piped.
    expect(ids({ techniques: ['preparation'] })).toEqual(['allergens']);
  });
});
