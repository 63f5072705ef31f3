import type { Margin } from '../drying/uncertainty.js';
import { BadInput } from '../units/bad-input.js';

/**
 * A school is a way of working told by practitioners, as parameters. All values: common practice, no published source.
 * Where schools disagree the user picks one; they are never averaged.
 */
export interface School {
  /** a preset's id, or one of the user's own */
  readonly id: string;
  readonly label: string;
  /** flooding icing, reference seconds */
  readonly floodS: number;
  /** outlining icing, reference seconds; the same as floodS means one bag for both */
  readonly outlineS: number;
  /** icing of piped details, reference seconds */
  readonly pipingS: number;
  /** a neighbour waits this multiple of the loss at *crusted* */
  readonly neighbourCrusts: number;
  /** the dam sets before flooding, or melts into the flood at once */
  readonly outline: 'set' | 'merges';
  /** pause between flooding and wet work */
  readonly pauseS: number;
  /** icing of wet marks, reference seconds */
  readonly wetMarkS: number;
  /** each pull of the scribe is wiped */
  readonly wipesScribe: boolean;
  /** state under piped details */
  readonly detailsOn: 'crusted' | 'set';
  readonly pensOn: 'firm' | 'dry';
  /** how a flood is levelled */
  readonly levelling: 'shake' | 'tap' | 'scribe';
  readonly margin: Margin;
}

export const schoolIds = ['kit', 'one-bag', 'two-bags', 'patient', 'warm-box'] as const;
export type SchoolId = (typeof schoolIds)[number];

export const schools: readonly (School & { readonly id: SchoolId })[] = [
  {
    id: 'kit',
    label: 'Kit',
    floodS: 15,
    outlineS: 15,
    pipingS: 60,
    neighbourCrusts: 0.5,
    outline: 'set',
    pauseS: 60,
    wetMarkS: 15,
    wipesScribe: false,
    detailsOn: 'crusted',
    pensOn: 'dry',
    levelling: 'shake',
    margin: 'bold',
  },
  {
    id: 'one-bag',
    label: 'One bag',
    floodS: 20,
    outlineS: 20,
    pipingS: 60,
    neighbourCrusts: 0.65,
    outline: 'merges',
    pauseS: 0,
    wetMarkS: 20,
    wipesScribe: false,
    detailsOn: 'crusted',
    pensOn: 'firm',
    levelling: 'scribe',
    margin: 'normal',
  },
  {
    id: 'two-bags',
    label: 'Two bags',
    floodS: 15,
    outlineS: 30,
    pipingS: 60,
    neighbourCrusts: 1,
    outline: 'merges',
    pauseS: 0,
    wetMarkS: 15,
    wipesScribe: true,
    detailsOn: 'set',
    pensOn: 'firm',
    levelling: 'scribe',
    margin: 'normal',
  },
  {
    id: 'patient',
    label: 'Patient',
    floodS: 15,
    outlineS: 30,
    pipingS: 60,
    neighbourCrusts: 3,
    outline: 'set',
    pauseS: 60,
    wetMarkS: 15,
    wipesScribe: true,
    detailsOn: 'set',
    pensOn: 'dry',
    levelling: 'tap',
    margin: 'careful',
  },
  {
    id: 'warm-box',
    label: 'Warm box',
    floodS: 20,
    outlineS: 20,
    pipingS: 60,
    neighbourCrusts: 1,
    outline: 'merges',
    pauseS: 0,
    wetMarkS: 20,
    wipesScribe: false,
    detailsOn: 'crusted',
    pensOn: 'dry',
    levelling: 'scribe',
    margin: 'normal',
  },
];

export function schoolById(id: SchoolId): School {
  const school = schools.find((s) => s.id === id);
  if (!school) throw new Error(`no school "${id}"`);
  return school;
}

/** Bounds of a school's numbers: told ranges and a little more, common practice, no published source. */
export const SCHOOL_RANGES = {
  floodS: [6, 30],
  outlineS: [6, 60],
  pipingS: [30, 120],
  wetMarkS: [4, 40],
  neighbourCrusts: [0.3, 4],
  pauseS: [0, 300],
} as const satisfies Partial<Record<keyof School, readonly [number, number]>>;

const CHOICES = {
  outline: ['set', 'merges'],
  detailsOn: ['crusted', 'set'],
  pensOn: ['firm', 'dry'],
  levelling: ['shake', 'tap', 'scribe'],
  margin: ['bold', 'normal', 'careful'],
} as const;

/** Checks a school from outside; throws {@link BadInput} that names the place. */
export function parseSchool(json: unknown, place = 'school'): School {
  const bad = (key: string, cure: string): never => {
    throw new BadInput('school', `${place}${key ? `.${key}` : ''}: ${cure}.`, { place });
  };
  if (typeof json === 'string') {
    const preset = schools.find((s) => s.id === json);
    return preset ?? bad('', `must be one of ${schoolIds.join(', ')}, not ${JSON.stringify(json)}`);
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json)) return bad('', `must be one of ${schoolIds.join(', ')} or a school of your own`);
  const o = json as Record<string, unknown>;
  const known = ['id', 'label', 'wipesScribe', ...Object.keys(SCHOOL_RANGES), ...Object.keys(CHOICES)];
  for (const k of Object.keys(o)) if (!known.includes(k)) bad(k, 'is not known here');
  const text = (key: string): string => {
    const v = o[key];
    return typeof v === 'string' && v.length > 0 && v.length <= 60 ? v : bad(key, 'must be a text of 1 to 60 characters');
  };
  const number = (key: keyof typeof SCHOOL_RANGES): number => {
    const [from, to] = SCHOOL_RANGES[key];
    const v = o[key];
    return typeof v === 'number' && v >= from && v <= to ? v : bad(key, `must be a number from ${from} to ${to}`);
  };
  const choice = <K extends keyof typeof CHOICES>(key: K): (typeof CHOICES)[K][number] =>
    (CHOICES[key] as readonly unknown[]).includes(o[key]) ? (o[key] as (typeof CHOICES)[K][number]) : bad(key, `must be one of ${CHOICES[key].join(', ')}`);
  return {
    id: text('id'),
    label: text('label'),
    floodS: number('floodS'),
    outlineS: number('outlineS'),
    pipingS: number('pipingS'),
    neighbourCrusts: number('neighbourCrusts'),
    outline: choice('outline'),
    pauseS: number('pauseS'),
    wetMarkS: number('wetMarkS'),
    wipesScribe: typeof o['wipesScribe'] === 'boolean' ? o['wipesScribe'] : bad('wipesScribe', 'must be true or false'),
    detailsOn: choice('detailsOn'),
    pensOn: choice('pensOn'),
    levelling: choice('levelling'),
    margin: choice('margin'),
  };
}
