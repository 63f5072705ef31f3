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
  /** a name, or names in order of weight: the first counts most */
  readonly objective: 'makespan' | 'tardiness' | readonly Level[];
  /** what is held from the start of one task to the end of another: a place in the dehydrator, an open bag */
  readonly holds?: readonly Hold[];
  /** what may be done or left out: tasks, links and holds hang on them */
  readonly options?: readonly Option[];
  /** no task ends after it */
  readonly horizon?: number;
  /** ISO time of second 0 */
  readonly epoch?: string;
}

/** Something that may be done or left out, as carrying a tray to the fan; of two that exclude each other only one is taken. */
export interface Option {
  readonly id: string;
  readonly excludes?: readonly string[];
}
/** Options by name: true where it is taken, false where it is left out. What says several stands only where all are so. */
export type When = Readonly<Record<string, boolean>>;

/** What can be made least: broken soft maxima, lateness, the end of all, changes of family. */
export const levels = ['soft', 'tardiness', 'makespan', 'changes'] as const;
export type Level = (typeof levels)[number];

export interface Hold {
  readonly resource: string;
  readonly from: string;
  readonly to: string;
  readonly amount: number;
  readonly if?: When | null;
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
  /** ways to do it, each with what it uses and how long it takes; exactly one is chosen */
  readonly usesOneOf?: readonly Alternative[];
  readonly family?: string | null;
  readonly release?: number;
  readonly due?: number | null;
  /** there only where these options are so; a link or hold of a task that is not there is void */
  readonly if?: When | null;
}

export interface Alternative {
  readonly uses: Readonly<Record<string, number>>;
  readonly duration: number;
}

/** start(to) ≥ anchor(from) + min and, where given, ≤ anchor(from) + max; the anchor is the end unless said. */
export interface Link {
  readonly from: string;
  readonly to: string;
  readonly anchor?: 'start' | 'end';
  readonly min: number;
  readonly max?: number | null;
  /** the maximum may be broken at this much a second; without it, never */
  readonly soft?: number | null;
  readonly if?: When | null;
}

export interface Solution {
  readonly format: 'kestfog-solution/1';
  readonly makespan: number;
  readonly tardiness?: number;
  readonly start: Readonly<Record<string, number>>;
  /** nothing better exists; one for each level where the objective is a list */
  readonly proven: boolean | readonly boolean[];
  readonly lowerBound: number;
  readonly tardinessLowerBound?: number;
  /** Σ weight × seconds of broken soft maxima, and which they are */
  readonly softCost?: number;
  readonly broken?: readonly { readonly link: number; readonly bySeconds: number }[];
  readonly changes?: number;
  /** for each task that had a choice, which of its alternatives was taken, from 0 */
  readonly assigned?: Readonly<Record<string, number>>;
  /** options that are taken; tasks of the others have no start */
  readonly taken?: readonly string[];
}

export interface Infeasible {
  readonly format: 'kestfog-solution/1';
  readonly infeasible: true;
  readonly because: {
    readonly kind: 'positive-cycle' | 'resource' | 'calendar';
    readonly links: readonly number[];
    readonly tasks: readonly string[];
  };
  readonly message: string;
}

/** Ended without a plan and without a proof that none exists. */
export interface Unsolved {
  readonly format: 'kestfog-solution/1';
  readonly unsolved: true;
  readonly message: string;
}
export type Outcome = Solution | Infeasible | Unsolved;
