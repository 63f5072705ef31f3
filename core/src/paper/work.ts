import type { Plan } from '../formats/plan.js';
import { designCards } from './design-card.js';
import { bagLabels, mixingSheet } from './mixing-sheets.js';
import type { PrintedSheet } from './page.js';
import { runSheet, trayCards } from './run-sheet.js';
import { boxLabels, careLabels, offer } from './selling-sheets.js';
import { shoppingList } from './shopping-list.js';
import type { WorkAsk } from './work-ask.js';

export const workKinds = ['run', 'trays', 'mixing', 'labels', 'shopping', 'boxes', 'care', 'offer', 'cards'] as const;
export type WorkKind = (typeof workKinds)[number];

/** The sheet of one kind for a planned order. Throws {@link BadInput} where what it needs is missing. */
export function workSheet(kind: WorkKind, plan: Plan, ask: WorkAsk): PrintedSheet {
  switch (kind) {
    case 'run':
      return runSheet(plan, ask);
    case 'trays':
      return trayCards(plan, ask);
    case 'mixing':
      return mixingSheet(plan, ask);
    case 'labels':
      return bagLabels(plan, ask);
    case 'shopping':
      return shoppingList(plan, ask);
    case 'boxes':
      return boxLabels(plan, ask);
    case 'care':
      return careLabels(plan, ask);
    case 'offer':
      return offer(plan, ask);
    case 'cards':
      return designCards(plan, ask);
  }
}

/** Parts of a drawing by the numbers of the order they are piped in. */
export const numbersOf = (steps: readonly { readonly kind: string; readonly parts: readonly string[] }[]): Map<string, number> => {
  const out = new Map<string, number>();
  for (const s of steps)
    if (s.kind === 'flood' || s.kind === 'detail') for (const id of s.parts) if (!out.has(id)) out.set(id, out.size + 1);
  return out;
};
