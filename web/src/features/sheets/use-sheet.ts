import type { PrintedSheet } from '@kestfog/core/paper';
import { msg } from '@kestfog/core/words';
import { type Remote, wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { Made, Print, SheetAsk, SheetWork } from '../../workers/sheet.worker.js';

let worker: Remote<SheetWork> | null = null;
function printer(): Remote<SheetWork> {
  worker ??= wrap<SheetWork>(new Worker(new URL('../../workers/sheet.worker.ts', import.meta.url), { type: 'module', name: 'sheets' }));
  return worker;
}
const NOT_MADE = msg`The sheet could not be made: load the page again.`;

/** The sheet as a PDF; why there is none, in one sentence. */
export const pdfOf = (ask: SheetAsk, print: Print): Promise<Made<Uint8Array>> =>
  printer()
    .pdf(ask, print)
    .catch(() => ({ ok: false, message: NOT_MADE }));

interface Shown {
  readonly ask: SheetAsk | null;
  readonly how: string;
  readonly sheet: PrintedSheet | null;
  readonly problem: string | null;
}

/**
 * The sheet's pages, made beside the page; the last ones stay until others are made. `ask` is told from another by being another
 * object (a plan in it is half a megabyte): its place keeps it as long as nothing in it changes. null asks for nothing.
 */
export function useSheet(ask: SheetAsk | null, print: Print): Pick<Shown, 'sheet' | 'problem'> & { readonly pending: boolean } {
  const how = JSON.stringify(print);
  const [shown, setShown] = useState<Shown>({ ask: null, how: '', sheet: null, problem: null });
  useEffect(() => {
    if (!ask) return;
    let isWanted = true;
    void printer()
      .sheet(ask, JSON.parse(how) as Print)
      .catch((): Made<PrintedSheet> => ({ ok: false, message: NOT_MADE }))
      .then(
        (made) =>
          isWanted && setShown(made.ok ? { ask, how, sheet: made.value, problem: null } : { ask, how, sheet: null, problem: made.message }),
      );
    return () => {
      isWanted = false;
    };
  }, [ask, how]);
  const isCurrent = shown.ask === ask && shown.how === how;
  return { sheet: shown.sheet, problem: isCurrent ? shown.problem : null, pending: ask !== null && !isCurrent };
}
