import type { SurfaceState } from '../../drying/state.js';
import type { Pace } from '../pace.js';
import type { TechniqueId } from '../step.js';

/** What a technique's motions are measured by. */
export interface Extent {
  readonly lengthMm: number;
  readonly areaMm2: number;
  readonly count: number;
}

/** One definition a technique; adding one is adding a file and a line in `index.ts`. */
export interface TechniqueDefinition {
  readonly id: TechniqueId;
  readonly label: string;
  readonly tool: string;
  /** state of what lies under it when it is done; common practice, no published source */
  readonly needs: SurfaceState | 'bare';
  readonly tooEarly: string;
  readonly tooLate: string;
  /** hands-on seconds for one cookie */
  readonly seconds: (extent: Extent, pace: Pace, wipesScribe: boolean) => number;
}
