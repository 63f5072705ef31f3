/**
 * The open format `kestfog-problem/1`: scheduling with minimum and maximum time lags (RCPSP/max in the literature),
 * closed hours and sequence-dependent changeovers. Nothing about cookies in here. Whole seconds throughout.
 */
export interface Problem {
  readonly format: 'kestfog-problem/1';
  readonly name?: string;
  readonly resources: readonly Resource[];
  readonly tasks: readonly Task[];
  readonly links: readonly Link[];
  readonly objective: 'makespan' | 'tardiness';
  /** no task ends after it */
  readonly horizon?: number;
  /** ISO time of second 0 */
  readonly epoch?: string;
}

export interface Resource {
  readonly id: string;
  readonly capacity: number;
  /** half-open spans in which nothing that uses it runs */
  readonly closed?: readonly (readonly [number, number])[];
  /** seconds between consecutive tasks of different family, capacity 1 only */
  readonly changeover?: number;
}

export interface Task {
  readonly id: string;
  readonly duration: number;
  readonly uses?: Readonly<Record<string, number>>;
  readonly family?: string | null;
  readonly release?: number;
  readonly due?: number | null;
}

/** start(to) ≥ anchor(from) + min and, where given, ≤ anchor(from) + max; the anchor is the end unless said. */
export interface Link {
  readonly from: string;
  readonly to: string;
  readonly anchor?: 'start' | 'end';
  readonly min: number;
  readonly max?: number | null;
}

export interface Solution {
  readonly format: 'kestfog-solution/1';
  readonly makespan: number;
  readonly tardiness?: number;
  readonly start: Readonly<Record<string, number>>;
  readonly proven: boolean;
  readonly lowerBound: number;
  readonly tardinessLowerBound?: number;
}

export interface Infeasible {
  readonly format: 'kestfog-solution/1';
  readonly infeasible: true;
  readonly because: { readonly kind: 'positive-cycle' | 'resource' | 'calendar'; readonly links: readonly number[]; readonly tasks: readonly string[] };
  readonly message: string;
}

/** Ended without a plan and without a proof that none exists. */
export interface Unsolved {
  readonly format: 'kestfog-solution/1';
  readonly unsolved: true;
  readonly message: string;
}
export type Outcome = Solution | Infeasible | Unsolved;
