import type { DryingState } from '../drying/state.js';
import type { School } from './school.js';
import type { TechniqueDefinition } from './techniques/index.js';
import type { AskRow, Leaves } from './techniques/technique.js';
import type { AskId } from './why.js';

/**
 * The one law: for every meeting the later part begins after the earlier has reached what the later asks of it, whatever
 * the two are. A table of rows (what asks) against what is there (what was left), so that no pair is left out. Common
 * practice, no published source; where schools differ the school says, and a part's own words beat both.
 */

/** How the later part meets the earlier one. */
export type How = 'on' | 'beside' | 'reach';

/** What a row may need to know of the two. */
export interface Circumstances {
  readonly how: How;
  readonly strongContrast: boolean;
  /** the earlier is a flood under grains */
  readonly sugared: boolean;
  /** the later is a small, light layer */
  readonly light: boolean;
  /** how many parts the later leans on */
  readonly leansOn: number;
  /** both are piped from one bag */
  readonly sameBag: boolean;
  /** the later presses on nothing: a picture of light, a sheet beside it */
  readonly projected: boolean;
  /** an airbrush through a stencil that rests on the icing */
  readonly throughStencil: boolean;
}

export const PLAIN: Circumstances = {
  how: 'on',
  strongContrast: false,
  sugared: false,
  light: false,
  leansOn: 1,
  sameBag: false,
  projected: false,
  throughStencil: false,
};

export type Answer =
  | {
      readonly kind: 'state';
      readonly state: DryingState;
      /** multiple of that state's own threshold, where a wait is given as one */
      readonly times?: number;
      /** held to the careful quantile whatever the order's margin */
      readonly careful?: true;
      readonly ask: AskId;
    }
  | { readonly kind: 'at-once'; readonly ask: AskId; readonly seconds?: number }
  | { readonly kind: 'refused'; readonly ask: AskId };

/** An airbrush's film is dry to the touch after ten minutes: *assumed*. */
export const MIST_DRY_S = 600;
/** Small and light enough to lie on a crust. */
export const LIGHT_MM2 = 200;
export const LIGHT_DEPTH_MM = 1.5;

const state = (s: DryingState, ask: AskId = 'plain', more: { times?: number; careful?: true } = {}): Answer => ({
  kind: 'state',
  state: s,
  ask,
  ...more,
});
export const atOnce = (ask: AskId, seconds?: number): Answer => ({ kind: 'at-once', ask, ...(seconds === undefined ? {} : { seconds }) });

type Ask = (school: School, c: Circumstances) => Answer;

const mistDry: Ask = () => atOnce('film-dry', MIST_DRY_S);
const filmHolds: Ask = () => atOnce('film-holds');
const nothingLeft: Ask = () => atOnce('nothing-left');
const sideBySide: Ask = () => atOnce('beside-bead');

/**
 * A neighbour's wait: a multiple of crusting; grains hold a surface together, so a sugared one counts once it has skinned.
 * Never less than that, though: half a skin is wet icing, and two wet floods run together whatever the school.
 */
function neighbour(school: School, c: Circumstances): Answer {
  const own = c.sugared
    ? state('skinned', 'under-grains', { times: Math.max(1, school.neighbourCrusts) })
    : state('crusted', 'plain', { times: school.neighbourCrusts });
  if (!c.strongContrast || school.contrastOn === 'as-neighbour') return own;
  // A school whose neighbours wait longer than that goes on waiting longer.
  return school.contrastOn === 'crusted'
    ? state('crusted', 'contrast', { times: Math.max(1, school.neighbourCrusts) })
    : state('set', 'contrast');
}

function layer(school: School, c: Circumstances): Answer {
  if (school.layerOn === 'as-neighbour') return state('crusted', 'as-neighbour', { times: school.neighbourCrusts });
  if (school.layerOn === 'crusted' || (school.layerOn === 'light-crusted' && c.light))
    return state('crusted', 'plain', { times: Math.max(1, school.neighbourCrusts) });
  return state('set');
}

const detailOnDetail: Ask = (_school, c) => (c.sameBag ? atOnce('same-bag') : state('crusted', 'run-together'));

/** Icing that is asked for a state whichever body it is. */
const icing = (ask: Ask): Pick<Row, 'flood' | 'bead'> => ({ flood: ask, bead: ask });
const REST: Pick<Row, 'piece' | 'film' | 'grains' | 'mist' | 'nothing'> = {
  piece: filmHolds,
  film: filmHolds,
  grains: filmHolds,
  mist: mistDry,
  nothing: nothingLeft,
};
type Row = Readonly<Record<Leaves, Ask>>;

const wetOnly: Ask = () => ({ kind: 'refused', ask: 'wet-only' });

const LAW: Readonly<Record<AskRow, Row>> = {
  flood: {
    flood: (school, c) => (c.how === 'on' ? layer(school, c) : neighbour(school, c)),
    bead: (school, c) =>
      c.how === 'on' ? layer(school, c) : school.outline === 'set' ? state('skinned', 'holds-flood') : atOnce('bead-melts'),
    ...REST,
  },
  // What lies wet in a body is bound to it by its window, not by a wait.
  wet: { flood: wetOnly, bead: wetOnly, piece: wetOnly, film: wetOnly, grains: wetOnly, mist: wetOnly, nothing: wetOnly },
  piped: {
    flood: (school, c) => (c.how === 'beside' ? sideBySide(school, c) : state(school.detailsOn)),
    bead: (school, c) => (c.how === 'beside' ? sideBySide(school, c) : detailOnDetail(school, c)),
    ...REST,
  },
  relief: {
    flood: (school, c) =>
      c.how === 'beside' ? sideBySide(school, c) : state(school.reliefOn, school.reliefOn === 'set' ? 'plain' : 'soft-beneath'),
    bead: (school, c) => (c.how === 'beside' ? sideBySide(school, c) : detailOnDetail(school, c)),
    ...REST,
  },
  grains: { ...icing((school) => state(school.grainsOn, 'grains-stick')), ...REST },
  crackle: {
    flood: () => state('crusted', 'still-cracks'),
    bead: () => state('crusted', 'still-cracks'),
    ...REST,
  },
  glued: {
    ...icing((school, c) => {
      if (c.leansOn > 1 && school.gluedOn !== 'dry') return state('firm', 'leans-on-several');
      return state(school.gluedOn, 'bears-piece');
    }),
    ...REST,
  },
  guide: { ...icing((_school, c) => (c.projected ? state('crusted') : state('firm', 'under-template'))), ...REST },
  pen: { ...icing((school) => state(school.pensOn, 'under-nib', { careful: true })), ...REST },
  stencil: {
    ...icing((school) => state(school.pensOn, 'under-stencil', { careful: true })),
    ...REST,
    // A piece stands proud: its glue has to hold when the stencil presses on it.
    piece: () => state('firm', 'glue-holds', { careful: true }),
  },
  airbrush: {
    ...icing((_school, c) => (c.throughStencil ? state('firm', 'under-stencil') : state('crusted', 'under-air'))),
    ...REST,
    mist: () => atOnce('mist-over-mist'),
  },
  dry: { ...icing(() => state('dry')), ...REST },
  none: {
    flood: () => ({ kind: 'refused', ask: 'prepared-first' }),
    bead: () => ({ kind: 'refused', ask: 'prepared-first' }),
    ...REST,
    mist: filmHolds,
  },
};

/** What `later` asks of what `earlier` left. */
export function asks(later: Pick<TechniqueDefinition, 'asks'>, left: Leaves, school: School, c: Circumstances): Answer {
  return LAW[later.asks][left](school, c);
}
