import type { Margin } from '../drying/uncertainty.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/**
 * A school is a way of working known from practitioners, as parameters. All values: common practice, no published source.
 * Where schools disagree the user picks one; they are never averaged. {@link schoolParameters} tells each one's range.
 */
export interface School {
  /** a preset's id, or one of the user's own */
  readonly id: string;
  readonly label: string;
  /** flooding icing, reference seconds */
  readonly floodS: number;
  /** outlining icing, reference seconds; heeded where outlines have a bag of their own */
  readonly outlineS: number;
  /** one bag outlines and floods, or each has its own */
  readonly bags: 'one' | 'two';
  /** icing of piped details, reference seconds */
  readonly pipingS: number;
  /** icing of wet marks, reference seconds */
  readonly wetMarkS: number;
  /** a neighbour waits this multiple of the loss at *crusted* */
  readonly neighbourCrusts: number;
  /** across strong contrast */
  readonly contrastOn: 'as-neighbour' | 'crusted' | 'set';
  /** a flood on a flood; small and light ones may ask for less */
  readonly layerOn: 'as-neighbour' | 'crusted' | 'light-crusted' | 'set';
  /** state under piped details */
  readonly detailsOn: 'crusted' | 'set';
  /** state under what is raised while part-set */
  readonly reliefOn: 'crusted' | 'set';
  /** state of everything within reach of grains */
  readonly grainsOn: 'crusted' | 'set' | 'dry';
  /** how a piece made beforehand is put on */
  readonly transfer: 'laid-wet' | 'glued';
  /** state under a piece that is glued all the same */
  readonly gluedOn: 'set' | 'firm' | 'dry';
  /** state under pens and stencils, always at the careful quantile */
  readonly pensOn: 'firm' | 'dry';
  /** a neighbour that has dried through is nothing, feared, or wanted */
  readonly driedNeighbour: 'fine' | 'feared' | 'wanted';
  /** small pools a few at a time, each few skinned before the next */
  readonly quickSets: boolean;
  /** minutes in the dehydrator that set a few small pools; before the fan where there is no dehydrator */
  readonly quickSetDehydratorMin: number;
  readonly quickSetFanMin: number;
  /** the dam sets before flooding, or melts into the flood at once */
  readonly outline: 'set' | 'merges';
  /** pause between flooding and wet work */
  readonly pauseS: number;
  /** when the scribe is wiped: never, after single pulls but not on a continuous way, or always */
  readonly wiping: 'never' | 'single-pulls' | 'always';
  /** how a flood is levelled */
  readonly levelling: 'shake' | 'tap' | 'scribe';
  readonly fill: 'plump' | 'just' | 'low';
  /** wet drops are squeezed in at one point, or drawn as a ring and filled */
  readonly drops: 'injected' | 'ring';
  /** how far short of its line a flood without a dam stops, mm */
  readonly edgeMm: number;
  /** what holds paper and pieces that lie flat */
  readonly glue: 'icing' | 'corn-syrup';
  /** steps of several trays interleaved, or one round a visit to the bench */
  readonly working: 'interleaved' | 'round-a-visit';
  readonly margin: Margin;
}

export const schoolIds = ['kit', 'one-bag', 'two-bags', 'patient', 'warm-box'] as const;
export type SchoolId = (typeof schoolIds)[number];

const twoBags: School & { readonly id: 'two-bags' } = {
  id: 'two-bags',
  label: msg`Two bags`,
  floodS: 15,
  outlineS: 30,
  bags: 'two',
  pipingS: 60,
  wetMarkS: 15,
  neighbourCrusts: 1,
  contrastOn: 'set',
  layerOn: 'light-crusted',
  detailsOn: 'set',
  reliefOn: 'crusted',
  grainsOn: 'set',
  transfer: 'glued',
  gluedOn: 'set',
  pensOn: 'firm',
  driedNeighbour: 'feared',
  quickSets: false,
  quickSetDehydratorMin: 3,
  quickSetFanMin: 10,
  outline: 'merges',
  pauseS: 0,
  wiping: 'always',
  levelling: 'scribe',
  fill: 'plump',
  drops: 'injected',
  edgeMm: 0,
  glue: 'corn-syrup',
  working: 'interleaved',
  margin: 'normal',
};

/** Each preset says what differs from working with two bags. */
export const schools: readonly (School & { readonly id: SchoolId })[] = [
  {
    ...twoBags,
    id: 'kit',
    label: msg`Kit`,
    outlineS: 15,
    bags: 'one',
    neighbourCrusts: 0.5,
    contrastOn: 'as-neighbour',
    layerOn: 'as-neighbour',
    detailsOn: 'crusted',
    grainsOn: 'crusted',
    transfer: 'laid-wet',
    pensOn: 'dry',
    driedNeighbour: 'fine',
    outline: 'set',
    pauseS: 60,
    wiping: 'never',
    levelling: 'shake',
    fill: 'just',
    glue: 'icing',
    margin: 'bold',
  },
  {
    ...twoBags,
    id: 'one-bag',
    label: msg`One bag`,
    floodS: 20,
    outlineS: 20,
    bags: 'one',
    wetMarkS: 20,
    neighbourCrusts: 0.65,
    contrastOn: 'as-neighbour',
    layerOn: 'as-neighbour',
    detailsOn: 'crusted',
    grainsOn: 'crusted',
    transfer: 'laid-wet',
    driedNeighbour: 'fine',
    wiping: 'single-pulls',
    fill: 'just',
    edgeMm: 1.5,
    glue: 'icing',
  },
  twoBags,
  {
    ...twoBags,
    id: 'patient',
    label: msg`Patient`,
    neighbourCrusts: 3,
    layerOn: 'set',
    reliefOn: 'set',
    grainsOn: 'dry',
    gluedOn: 'dry',
    pensOn: 'dry',
    driedNeighbour: 'wanted',
    outline: 'set',
    pauseS: 60,
    levelling: 'tap',
    working: 'round-a-visit',
    margin: 'careful',
  },
  {
    ...twoBags,
    id: 'warm-box',
    label: msg`Warm box`,
    floodS: 20,
    outlineS: 20,
    bags: 'one',
    wetMarkS: 20,
    contrastOn: 'crusted',
    layerOn: 'crusted',
    detailsOn: 'crusted',
    grainsOn: 'crusted',
    pensOn: 'dry',
    driedNeighbour: 'fine',
    quickSets: true,
    wiping: 'single-pulls',
    fill: 'low',
  },
];

export function schoolById(id: SchoolId): School {
  const school = schools.find((s) => s.id === id);
  if (!school) throw new Error(`no school "${id}"`);
  return school;
}

type Values = Omit<School, 'id' | 'label'>;
type NumberKey = { [K in keyof Values]: Values[K] extends number ? K : never }[keyof Values];
type ChoiceKey = { [K in keyof Values]: Values[K] extends string ? K : never }[keyof Values];
type YesKey = { [K in keyof Values]: Values[K] extends boolean ? K : never }[keyof Values];

/** One parameter of a school: what it means, what practitioners tell of it, and its bounds. */
export type SchoolParameter = {
  readonly label: string;
  /** range or choices practitioners give; common practice, no published source */
  readonly inPractice: string;
} & (
  | { readonly key: NumberKey; readonly kind: 'number'; readonly from: number; readonly to: number; readonly unit: string }
  | { readonly key: ChoiceKey; readonly kind: 'choice'; readonly of: readonly { readonly value: string; readonly text: string }[] }
  | { readonly key: YesKey; readonly kind: 'yes' }
);

const number = (key: NumberKey, label: string, unit: string, from: number, to: number, inPractice: string): SchoolParameter => ({
  kind: 'number',
  key,
  label,
  unit,
  from,
  to,
  inPractice,
});
const choice = <K extends ChoiceKey>(
  key: K,
  label: string,
  of: Readonly<Record<Values[K] & string, string>>,
  inPractice: string,
): SchoolParameter => ({
  kind: 'choice',
  key,
  label,
  of: Object.entries(of).map(([value, text]) => ({ value, text: text as string })),
  inPractice,
});

/** Every row of a school, in the order of the work; bounds are the known ranges and a little more. */
export const schoolParameters: readonly SchoolParameter[] = [
  number('floodS', msg`flooding icing`, 's', 6, 30, msg`10 to 25 s; thick flood where one bag does all`),
  choice(
    'bags',
    msg`outline and flood`,
    { one: msg`one bag for both`, two: msg`a bag each` },
    msg`one bag snipped small, then wide; or two`,
  ),
  number('outlineS', msg`outlining icing`, 's', 6, 60, msg`25 to 40 s where it has a bag of its own`),
  number('pipingS', msg`piping icing`, 's', 30, 120, '40 to 120 s'),
  number('wetMarkS', msg`icing of wet marks`, 's', 4, 40, msg`flood, or the same bag; outline icing for small sharp ones`),
  number('neighbourCrusts', msg`a neighbour waits, times crusting`, '', 0.3, 4, msg`10 min to an hour: half a crust to three`),
  choice(
    'contrastOn',
    msg`across strong contrast`,
    { 'as-neighbour': msg`as any neighbour`, crusted: msg`until crusted`, set: msg`until set` },
    msg`as any neighbour, or until it is set`,
  ),
  choice(
    'layerOn',
    msg`a second layer`,
    {
      'as-neighbour': msg`as a neighbour`,
      crusted: msg`on a crust`,
      'light-crusted': msg`on a crust if small and light, else on set`,
      set: msg`on set icing`,
    },
    msg`10 min to an hour`,
  ),
  choice(
    'detailsOn',
    msg`piped details`,
    { crusted: msg`on a crust`, set: msg`on set icing` },
    msg`a crust in kits and warm boxes, set elsewhere`,
  ),
  choice('reliefOn', msg`relief while part-set`, { crusted: msg`on a crust`, set: msg`on set icing` }, msg`mostly on a crust`),
  choice(
    'grainsOn',
    msg`grains, when all around is`,
    { crusted: msg`crusted`, set: msg`set`, dry: msg`dry` },
    msg`crusted to dry: grains stick to whatever is wetter`,
  ),
  choice(
    'transfer',
    msg`a piece made beforehand`,
    { 'laid-wet': msg`is laid in wet`, glued: msg`is glued on` },
    msg`laid wet, or glued on set to dry`,
  ),
  choice(
    'gluedOn',
    msg`a piece glued all the same`,
    { set: msg`on set icing`, firm: msg`on firm icing`, dry: msg`on dry icing` },
    msg`set to dry`,
  ),
  choice('pensOn', msg`pens and stencils`, { firm: msg`on firm icing`, dry: msg`on dry icing` }, msg`4 to 6 h, or overnight`),
  choice(
    'driedNeighbour',
    msg`a neighbour dried through`,
    { fine: msg`is no matter`, feared: msg`is feared: flood beside it before it is firm`, wanted: msg`is wanted` },
    msg`feared by some as a cause of craters, wanted by others`,
  ),
  { kind: 'yes', key: 'quickSets', label: msg`small pools are quick-set, four at a time`, inPractice: msg`warm air for minutes, or none` },
  number('quickSetDehydratorMin', msg`minutes in the dehydrator for them`, msg`min`, 1, 15, msg`2 to 5 min at 35 °C`),
  number('quickSetFanMin', msg`minutes before a fan, without a dehydrator`, msg`min`, 3, 30, '5 to 15 min'),
  choice('outline', msg`the outline`, { set: msg`sets first`, merges: msg`melts into the flood` }, msg`at once, or after 3 to 10 min`),
  number('pauseS', msg`pause before wet work`, 's', 0, 300, '0 to 2 min'),
  choice(
    'wiping',
    msg`the scribe is wiped`,
    { never: msg`never, in small patterns`, 'single-pulls': msg`after single pulls, not on one way`, always: msg`after every pull` },
    msg`by design: single pulls wiped, continuous ones not`,
  ),
  choice(
    'levelling',
    msg`levelled by`,
    { scribe: msg`scribing`, tap: msg`tapping`, shake: msg`shaking` },
    msg`scribe beside a crust, shake only where all is wet`,
  ),
  choice(
    'fill',
    msg`filled`,
    { plump: msg`plump`, just: msg`just`, low: msg`low` },
    msg`plump stands proud; low where wet work adds icing`,
  ),
  choice(
    'drops',
    msg`wet drops are`,
    { injected: msg`squeezed in at one point`, ring: msg`drawn as a ring and filled` },
    msg`squeezed in by most; a ring filled where injected dots overflow`,
  ),
  number('edgeMm', msg`stops short of its line, without a dam`, msg`mm`, 0, 3, msg`1 to 2 mm, or up to the line`),
  choice(
    'glue',
    msg`paper and flat pieces are held by`,
    { icing: msg`icing`, 'corn-syrup': msg`corn syrup` },
    msg`corn syrup flat, icing standing`,
  ),
  choice(
    'working',
    msg`way of working`,
    { interleaved: msg`trays interleaved`, 'round-a-visit': msg`one round a visit to the bench` },
    msg`several trays in turn, or a round and then a rest`,
  ),
  choice(
    'margin',
    msg`margin`,
    { bold: msg`bold`, normal: msg`normal`, careful: msg`careful` },
    msg`how sure a wait is to be long enough: 50, 80 or 95 %`,
  ),
];

/**
 * What schools of one's own meant before every row was a parameter: they were reckoned with these, whatever they were
 * copied from. Kept so that an older school goes on meaning what it meant.
 */
const BEFORE_ALL_ROWS = {
  contrastOn: 'set',
  layerOn: 'light-crusted',
  reliefOn: 'crusted',
  transfer: 'glued',
  gluedOn: 'set',
  driedNeighbour: 'fine',
  quickSets: false,
  quickSetDehydratorMin: 3,
  quickSetFanMin: 10,
  fill: 'plump',
  edgeMm: 0,
  glue: 'icing',
  working: 'interleaved',
} as const;

/** Rows that came later still: what a school that does not say them meant. */
const BEFORE_THE_HANDS = { drops: 'injected' } as const;

/** An older school's JSON with the rows it did not know filled in as they were meant. Presets are taken as they are now. */
export function migratedSchool(kept: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  const { quickSetBoxMin, ...others } = kept;
  const json = quickSetBoxMin === undefined ? kept : { quickSetDehydratorMin: quickSetBoxMin, ...others };
  if (!('wipesScribe' in json) && 'wiping' in json) return { ...BEFORE_THE_HANDS, ...json };
  const { wipesScribe, ...rest } = json;
  const preset = schools.find((s) => s.id === json['id']);
  if (preset) return { ...preset };
  return {
    ...BEFORE_ALL_ROWS,
    ...BEFORE_THE_HANDS,
    bags: json['floodS'] === json['outlineS'] ? 'one' : 'two',
    grainsOn: json['detailsOn'],
    wiping: wipesScribe === true ? 'always' : wipesScribe === false ? 'never' : wipesScribe,
    ...rest,
  };
}

/** Checks a school from outside; throws {@link BadInput} that names the place. */
export function parseSchool(json: unknown, place = 'school'): School {
  const bad = (key: string, cure: string): never => {
    throw new BadInput('school', `${place}${key ? `.${key}` : ''}: ${cure}.`, { place });
  };
  if (typeof json === 'string') {
    const preset = schools.find((s) => s.id === json);
    return preset ?? bad('', msg`must be one of ${schoolIds.join(', ')}, not ${JSON.stringify(json)}`);
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    return bad('', msg`must be one of ${schoolIds.join(', ')} or a school of your own`);
  const o = migratedSchool(json as Record<string, unknown>);
  const known = ['id', 'label', ...schoolParameters.map((p) => p.key)];
  for (const k of Object.keys(o)) if (!known.includes(k)) bad(k, msg`is not known here`);
  const text = (key: string): string => {
    const v = o[key];
    return typeof v === 'string' && v.length > 0 && v.length <= 60 ? v : bad(key, msg`must be a text of 1 to 60 characters`);
  };
  const checkedValue = (p: SchoolParameter): unknown => {
    const v = o[p.key];
    if (p.kind === 'yes') return typeof v === 'boolean' ? v : bad(p.key, msg`must be true or false`);
    if (p.kind === 'number')
      return typeof v === 'number' && v >= p.from && v <= p.to ? v : bad(p.key, msg`must be a number from ${p.from} to ${p.to}`);
    const values = p.of.map((c) => c.value);
    return values.includes(v as string) ? v : bad(p.key, msg`must be one of ${values.join(', ')}`);
  };
  return {
    id: text('id'),
    label: text('label'),
    ...Object.fromEntries(schoolParameters.map((p) => [p.key, checkedValue(p)])),
  } as unknown as School;
}
