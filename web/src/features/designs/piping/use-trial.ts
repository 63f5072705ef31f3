import type { DesignDocument, DesignEdit } from '@kestfog/core/design';
import type { DesignTotals } from '@kestfog/core/planning';
import type { School } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { useEffect, useRef } from 'react';
import { span } from '../../../text/time.js';
import type { DesignNow } from '../../../workers/plan.worker.js';
import { tryBeside } from '../../../workers/plan-client.js';
import type { StrokeWords } from './stroke-words.js';

/** Less of a wait is not worth telling, s. */
const LEAST_WAIT_S = 60;

/** So long it lies between two questions, ms: numbers that change faster cannot be read. */
const BETWEEN_MS = 150;

type Dry = Pick<DesignTotals, 'handsOnS' | 'throughS'>;
/** How much longer a cookie waits until it is dry, apart from the hands' own time; null where either is unknown. */
export function addedWaitS(was: Dry, is: Dry): number | null {
  if (was.throughS === null || is.throughS === null) return null;
  const waitS = is.throughS - was.throughS - (is.handsOnS - was.handsOnS);
  return waitS > LEAST_WAIT_S ? waitS : 0;
}

/**
 * What a stroke makes the cookie wait, shown while it is drawn. Worked out beside the page, one question at a time and the newest
 * next, so that the pen never waits for it.
 */
export function useTrial(document: DesignDocument, school: School, now: DesignNow, totals: DesignTotals, words: StrokeWords) {
  const busy = useRef(false);
  /** makes the edit of what is drawn so far, once it is asked about */
  const next = useRef<(() => DesignEdit | null) | null>(null);
  const latest = useRef({ document, school, now, totals });
  latest.current = { document, school, now, totals };
  useEffect(
    () => () => {
      next.current = null;
    },
    [],
  );
  const goOn = async () => {
    if (busy.current) return;
    busy.current = true;
    for (let asked = next.current; asked; asked = next.current) {
      const { document: doc, school: by, now: kitchen, totals: was } = latest.current;
      const edit = asked();
      // One that cannot be worked out says nothing; it is refused in words once it is lifted.
      const is = edit && (await tryBeside({ ...doc, edits: [...doc.edits, edit] }, by, kitchen).catch(() => null));
      if (next.current === null) break;
      const waitS = is && addedWaitS(was, is);
      words.say('wait', waitS === null ? '' : waitS > 0 ? msg`dry ${span(waitS)} later` : msg`dry no later`);
      if (next.current === asked) next.current = null;
      else await new Promise((done) => setTimeout(done, BETWEEN_MS));
    }
    busy.current = false;
  };
  /** null: nothing is being drawn any more */
  const ask = (edit: (() => DesignEdit | null) | null) => {
    next.current = edit;
    if (edit) void goOn();
    else words.say('wait', '');
  };
  return { ask };
}
