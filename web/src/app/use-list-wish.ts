import type { ListWish } from '../api/queries.js';
import { useSteady } from '../ui/use-steady.js';
import { useLooked } from './use-looked.js';

interface Listed {
  /** which list it is, of its own words; empty for the usual one */
  readonly state: string;
  readonly wish: ListWish;
  /** what is looked for begins at the first page again */
  readonly search: (q: string) => void;
  readonly toPage: (page: number) => void;
  /** the address of another list, what is looked for kept */
  readonly addressOf: (state: string) => string;
}

/** What of a list is looked at, in its address: which one, what is looked for in it, which page. */
export function useListWish(): Listed {
  const [looked, look] = useLooked<'state' | 'q' | 'page'>();
  const q = looked('q');
  const page = Math.max(0, Math.floor(Number(looked('page')) || 1) - 1);
  return {
    state: looked('state'),
    wish: { q, page },
    search: useSteady((text: string) => {
      if (text !== q) look({ q: text, page: '' });
    }),
    toPage: (to) => look({ page: to === 0 ? '' : String(to + 1) }),
    addressOf: (state) => `?${new URLSearchParams({ ...(state && { state }), ...(q && { q }) })}`,
  };
}
