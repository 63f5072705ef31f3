import type { PaperId } from '@kestfog/core/paper';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useUnits } from '../../app/units.js';
import { Choice } from '../../ui/Choice.js';
import { Notice } from '../../ui/Notice.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { fileName, saveFile } from '../../ui/save-file.js';
import type { Print, SheetAsk } from '../../workers/sheet.worker.js';
import { PageView } from './PageView.js';
import { pdfOf, useSheet } from './use-sheet.js';

const PAPER = 'kestfog.paper';
const MEASURED = 'kestfog.measured';
const MEASURED_MM = [90, 110] as const;

interface Props {
  /** null while something that is needed is not there yet */
  readonly ask: SheetAsk | null;
  readonly name: string;
  /** lines on it are true millimetres: what the last print measured counts */
  readonly trueSize: boolean;
  /** what stands in the file's name besides */
  readonly what: string;
  /** what is chosen of this sheet */
  readonly children?: React.ReactNode;
}

/** A sheet before it is printed: its pages as they come out, on which paper, and the file to print. */
export function Printing({ ask, name, trueSize, what, children }: Props) {
  const [units] = useUnits();
  const [paper, setPaper] = useState<PaperId>(() => (localStorage.getItem(PAPER) as PaperId | null) ?? (units === 'us' ? 'letter' : 'a4'));
  const [measuredText, setMeasuredText] = useState(() => localStorage.getItem(MEASURED) ?? '100');
  const [atMs] = useState(() => Date.now());
  const [failure, setFailure] = useState<string | null>(null);
  const [making, setMaking] = useState(false);
  const measured = readNumber(measuredText, MEASURED_MM[0], MEASURED_MM[1], msg`What it measures`, msg`mm`);
  const print: Print = { paper, measuredMm: trueSize && 'value' in measured ? measured.value : 100, name, atMs };
  const { sheet, problem, pending } = useSheet(ask, print);
  const withPdf = async (use: (bytes: Uint8Array) => void) => {
    if (!ask) return;
    setMaking(true);
    const made = await pdfOf(ask, print);
    setMaking(false);
    setFailure(made.ok ? null : made.message);
    if (made.ok) use(made.value);
  };
  const isReady = ask !== null && sheet !== null && !pending && !problem && !making;
  return (
    <div className="grid lg:grid-cols-[20rem_1fr] gap-8 items-start">
      <div className="grid gap-5 no-print">
        {children}
        <div className="grid gap-2">
          <span className="text-lg">{msg`paper`}</span>
          <Choice
            label={msg`paper`}
            value={paper}
            options={[
              { id: 'a4', label: 'A4' },
              { id: 'letter', label: msg`US Letter` },
            ]}
            onChange={(id) => {
              setPaper(id);
              localStorage.setItem(PAPER, id);
            }}
          />
        </div>
        {trueSize && (
          <NumberField
            small
            label={msg`the 100 mm line of the last print measured, mm`}
            text={measuredText}
            typed={measured}
            onText={(t) => {
              setMeasuredText(t);
              const read = readNumber(t, MEASURED_MM[0], MEASURED_MM[1], '', '');
              if ('value' in read) localStorage.setItem(MEASURED, String(read.value));
            }}
          />
        )}
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-primary btn-lg"
            disabled={!isReady}
            onClick={() => void withPdf((bytes) => saveFile(fileName(`${name} ${what}`, 'pdf'), 'application/pdf', bytes))}
          >
            {msg`Save as PDF`}
          </button>
        </div>
        <p className="text-base opacity-85">
          {msg`Print at 100 %, “actual size”: a printer that fits the page to its paper makes everything smaller.`}
        </p>
        {(problem ?? failure) && (
          <Notice title={msg`There is no such sheet`} tone="closing">
            {problem ?? failure}
          </Notice>
        )}
      </div>
      <section
        aria-label={msg`As it is printed`}
        aria-busy={pending}
        className={`grid gap-6 ${sheet && sheet.pages.length > 1 ? 'xl:grid-cols-2' : 'max-w-3xl'}`}
      >
        {!sheet && !problem && <p className="text-lg">{msg`Laying it out …`}</p>}
        {!problem &&
          sheet?.pages.map((page, i) => (
            <PageView key={`${sheet.title} ${i + 1}`} page={page} label={msg`${sheet.title}, page ${i + 1} of ${sheet.pages.length}`} />
          ))}
      </section>
    </div>
  );
}
