import type { Flaw } from '@kestfog/core/picture';
import type { DesignCheck } from '@kestfog/core/planning';

/** What each kind of check is called. */
export const CHECK_WORDS: Readonly<Record<DesignCheck['kind'], string>> = {
  hollow: 'stencil lies hollow',
  crater: 'crater',
  bleed: 'bleeding',
  overflow: 'overflow',
  ridges: 'ridges',
  window: 'window too short',
  bridge: 'thin place',
  contrast: 'hard to see',
  dent: 'dent',
  crackle: 'blind crackle',
  lettering: 'small letters',
  spread: 'too loose for a sharp mark',
  lumps: 'dragged lumps',
  tip: 'tip not there',
  'never-dries': 'never dries',
};

/** What a check looks like on a cookie, where it can be painted. */
export const CHECK_FLAWS: Readonly<Partial<Record<DesignCheck['kind'], Flaw['kind']>>> = {
  crater: 'crater',
  bleed: 'bleed',
  ridges: 'ridge',
  dent: 'dent',
  lumps: 'smudge',
  hollow: 'smudge',
};
