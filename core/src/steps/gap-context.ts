import type { Design } from '../design/design.js';
import type { Item } from './items.js';
import type { StackOrder } from './order.js';
import type { School } from './school.js';
import type { Step } from './step.js';

/** What the gaps of one cookie are made from. */
export interface GapContext {
  readonly design: Design;
  readonly school: School;
  readonly items: readonly Item[];
  readonly order: StackOrder;
  readonly steps: readonly Step[];
}
