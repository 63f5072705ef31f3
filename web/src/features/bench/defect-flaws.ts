import type { Flaw } from '@kestfog/core/picture';
import type { DefectId } from '@kestfog/core/steps';

/** How a defect looks on a cookie, where it can be painted. */
export const DEFECT_FLAWS: Readonly<Partial<Record<DefectId, Flaw['kind']>>> = {
  crater: 'crater',
  sank: 'crater',
  'ran-together': 'bleed',
  bled: 'bleed',
  ridges: 'ridge',
  dent: 'dent',
  dip: 'dent',
  bumped: 'smudge',
  rough: 'smudge',
  'dragged-lumps': 'smudge',
  'stencil-smeared': 'smudge',
  'pen-slipped': 'smudge',
};
