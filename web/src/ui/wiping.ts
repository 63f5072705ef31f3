import type { School } from '@kestfog/core/steps';
import { createContext } from 'react';

/** How the scribe is wiped in the work whose cookies are shown; undefined where nobody said, and they are shown as they are kept. */
export const Wiping = createContext<School['wiping'] | undefined>(undefined);
