import type { RuleContext } from '../derive.js';
import type { Gap, RuleId } from '../step.js';

/** One rule of the trade: from a design's steps to the waits and windows it asks for. Common practice, no published source. */
export interface Rule {
  readonly id: RuleId;
  readonly gaps: (context: RuleContext) => Gap[];
}
