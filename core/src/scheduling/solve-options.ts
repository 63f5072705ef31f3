/** How long a search goes on, and where it begins. */
export interface SolveOptions {
  /** stop after this many passes of improvement; what makes a run repeatable */
  readonly passes: number;
  /** share of the time used up, 1 ends the search: time is the caller's affair */
  readonly timeUsed?: () => number;
  readonly seed?: number;
  /** an earlier plan, by task: its starts, where they still hold, are where the search begins */
  readonly warm?: Readonly<Record<string, number>>;
  /** starts that do not move: what is done or in hand */
  readonly frozen?: Readonly<Record<string, number>>;
  readonly onProgress?: (progress: { makespan: number; tardiness: number; lowerBound: number; pass: number }) => void;
}
