import type { DryingState } from '../drying/state.js';
import type { DefectId } from './defects/index.js';
import type { TechniqueId } from './techniques/index.js';

export type RuleId =
  | 'outline-then-flood'
  | 'dam-before-neighbour'
  | 'wet-window'
  | 'marks-in-order'
  | 'touching-sections'
  | 'flush-join'
  | 'crackle-window'
  | 'as-you-said'
  | 'second-layer'
  | 'detail-rests-on'
  | 'pen-needs-firm'
  | 'pack-when-dry'
  | 'prepared-first'
  | 'away-drying'
  | 'drawn-over'
  | 'guide-first'
  | 'dividing-bead'
  | 'laid-over'
  | 'airbrush-reach'
  | 'stencil-reach'
  | 'grains-reach'
  | 'few-pools'
  | 'pieces-first';

/**
 * Why something waits or must follow in time: the rule, and what it is about. The words are made from it where they are shown,
 * so that a plan can be read in other words, and by programs, without parsing sentences.
 */
export interface Why {
  readonly rule: RuleId;
  readonly facts: Facts;
}

/** The two fields of a {@link Why}, of whatever carries it. */
export const whyOf = ({ rule, facts }: Why): Why => ({ rule, facts });

/** What the law's answer to a meeting rests on. Those of the first group ask for a state, those of the second only for an order. */
export type AskId =
  | 'plain'
  | 'under-grains'
  | 'contrast'
  | 'as-neighbour'
  | 'run-together'
  | 'holds-flood'
  | 'soft-beneath'
  | 'grains-stick'
  | 'still-cracks'
  | 'leans-on-several'
  | 'bears-piece'
  | 'under-template'
  | 'under-nib'
  | 'under-stencil'
  | 'glue-holds'
  | 'under-air'
  //
  | 'film-dry'
  | 'film-holds'
  | 'nothing-left'
  | 'beside-bead'
  | 'bead-melts'
  | 'same-bag'
  | 'mist-over-mist'
  | 'wet-only'
  | 'prepared-first'
  | 'guides'
  | 'in-front'
  | 'as-said'
  | 'first-of-all'
  | 'flat-stencil'
  | 'mist-drifted'
  | 'press-smears'
  | 'laid-later';

/** One part's meeting with another, and what the law (or the part's own words) asks of the earlier. */
export interface MeetingFacts {
  readonly kind: 'meeting';
  /** names of the two parts */
  readonly earlier: string;
  readonly later: string;
  readonly technique: TechniqueId;
  /** the later is a flood */
  readonly isFlood: boolean;
  readonly how: 'on' | 'beside' | 'after';
  readonly ask: AskId;
  /** absent where only the order counts */
  readonly state?: DryingState;
  /** asked for in the part's own words */
  readonly said?: { readonly state?: DryingState; readonly minutes?: number };
}

export type Facts =
  | MeetingFacts
  /** cookies are cool and bags open before the first icing */
  | { readonly kind: 'prepared' }
  /** a dam and its own flood: it melts in, holds the flood, or keeps a colour of its own */
  | { readonly kind: 'dam'; readonly part: string; readonly dam: 'melts' | 'holds' | 'keeps-colour' }
  | { readonly kind: 'wet'; readonly work: string; readonly into: string; readonly technique: TechniqueId }
  | { readonly kind: 'next-mark'; readonly earlier: string; readonly later: string }
  | { readonly kind: 'level'; readonly earlier: string; readonly later: string }
  | { readonly kind: 'next-pools'; readonly earlier: string; readonly dehydratorMin: number; readonly fanMin: number }
  | { readonly kind: 'as-drawn'; readonly earlier: string; readonly later: string }
  | { readonly kind: 'dam-first'; readonly dam: string; readonly beside: string }
  /** work that must be done, or icing that must be dry through, before the cookie is packed */
  | { readonly kind: 'packing'; readonly work: string; readonly dries: boolean }
  /** a cover over a defect, and what it is packed after */
  | { readonly kind: 'cover'; readonly work: string; readonly state: DryingState; readonly defect: DefectId }
  | { readonly kind: 'cover-dry' }
  /** marks that came too late, piped once their flood has crusted */
  | { readonly kind: 'relief' }
  | {
      readonly kind: 'stay';
      readonly trayId: string;
      readonly where: StayPlace;
      readonly minutes: number;
      readonly why: StayReason;
      readonly until: 'out' | 'worked';
    }
  | { readonly kind: 'sent-at-once'; readonly why: StayReason }
  /** a tray that is away is not worked on */
  | { readonly kind: 'away'; readonly trayId: string }
  | { readonly kind: 'lifted-pieces' }
  /** what plans of before version 4 said in words */
  | { readonly kind: 'in-words'; readonly reason: string; readonly consequence: string };

export type StayPlace = 'fan' | 'dehydrator';
/** A stay saves time, sets small pools before they crater, was asked for, or is the only way to dry in air as damp as the bench's. */
export type StayReason = 'time' | 'pools' | 'asked' | 'dries';
