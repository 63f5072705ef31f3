import type { DryingState, SurfaceState } from '../../drying/state.js';
import type { Grade } from '../../icing/grade.js';
import type { CautionId } from '../cautions/caution.js';
import type { Pace } from '../pace.js';

/** What a technique's motions are measured by. */
export interface Extent {
  readonly lengthMm: number;
  readonly areaMm2: number;
  readonly count: number;
}

/** Where in the life of a cookie a technique belongs. */
export type TechniqueKind = 'prepare' | 'dam' | 'flood' | 'mark' | 'detail' | 'pack';

/** One definition a technique; adding one is adding a file and a line in `index.ts`. */
export interface TechniqueDefinition<Id extends string = string> {
  readonly id: Id;
  readonly kind: TechniqueKind;
  readonly label: string;
  /** the verb of a title: "pipe the rope", "dust the cheeks" */
  readonly verb: string;
  /** icing it takes; null for tools without icing of their own */
  readonly icing: Grade['id'] | null;
  readonly tool: string;
  /** bore of the tip or width of the snip it usually asks for, mm; null without a bag. Common practice, no published source */
  readonly openingMm: number | null;
  /** state of what lies under it when it is done; common practice, no published source */
  readonly needs: SurfaceState | 'bare';
  /** the base's state by which it must have ended; null where waiting only costs time */
  readonly until: DryingState | null;
  /** whether the school may ask for another state under it */
  readonly asTheSchoolSays?: 'details' | 'pens';
  /** it leaves a bead or a layer of icing that has to dry itself */
  readonly leavesIcing: boolean;
  readonly tooEarly: string;
  readonly tooLate: string;
  readonly badlyDone: string;
  readonly cautions: readonly CautionId[];
  /** hands-on seconds for one cookie */
  readonly seconds: (extent: Extent, pace: Pace, wipesScribe: boolean) => number;
}

/** Keeps the id's own type, so that the registry can name every technique. */
export const technique = <const Id extends string>(definition: TechniqueDefinition<Id>): TechniqueDefinition<Id> => definition;

export const WAITING_ONLY_COSTS_TIME = 'waits only cost time';
