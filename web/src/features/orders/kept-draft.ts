import type { Units } from '../../app/units.js';
import type { OrderDraft } from './order-draft.js';

/** What was typed into a form and not kept yet, on this device. */
interface KeptDraft {
  readonly draft: OrderDraft;
  /** what the form began with: of an order that has changed since, a draft is of no use */
  readonly from: string;
  readonly units: Units;
  readonly atMs: number;
}

const keyOf = (form: string) => `kestfog.draft.order.${form}`;

/** The draft of a form that began with the same, in the same units; null where there is none. */
export function keptDraft(form: string, from: OrderDraft, units: Units): { readonly draft: OrderDraft; readonly atMs: number } | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(form)) ?? 'null') as KeptDraft | null;
    return kept && kept.units === units && kept.from === beginning(form, from) && typeof kept.draft.name === 'string' ? kept : null;
  } catch {
    return null;
  }
}

export function keepDraft(form: string, from: OrderDraft, units: Units, draft: OrderDraft): void {
  try {
    localStorage.setItem(keyOf(form), JSON.stringify({ draft, from: beginning(form, from), units, atMs: Date.now() } satisfies KeptDraft));
  } catch {
    // A browser that keeps nothing: the form itself still has it.
  }
}

export const dropDraft = (form: string): void => localStorage.removeItem(keyOf(form));

/** A new order begins with today's times, whatever day it was begun: its draft is good all the same. */
const beginning = (form: string, from: OrderDraft): string => (form === 'new' ? 'new' : JSON.stringify(from));
