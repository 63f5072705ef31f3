import type { DryingState } from '../drying/state.js';
import { defectById } from '../steps/defects/index.js';
import { techniqueById } from '../steps/techniques/index.js';
import type { AskId, Facts, MeetingFacts, RuleId, StayReason, Why } from '../steps/why.js';

/** What the earlier part does before the later may come, and why where that is not plain. */
interface AskWords {
  readonly does: string;
  readonly why?: string;
}

const VERBS: Readonly<Partial<Record<DryingState, string>>> = { skinned: 'skins', crusted: 'crusts', set: 'sets' };
const reaches = (state: DryingState | undefined): string => VERBS[state ?? 'dry'] ?? `is ${state ?? 'done'}`;

/** What the law asks, in words; those that ask for no state give the reason of the order alone. */
const ASKS: Readonly<Record<AskId, (state?: DryingState) => AskWords>> = {
  plain: (state) => ({ does: reaches(state) }),
  'under-grains': (state) => ({ does: `${reaches(state)} under its grains` }),
  contrast: (state) => ({ does: reaches(state), why: 'strong contrast would bleed' }),
  'as-neighbour': (state) => ({ does: `${reaches(state)} as for a neighbour` }),
  'run-together': (state) => ({ does: `${reaches(state)}, or the two run together` }),
  'holds-flood': (state) => ({ does: `${reaches(state)}, so that it holds the flood beside it` }),
  'soft-beneath': (state) => ({ does: `${reaches(state)} and is still soft beneath` }),
  'grains-stick': (state) => ({ does: `is ${state}`, why: 'grains stick to anything wetter' }),
  'still-cracks': () => ({ does: 'has a crust that still cracks' }),
  'leans-on-several': (state) => ({ does: `is ${state}, since the piece leans on several parts` }),
  'bears-piece': (state) => ({ does: `is ${state} and bears a piece` }),
  'under-template': (state) => ({ does: `is ${state} under the template` }),
  'under-nib': (state) => ({ does: `is ${state} under the nib` }),
  'under-stencil': (state) => ({ does: `is ${state} under the stencil` }),
  'glue-holds': (state) => ({ does: `its glue is ${state} before a stencil presses on it` }),
  'under-air': (state) => ({ does: `${reaches(state)} before air blows on it` }),
  'film-dry': () => ({ does: 'the airbrushed film is dry to the touch after ten minutes' }),
  'film-holds': () => ({ does: 'what lies there does not have to dry first' }),
  'nothing-left': () => ({ does: 'it leaves nothing behind that could smear: only the order counts' }),
  'beside-bead': () => ({ does: 'a bead beside icing touches nothing wet of it' }),
  'bead-melts': () => ({ does: 'a dividing bead melts into the flood beside it' }),
  'same-bag': () => ({ does: 'piped from the same bag, one runs into the other on purpose' }),
  'mist-over-mist': () => ({ does: 'one mist goes over another' }),
  'wet-only': () => ({ does: 'wet work goes into wet icing only: lay it in a flood or a bead, or pipe it as a detail' }),
  'prepared-first': () => ({ does: 'a cookie is prepared before anything is on it' }),
  guides: () => ({ does: 'what is followed is there first' }),
  'in-front': () => ({ does: 'the one in front covers it in the drawing' }),
  'as-said': () => ({ does: 'as you said' }),
  'first-of-all': () => ({ does: 'it comes before everything it does not overlap, as you said' }),
  'flat-stencil': () => ({ does: 'the stencil lies flat before anything stands proud within its reach' }),
  'mist-drifted': () => ({ does: 'the mist that drifted there is dry to the touch after ten minutes' }),
  'press-smears': () => ({ does: 'pressing would smear a wet neighbour' }),
  'laid-later': () => ({ does: 'laid later, no grain can stick to it' }),
};

/** What is asked, as it stands in brackets: "sets: strong contrast would bleed". */
export function askText(ask: AskId, state?: DryingState): string {
  const { does, why } = ASKS[ask](state);
  return why === undefined ? does : `${does}: ${why}`;
}

/** Why a step waits for another, in one sentence without its full stop. */
export function reasonOf({ facts }: Pick<Why, 'facts'>): string {
  switch (facts.kind) {
    case 'meeting':
      return reasonOfMeeting(facts);
    case 'prepared':
      return 'cookies are cool and bags open before the first icing';
    case 'dam':
      return facts.dam === 'melts'
        ? `the outline of ${facts.part} melts into its flood while it is wet`
        : `the outline of ${facts.part} skins first, so that ${facts.dam === 'keeps-colour' ? 'its colour stays in it' : 'it holds the flood'}`;
    case 'wet':
      return `${facts.work} goes into ${facts.into} while it is wet`;
    case 'next-mark':
      return `${facts.later} follows ${facts.earlier} at once`;
    case 'level':
      return `${facts.later} meets ${facts.earlier} while it is wet, so that they lie level`;
    case 'next-pools':
      return `${facts.earlier} is quick-set (${facts.dehydratorMin} min in the dehydrator, or ${facts.fanMin} before a fan) and has skinned before the next small pools are flooded`;
    case 'as-drawn':
      return `${facts.later} follows ${facts.earlier}, as they were drawn`;
    case 'dam-first':
      return `the dam of ${facts.dam} is drawn before ${facts.beside} beside it is flooded`;
    case 'packing':
      return facts.dries
        ? `${facts.work} is dry through before the cookie is packed`
        : `the ${facts.work} is done before the cookie is packed`;
    case 'cover':
      return `${facts.work} is ${facts.state} before ${defectById(facts.defect).seen} on it is covered`;
    case 'cover-dry':
      return 'what covers it is dry through before it is packed';
    case 'relief':
      return 'the flood crusts before it carries relief';
    case 'stay':
      return `tray ${facts.trayId} ${facts.where === 'fan' ? 'stands before the fan' : 'is in the dehydrator'} for ${facts.minutes} min${STAYS[facts.why]}`;
    case 'sent-at-once':
      return facts.why === 'pools'
        ? 'small pools go to dry as soon as they are laid'
        : 'the round goes to dry as soon as it is laid, as you asked';
    case 'away':
      return `tray ${facts.trayId} is away until it has dried`;
    case 'lifted-pieces':
      return 'its pieces are dry through and lifted from their parchment first';
    case 'in-words':
      return facts.reason;
  }
}

const STAYS: Readonly<Record<StayReason, string>> = {
  time: '',
  pools: ', so that its small pools set before they cave in',
  asked: ', as you asked',
  dries: ', since in the air of the bench it would not dry',
};

function reasonOfMeeting({ earlier, later, technique, isFlood, how, ask, state, said }: MeetingFacts): string {
  const before =
    how === 'beside'
      ? `before ${later} beside it is flooded`
      : how === 'on'
        ? isFlood
          ? `before ${later} is laid on it`
          : `before the ${later} on it`
        : `before ${later}`;
  if (said) {
    const asked = [said.state, said.minutes === undefined ? undefined : `${said.minutes} min old`]
      .filter((x) => x !== undefined)
      .join(' and ');
    return `${earlier} is ${asked} ${before}, as it was said of ${later}`;
  }
  if (state === undefined) return `${earlier} comes before ${later}: ${askText(ask)}`;
  const { does, why } = ASKS[ask](state);
  return `${earlier} ${does} ${before}${isFlood ? '' : ` (${techniqueById(technique).label})`}${why === undefined ? '' : `: ${why}`}`;
}

/** What happens where the wait is ignored, without its full stop. */
export function consequenceOf({ rule, facts }: Why): string {
  switch (facts.kind) {
    case 'meeting':
      return consequenceOfMeeting(rule, facts);
    case 'prepared':
      return 'warm cookies melt icing, unopened bags cost the wet window';
    case 'dam':
      return DAM_IGNORED[facts.dam];
    case 'wet':
      return techniqueById(facts.technique).tooLate;
    case 'next-mark':
      return 'the pattern comes out another way round';
    case 'level':
      return 'a step shows along the join';
    case 'next-pools':
      return 'small pools that stay wet together crater';
    case 'as-drawn':
      return 'the bag is taken up twice and lines cross the wrong way round';
    case 'dam-first':
      return 'the bead runs into its wet neighbour';
    case 'packing':
      return facts.dries ? 'damp cartons, smudges, mould' : 'it is left undone';
    case 'cover':
      return 'the cover sinks in, and there are two defects';
    case 'cover-dry':
      return 'it smudges';
    case 'relief':
      return 'it sinks in';
    case 'stay':
      if (facts.until === 'out')
        return facts.where === 'fan'
          ? 'its place before the fan may be wanted for another tray'
          : 'left in longer it dries harder than the plan counts on';
      return facts.why === 'pools' ? 'small pools that stay wet cave in' : 'it has not dried as far as the plan counts on';
    case 'sent-at-once':
      return 'what stays wet meanwhile runs and caves in';
    case 'away':
      return 'it is worked where it is not';
    case 'lifted-pieces':
      return 'a piece lifted early breaks';
    case 'in-words':
      return facts.consequence;
  }
}

const DAM_IGNORED: Readonly<Record<Extract<Facts, { kind: 'dam' }>['dam'], string>> = {
  melts: 'a line shows round the section',
  holds: 'the dam gives way and the flood runs off',
  'keeps-colour': 'its colour bleeds into the flood',
};

function consequenceOfMeeting(rule: RuleId, { ask, technique }: MeetingFacts): string {
  const definition = techniqueById(technique);
  switch (rule) {
    case 'touching-sections':
      return ask === 'contrast' ? 'the colours bleed into each other hours later' : 'the colours run together and no step shows';
    case 'second-layer':
      return 'no step shows and the layer sinks';
    case 'drawn-over':
      return 'what is behind would cover what is in front';
    case 'as-you-said':
      return 'not the order you wanted';
    case 'guide-first':
      return 'there is nothing to follow';
    case 'stencil-reach':
      return 'the stencil lies hollow and icing runs under it';
    case 'grains-reach':
      return 'grains stick where they are not wanted';
    case 'crackle-window':
      return technique === 'crackle' ? definition.tooEarly : 'pressing smears the wet neighbour';
    case 'airbrush-reach':
      return definition.leaves === 'mist' ? definition.tooEarly : 'wet mist runs into the icing';
    default:
      return definition.tooEarly;
  }
}
