import { type Risk } from '../drying/risk.js';
import type { CountedBags } from '../steps/derive.js';
import { type Pace } from '../steps/pace.js';
import { type Gap } from '../steps/step.js';
import { type Tip } from '../steps/tips.js';
import { NoAnswer } from '../units/bad-input.js';
import { type Course, type Making } from './course.js';
import { timeGap } from './timed-gap.js';

/** Something on a design that may go wrong, in words, with the one change that helps most. */
export interface DesignCheck {
  readonly kind: CheckKind;
  readonly part: string;
  readonly word: Risk['word'];
  /** 0–1; by this the worst of several cookies is shown */
  readonly risk: number;
  readonly text: string;
  readonly change: string | null;
}
export type CheckKind =
  | 'hollow'
  | 'crater'
  | 'bleed'
  | 'overflow'
  | 'ridges'
  | 'dent'
  | 'crackle'
  | 'window'
  | 'bridge'
  | 'contrast'
  | 'lettering'
  | 'spread'
  | 'lumps'
  | 'tip'
  | 'never-dries';

export interface CheckInput extends Making {
  readonly pace?: Pace;
  /** what really happens to its cookies, where it was planned; one cookie by itself where nothing is said */
  readonly courses?: readonly Course[];
  /** what bags were counted to be, where they were: a name says what was wanted */
  readonly counted?: CountedBags | undefined;
  /** the kitchen's own tips */
  readonly tips?: readonly Tip[] | undefined;
}

export const checkOf = (kind: CheckKind, part: string, name: string, r: Risk): DesignCheck => ({
  kind,
  part,
  word: r.word,
  risk: r.risk,
  text: `${name}: ${r.reasons.slice(0, 2).join(', ')}`,
  change: r.bestChange,
});
/** Something that is so or is not: seen on the drawing, without chance. */
export const warning = (kind: CheckKind, part: string, word: 'watch' | 'likely', text: string, change: string): DesignCheck => ({
  kind,
  part,
  word,
  risk: word === 'likely' ? 0.6 : 0.3,
  text,
  change,
});

/** Why a wait never ends in any of the airs there are; null where it does. */
export function neverDries(
  gap: Gap,
  { air, airAt, margin, factors }: Pick<CheckInput, 'air' | 'airAt' | 'margin' | 'factors'>,
): string | null {
  try {
    timeGap(gap, air, margin, factors, [airAt?.fan, airAt?.dehydrator]);
    return null;
  } catch (error) {
    if (error instanceof NoAnswer) return error.message;
    throw error;
  }
}
