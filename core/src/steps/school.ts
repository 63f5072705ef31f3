import type { Margin } from '../drying/uncertainty.js';

/**
 * A school is a way of working told by practitioners, as parameters. All values: common practice, no published source.
 * Where schools disagree the user picks one; they are never averaged.
 */
export interface School {
  readonly id: SchoolId;
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
  readonly margin: Margin;
}

export const schoolIds = ['kit', 'one-bag', 'two-bags', 'patient', 'warm-box'] as const;
export type SchoolId = (typeof schoolIds)[number];

export const schools: readonly School[] = [
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
    margin: 'normal',
  },
];

export function schoolById(id: SchoolId): School {
  const school = schools.find((s) => s.id === id);
  if (!school) throw new Error(`no school "${id}"`);
  return school;
}
