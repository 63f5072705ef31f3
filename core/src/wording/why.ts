import type { DryingState } from '../drying/state.js';
import { defectById } from '../steps/defects/index.js';
import { techniqueById } from '../steps/techniques/index.js';
import type { AskId, Facts, MeetingFacts, RuleId, StayReason, Why } from '../steps/why.js';
import { msg, word } from '../words/index.js';

/** What the earlier part does before the later may come, and why where that is not plain. */
interface AskWords {
  readonly does: string;
  readonly why?: string;
}

const VERBS: Readonly<Partial<Record<DryingState, string>>> = { skinned: msg`skins`, crusted: msg`crusts`, set: msg`sets` };
const named = (state: DryingState | undefined): string => (state === undefined ? msg`done` : word(state));
const reaches = (state: DryingState | undefined): string => VERBS[state ?? 'dry'] ?? msg`is ${named(state)}`;

/** What the law asks, in words; those that ask for no state give the reason of the order alone. */
const ASKS: Readonly<Record<AskId, (state?: DryingState) => AskWords>> = {
  plain: (state) => ({ does: reaches(state) }),
  'under-grains': (state) => ({ does: msg`${reaches(state)} under its grains` }),
  contrast: (state) => ({ does: reaches(state), why: msg`strong contrast would bleed` }),
  'as-neighbour': (state) => ({ does: msg`${reaches(state)} as for a neighbour` }),
  'run-together': (state) => ({ does: msg`${reaches(state)}, or the two run together` }),
  'holds-flood': (state) => ({ does: msg`${reaches(state)}, so that it holds the flood beside it` }),
  'soft-beneath': (state) => ({ does: msg`${reaches(state)} and is still soft beneath` }),
  'grains-stick': (state) => ({ does: msg`is ${named(state)}`, why: msg`grains stick to anything wetter` }),
  'still-cracks': () => ({ does: msg`has a crust that still cracks` }),
  'leans-on-several': (state) => ({ does: msg`is ${named(state)}, since the piece leans on several parts` }),
  'bears-piece': (state) => ({ does: msg`is ${named(state)} and bears a piece` }),
  'under-template': (state) => ({ does: msg`is ${named(state)} under the template` }),
  'under-nib': (state) => ({ does: msg`is ${named(state)} under the nib` }),
  'under-stencil': (state) => ({ does: msg`is ${named(state)} under the stencil` }),
  'glue-holds': (state) => ({ does: msg`its glue is ${named(state)} before a stencil presses on it` }),
  'under-air': (state) => ({ does: msg`${reaches(state)} before air blows on it` }),
  'film-dry': () => ({ does: msg`the airbrushed film is dry to the touch after ten minutes` }),
  'film-holds': () => ({ does: msg`what lies there does not have to dry first` }),
  'nothing-left': () => ({ does: msg`it leaves nothing behind that could smear: only the order counts` }),
  'beside-bead': () => ({ does: msg`a bead beside icing touches nothing wet of it` }),
  'bead-melts': () => ({ does: msg`a dividing bead melts into the flood beside it` }),
  'same-bag': () => ({ does: msg`piped from the same bag, one runs into the other on purpose` }),
  'mist-over-mist': () => ({ does: msg`one mist goes over another` }),
  'wet-only': () => ({ does: msg`wet work goes into wet icing only: lay it in a flood or a bead, or pipe it as a detail` }),
  'prepared-first': () => ({ does: msg`a cookie is prepared before anything is on it` }),
  guides: () => ({ does: msg`what is followed is there first` }),
  'in-front': () => ({ does: msg`the one in front covers it in the drawing` }),
  'as-said': () => ({ does: msg`as you said` }),
  'first-of-all': () => ({ does: msg`it comes before everything it does not overlap, as you said` }),
  'flat-stencil': () => ({ does: msg`the stencil lies flat before anything stands proud within its reach` }),
  'mist-drifted': () => ({ does: msg`the mist that drifted there is dry to the touch after ten minutes` }),
  'press-smears': () => ({ does: msg`pressing would smear a wet neighbour` }),
  'laid-later': () => ({ does: msg`laid later, no grain can stick to it` }),
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
      return msg`cookies are cool and bags open before the first icing`;
    case 'dam':
      return facts.dam === 'melts'
        ? msg`the outline of ${facts.part} melts into its flood while it is wet`
        : msg`the outline of ${facts.part} skins first, so that ${
            facts.dam === 'keeps-colour'
              ? msg`its colour stays in it`
              : msg`it
          holds the flood`
          }`;
    case 'wet':
      return msg`${facts.work} goes into ${facts.into} while it is wet`;
    case 'next-mark':
      return msg`${facts.later} follows ${facts.earlier} at once`;
    case 'level':
      return msg`${facts.later} meets ${facts.earlier} while it is wet, so that they lie level`;
    case 'next-pools':
      return msg`${facts.earlier} is quick-set (${facts.dehydratorMin} min in the dehydrator, or ${facts.fanMin} before a fan) and has
        skinned before the next small pools are flooded`;
    case 'as-drawn':
      return msg`${facts.later} follows ${facts.earlier}, as they were drawn`;
    case 'dam-first':
      return msg`the dam of ${facts.dam} is drawn before ${facts.beside} beside it is flooded`;
    case 'packing':
      return facts.dries
        ? msg`${facts.work} is dry through before the cookie is packed`
        : msg`the ${facts.work} is done before the cookie is packed`;
    case 'cover':
      return msg`${facts.work} is ${word(facts.state)} before ${defectById(facts.defect).seen} on it is covered`;
    case 'cover-dry':
      return msg`what covers it is dry through before it is packed`;
    case 'relief':
      return msg`the flood crusts before it carries relief`;
    case 'stay':
      return msg`tray ${facts.trayId} ${facts.where === 'fan' ? msg`stands before the fan` : msg`is in the dehydrator`} for
        ${facts.minutes} min${STAYS[facts.why]}`;
    case 'sent-at-once':
      return facts.why === 'pools'
        ? msg`small pools go to dry as soon as they are laid`
        : msg`the round goes to dry as soon as it is laid, as you asked`;
    case 'away':
      return msg`tray ${facts.trayId} is away until it has dried`;
    case 'lifted-pieces':
      return msg`its pieces are dry through and lifted from their parchment first`;
    case 'in-words':
      return facts.reason;
  }
}

const STAYS: Readonly<Record<StayReason, string>> = {
  time: '',
  pools: msg`, so that its small pools set before they cave in`,
  asked: msg`, as you asked`,
  dries: msg`, since in the air of the bench it would not dry`,
};

function reasonOfMeeting({ earlier, later, technique, isFlood, how, ask, state, said }: MeetingFacts): string {
  const before =
    how === 'beside'
      ? msg`before ${later} beside it is flooded`
      : how === 'on'
        ? isFlood
          ? msg`before ${later} is laid on it`
          : msg`before the ${later} on it`
        : msg`before ${later}`;
  if (said) {
    const asked = [said.state, said.minutes === undefined ? undefined : msg`${said.minutes} min old`]
      .filter((x) => x !== undefined)
      .join(msg` and `);
    return msg`${earlier} is ${asked} ${before}, as it was said of ${later}`;
  }
  if (state === undefined) return msg`${earlier} comes before ${later}: ${askText(ask)}`;
  const { does, why } = ASKS[ask](state);
  return `${earlier} ${does} ${before}${isFlood ? '' : ` (${techniqueById(technique).label})`}${why === undefined ? '' : `: ${why}`}`;
}

/** What happens where the wait is ignored, without its full stop. */
export function consequenceOf({ rule, facts }: Why): string {
  switch (facts.kind) {
    case 'meeting':
      return consequenceOfMeeting(rule, facts);
    case 'prepared':
      return msg`warm cookies melt icing, unopened bags cost the wet window`;
    case 'dam':
      return DAM_IGNORED[facts.dam];
    case 'wet':
      return techniqueById(facts.technique).tooLate;
    case 'next-mark':
      return msg`the pattern comes out another way round`;
    case 'level':
      return msg`a step shows along the join`;
    case 'next-pools':
      return msg`small pools that stay wet together crater`;
    case 'as-drawn':
      return msg`the bag is taken up twice and lines cross the wrong way round`;
    case 'dam-first':
      return msg`the bead runs into its wet neighbour`;
    case 'packing':
      return facts.dries ? msg`damp cartons, smudges, mould` : msg`it is left undone`;
    case 'cover':
      return msg`the cover sinks in, and there are two defects`;
    case 'cover-dry':
      return msg`it smudges`;
    case 'relief':
      return msg`it sinks in`;
    case 'stay':
      if (facts.until === 'out')
        return facts.where === 'fan'
          ? msg`its place before the fan may be wanted for another tray`
          : msg`left in longer it dries harder than the plan counts on`;
      return facts.why === 'pools' ? msg`small pools that stay wet cave in` : msg`it has not dried as far as the plan counts on`;
    case 'sent-at-once':
      return msg`what stays wet meanwhile runs and caves in`;
    case 'away':
      return msg`it is worked where it is not`;
    case 'lifted-pieces':
      return msg`a piece lifted early breaks`;
    case 'in-words':
      return facts.consequence;
  }
}

const DAM_IGNORED: Readonly<Record<Extract<Facts, { kind: 'dam' }>['dam'], string>> = {
  melts: msg`a line shows round the section`,
  holds: msg`the dam gives way and the flood runs off`,
  'keeps-colour': msg`its colour bleeds into the flood`,
};

function consequenceOfMeeting(rule: RuleId, { ask, technique }: MeetingFacts): string {
  const definition = techniqueById(technique);
  switch (rule) {
    case 'touching-sections':
      return ask === 'contrast' ? msg`the colours bleed into each other hours later` : msg`the colours run together and no step shows`;
    case 'second-layer':
      return msg`no step shows and the layer sinks`;
    case 'drawn-over':
      return msg`what is behind would cover what is in front`;
    case 'as-you-said':
      return msg`not the order you wanted`;
    case 'guide-first':
      return msg`there is nothing to follow`;
    case 'stencil-reach':
      return msg`the stencil lies hollow and icing runs under it`;
    case 'grains-reach':
      return msg`grains stick where they are not wanted`;
    case 'crackle-window':
      return technique === 'crackle' ? definition.tooEarly : msg`pressing smears the wet neighbour`;
    case 'airbrush-reach':
      return definition.leaves === 'mist' ? definition.tooEarly : msg`wet mist runs into the icing`;
    default:
      return definition.tooEarly;
  }
}
