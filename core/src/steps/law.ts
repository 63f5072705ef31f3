import type { DryingState } from '../drying/state.js';
import type { School } from './school.js';
import type { TechniqueDefinition } from './techniques/index.js';
import type { AskRow, Leaves } from './techniques/technique.js';

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
      readonly because: string;
    }
  | { readonly kind: 'at-once'; readonly because: string; readonly seconds?: number }
  | { readonly kind: 'refused'; readonly because: string };

/** An airbrush's film is dry to the touch after ten minutes: *assumed*. */
export const MIST_DRY_S = 600;
/** Small and light enough to lie on a crust. */
export const LIGHT_MM2 = 200;
export const LIGHT_DEPTH_MM = 1.5;

const state = (s: DryingState, because: string, more: { times?: number; careful?: true } = {}): Answer => ({ kind: 'state', state: s, because, ...more });
const atOnce = (because: string): Answer => ({ kind: 'at-once', because });

type Ask = (school: School, c: Circumstances) => Answer;

const mistDry: Ask = () => ({ kind: 'at-once', seconds: MIST_DRY_S, because: 'the airbrushed film is dry to the touch after ten minutes' });
const filmHolds: Ask = () => atOnce('what lies there does not have to dry first');
const nothingLeft: Ask = () => atOnce('it leaves nothing behind that could smear: only the order counts');
const sideBySide: Ask = () => atOnce('a bead beside icing touches nothing wet of it');

/**
 * A neighbour's wait: a multiple of crusting; grains hold a surface together, so a sugared one counts once it has skinned.
 * Never less than that, though: half a skin is wet icing, and two wet floods run together whatever the school.
 */
function neighbour(school: School, c: Circumstances): Answer {
  const own = c.sugared
    ? state('skinned', 'skins under its grains', { times: Math.max(1, school.neighbourCrusts) })
    : state('crusted', 'crusts', { times: school.neighbourCrusts });
  if (!c.strongContrast || school.contrastOn === 'as-neighbour') return own;
  const because = `${school.contrastOn === 'set' ? 'sets' : 'crusts'}: strong contrast would bleed`;
  // A school whose neighbours wait longer than that goes on waiting longer.
  return school.contrastOn === 'crusted' ? state('crusted', because, { times: Math.max(1, school.neighbourCrusts) }) : state('set', because);
}

function layer(school: School, c: Circumstances): Answer {
  if (school.layerOn === 'as-neighbour') return state('crusted', 'crusts as for a neighbour', { times: school.neighbourCrusts });
  if (school.layerOn === 'crusted' || (school.layerOn === 'light-crusted' && c.light))
    return state('crusted', 'crusts', { times: Math.max(1, school.neighbourCrusts) });
  return state('set', 'sets');
}

const detailOnDetail: Ask = (_school, c) =>
  c.sameBag ? atOnce('piped from the same bag, one runs into the other on purpose') : state('crusted', 'crusts, or the two run together');

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

const wetOnly: Ask = () => ({ kind: 'refused', because: 'wet work goes into wet icing only: lay it in a flood or a bead, or pipe it as a detail' });

const LAW: Readonly<Record<AskRow, Row>> = {
  flood: {
    flood: (school, c) => (c.how === 'on' ? layer(school, c) : neighbour(school, c)),
    bead: (school, c) =>
      c.how === 'on'
        ? layer(school, c)
        : school.outline === 'set'
          ? state('skinned', 'skins, so that it holds the flood beside it')
          : atOnce('a dividing bead melts into the flood beside it'),
    ...REST,
  },
  // What lies wet in a body is bound to it by its window, not by a wait.
  wet: { flood: wetOnly, bead: wetOnly, piece: wetOnly, film: wetOnly, grains: wetOnly, mist: wetOnly, nothing: wetOnly },
  piped: {
    flood: (school, c) => (c.how === 'beside' ? sideBySide(school, c) : state(school.detailsOn, school.detailsOn === 'set' ? 'sets' : 'crusts')),
    bead: (school, c) => (c.how === 'beside' ? sideBySide(school, c) : detailOnDetail(school, c)),
    ...REST,
  },
  relief: {
    flood: (school, c) =>
      c.how === 'beside' ? sideBySide(school, c) : state(school.reliefOn, school.reliefOn === 'set' ? 'sets' : 'crusts and is still soft beneath'),
    bead: (school, c) => (c.how === 'beside' ? sideBySide(school, c) : detailOnDetail(school, c)),
    ...REST,
  },
  grains: { ...icing((school) => state(school.grainsOn, `is ${school.grainsOn}: grains stick to anything wetter`)), ...REST },
  crackle: {
    flood: () => state('crusted', 'has a crust that still cracks'),
    bead: () => state('crusted', 'has a crust that still cracks'),
    ...REST,
  },
  glued: {
    ...icing((school, c) => {
      if (c.leansOn > 1 && school.gluedOn !== 'dry') return state('firm', 'is firm, since the piece leans on several parts');
      return state(school.gluedOn, `is ${school.gluedOn} and bears a piece`);
    }),
    ...REST,
  },
  guide: { ...icing((_school, c) => (c.projected ? state('crusted', 'crusts') : state('firm', 'is firm under the template'))), ...REST },
  pen: { ...icing((school) => state(school.pensOn, `is ${school.pensOn} under the nib`, { careful: true })), ...REST },
  stencil: {
    ...icing((school) => state(school.pensOn, `is ${school.pensOn} under the stencil`, { careful: true })),
    ...REST,
    // A piece stands proud: its glue has to hold when the stencil presses on it.
    piece: () => state('firm', 'its glue is firm before a stencil presses on it', { careful: true }),
  },
  airbrush: {
    ...icing((_school, c) => (c.throughStencil ? state('firm', 'is firm under the stencil') : state('crusted', 'crusts before air blows on it'))),
    ...REST,
    mist: () => atOnce('one mist goes over another'),
  },
  dry: { ...icing(() => state('dry', 'is dry')), ...REST },
  none: {
    flood: () => ({ kind: 'refused', because: 'a cookie is prepared before anything is on it' }),
    bead: () => ({ kind: 'refused', because: 'a cookie is prepared before anything is on it' }),
    ...REST,
    mist: filmHolds,
  },
};

/** What `later` asks of what `earlier` left. */
export function asks(later: Pick<TechniqueDefinition, 'asks'>, left: Leaves, school: School, c: Circumstances): Answer {
  return LAW[later.asks][left](school, c);
}
