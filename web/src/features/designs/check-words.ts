import type { Flaw } from '@kestfog/core/picture';
import type { DesignCheck } from '@kestfog/core/planning';
import { msg } from '@kestfog/core/words';

/** What each kind of check is called. */
export const CHECK_WORDS: Readonly<Record<DesignCheck['kind'], string>> = {
  hollow: msg`stencil lies hollow`,
  crater: msg`crater`,
  bleed: msg`bleeding`,
  overflow: msg`overflow`,
  ridges: msg`ridges`,
  window: msg`window too short`,
  bridge: msg`thin place`,
  contrast: msg`hard to see`,
  dent: msg`dent`,
  crackle: msg`blind crackle`,
  lettering: msg`small letters`,
  spread: msg`too loose for a sharp mark`,
  lumps: msg`dragged lumps`,
  tip: msg`tip not there`,
  'never-dries': msg`never dries`,
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
