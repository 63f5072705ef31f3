import type { DropWay } from '../../design/technique-names.js';
import type { DryingState } from '../../drying/state.js';
import type { Grade } from '../../icing/grade.js';
import { msg } from '../../words/index.js';
import type { CautionId } from '../cautions/caution.js';
import type { Pace } from '../pace.js';
import type { School } from '../school.js';
import type { Outlet } from '../tips.js';

/** What a technique leaves on the cookie: a body of icing that dries, or something that does not. */
export type Leaves = 'flood' | 'bead' | 'piece' | 'film' | 'grains' | 'mist' | 'nothing';
/** Rows of the law (`law.ts`): techniques that ask the same of what they meet. */
export type AskRow =
  | 'flood'
  | 'wet'
  | 'piped'
  | 'relief'
  | 'grains'
  | 'crackle'
  | 'glued'
  | 'guide'
  | 'pen'
  | 'stencil'
  | 'airbrush'
  | 'dry'
  | 'none';

/** Habits of a school that cost or save hands-on seconds. */
export type Habits = Pick<School, 'wiping' | 'levelling'>;

/** What a technique's motions are measured by. */
export interface Extent {
  /** of strokes */
  readonly lengthMm: number;
  /** of filled areas, and of the ground strokes cover */
  readonly areaMm2: number;
  readonly count: number;
  /** of these, areas that are filled, and what they cover */
  readonly filled: number;
  readonly filledMm2: number;
  /** of these, ways of the scribe that go to and fro in one go */
  readonly continuous: number;
  /** length of the rings of drops that are drawn and filled */
  readonly ringMm: number;
}

/** What the hands are about to do, as far as it changes how it is said. */
export interface Doing {
  readonly school: School;
  readonly fill: School['fill'];
  /** how far short of its line a flood stops */
  readonly edgeMm: number;
  readonly rings: 0 | 1 | 2;
  readonly way: DropWay | undefined;
  /** strokes, drops or pulls on one cookie */
  readonly count: number;
  /** strokes that cross each other: a weave, a plaid */
  readonly crossing: boolean;
}

/** Where in the life of a cookie a technique belongs. */
export type TechniqueKind = 'prepare' | 'dam' | 'flood' | 'mark' | 'detail' | 'pack';

/** One definition a technique; adding one is adding a file and a line in `index.ts`. */
export interface TechniqueDefinition<Id extends string = string> {
  readonly id: Id;
  readonly kind: TechniqueKind;
  /** what is there afterwards, for whatever comes next to it or on it */
  readonly leaves: Leaves;
  /** its row of the law: what it asks of what it meets */
  readonly asks: AskRow;
  readonly label: string;
  /** the verb of a title: "pipe the rope", "dust the cheeks" */
  readonly verb: string;
  /** icing it takes; null for tools without icing of their own */
  readonly icing: Grade['id'] | null;
  readonly tool: string;
  /** what its icing leaves the bag through; a round tip where nothing else is said, null without a bag */
  readonly outlet?: Outlet;
  /** bore of the tip or width of the snip it usually asks for, mm; null without a bag. Common practice, no published source */
  readonly openingMm: number | null;
  /** the base's state by which it must have ended; null where waiting only costs time */
  readonly until: DryingState | null;
  readonly tooEarly: string;
  readonly tooLate: string;
  readonly badlyDone: string;
  /** short lines in the order of the hands; hidden at the bench once they are known */
  readonly hands: (doing: Doing) => readonly string[];
  readonly cautions: readonly CautionId[];
  /** hands-on seconds for one cookie */
  readonly seconds: (extent: Extent, pace: Pace, school: Habits) => number;
}

/** Keeps the id's own type, so that the registry can name every technique. */
export const technique = <const Id extends string>(definition: TechniqueDefinition<Id>): TechniqueDefinition<Id> => definition;

export const WAITING_ONLY_COSTS_TIME = msg`waits only cost time`;

/** Seconds of wiping the scribe: after every pull, after single pulls but not on one continuous way, or never. */
export function wipingS({ count, continuous }: Extent, pace: Pace, { wiping }: Habits): number {
  const wiped = wiping === 'always' ? count : wiping === 'single-pulls' ? count - continuous : 0;
  return wiped * pace.wipeS;
}

/** A bead is laid along its strokes; a filled one (a nose, a button) takes a touch each and the time its area takes to fill. */
export const strokeOrFill = ({ lengthMm, filledMm2, filled }: Extent, pace: Pace): number =>
  lengthMm / pace.beadMmPerS + filled * pace.dropS + (filledMm2 / 100) * pace.floodSPerCm2;
