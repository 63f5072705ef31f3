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
