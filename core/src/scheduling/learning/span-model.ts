import type { Model } from '../model.js';
import type { Edge } from './differences.js';
import type { Propagator } from './engine.js';
import type { Usage } from './propagators.js';

/**
 * A span that may be there or not: a stroke of work begins it, another ends it, and between the two it holds one unit of a place, as
 * long as is best. Where it is there, some tasks come before it and some after.
 */
export interface Span {
  /** resource of capacity 1 that does both strokes, by index */
  readonly worker: number;
  /** resource it holds one unit of, from the end of the first stroke to the end of the second, by index in {@link SpanModel.places} */
  readonly place: number;
  readonly strokeS: number;
  readonly before: readonly number[];
  readonly after: readonly number[];
  /** how long it is at least and at most, from the end of the first stroke to the start of the second */
  readonly leastS: number;
  readonly mostS: number;
  /** it is there in any case */
  readonly always: boolean;
  /** tasks it begins no later than so long after the end of */
  readonly soonAfter: readonly { readonly task: number; readonly mostS: number }[];
}

/** A lag from the start of one task to the start of another that is shorter by spans between them. */
export interface SpannedLag {
  readonly from: number;
  readonly to: number;
  /** spans that may lie between, in their order, by index in {@link SpanModel.spans} */
  readonly spans: readonly number[];
  /** least lag with spans as far as they are known; never more where one is longer, or where less is known */
  readonly leastS: LeastLag;
}

/**
 * `lengthsS`: how long each span is at most; one that is not there has length 0. `there`: those that certainly are. `sinceS`: of those, how
 * long before it begins the one before ended its hold, or the earlier task began, at least; 0 where that is not known. Where the
 * first span at each place is as long as all spans together, and the others have no length, the lag is never longer.
 */
export type LeastLag = (lengthsS: readonly number[], there: readonly boolean[], sinceS: readonly number[]) => number;

/** A greatest lag from the start of one task to the start of another, which spans between them make smaller. */
export interface SpannedMaximum {
  readonly from: number;
  readonly to: number;
  readonly spans: readonly number[];
  readonly mostS: GreatestLag;
}

/** `lengthsS`: how long each span is at least; one that may not be there has length 0. Never more where one is longer. */
export type GreatestLag = (lengthsS: readonly number[]) => number;

/** Spans, what they shorten, and where they are held. Of two that exclude each other at most one is there. */
export interface SpanModel {
  readonly spans: readonly Span[];
  readonly lags: readonly SpannedLag[];
  readonly maxima: readonly SpannedMaximum[];
  readonly places: readonly number[];
  readonly excludes: readonly (readonly [number, number])[];
}

/** Where a span is in a schedule: when its first and its second stroke begin. */
export interface SpanAt {
  readonly span: number;
  readonly beginS: number;
  readonly endS: number;
}

/** What a search is built from, as far as spans add to it. */
export interface SearchParts {
  readonly m: Model;
  readonly earliest: readonly number[];
  readonly incumbent: readonly number[];
  readonly edges: Edge[];
  readonly propagators: Propagator[];
  readonly add: (lo: number, hi: number) => number;
  /** a 0–1 variable that is branched on */
  readonly choice: (phase: 0 | 1) => number;
  readonly usages: (Usage[] & { capacity?: number })[];
  readonly makespan: number;
  readonly mostMakespan: number;
}

/** The variables of a span: whether it is there, and the starts of its two strokes. */
export interface SpanVariables {
  readonly there: number;
  readonly begin: number;
  readonly end: number;
}
