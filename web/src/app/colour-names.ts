import { colourName } from '@kestfog/core/design';
import { useCallback } from 'react';
import { useKitchen } from '../api/queries.js';

export type NameOf = (colour: string) => string;

/** What a colour is called in this kitchen, or else by most. */
export function useColourName(): NameOf {
  const own = useKitchen().data?.colourNames;
  return useCallback((colour) => own?.[colour] ?? colourName(colour), [own]);
}
