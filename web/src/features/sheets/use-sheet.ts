import type { PrintedSheet } from '@kestfog/core/paper';
import { type Remote, wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { Made, Print, SheetAsk, SheetWork } from '../../workers/sheet.worker.js';

let worker: Remote<SheetWork> | null = null;
function printer(): Remote<SheetWork> {
  worker ??= wrap<SheetWork>(new Worker(new URL('../../workers/sheet.worker.ts', import.meta.url), { type: 'module', name: 'sheets' }));
  return worker;
}
const NOT_MADE = 'The sheet could not be made: load the page again.';

/** The sheet as a PDF; why there is none, in one sentence. */
export const pdfOf = (ask: SheetAsk, print: Print): Promise<Made<Uint8Array>> =>
  printer()
    .pdf(ask, print)
    .catch(() => ({ ok: false, message: NOT_MADE }));

/** The sheet's pages, made beside the page; the last ones stay until others are made. null asks for nothing. */
export function useSheet(
  ask: SheetAsk | null,
  print: Print,
): { readonly sheet: PrintedSheet | null; readonly problem: string | null; readonly pending: boolean } {
  const key = ask && JSON.stringify([ask, print]);
  const [state, setState] = useState<{ readonly key: string | null; readonly sheet: PrintedSheet | null; readonly problem: string | null }>({
    key: null,
    sheet: null,
    problem: null,
  });
  useEffect(() => {
    if (!ask) return;
    let isWanted = true;
    void printer()
      .sheet(ask, print)
      .catch((): Made<PrintedSheet> => ({ ok: false, message: NOT_MADE }))
      .then((made) => isWanted && setState(made.ok ? { key, sheet: made.value, problem: null } : { key, sheet: null, problem: made.message }));
    return () => {
      isWanted = false;
    };
  }, [key]);
  return { sheet: state.sheet, problem: state.key === key ? state.problem : null, pending: key !== null && state.key !== key };
}
