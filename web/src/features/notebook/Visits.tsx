import type { VisitAccount } from '@kestfog/core/notebook';
import type { NotebookRunView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { format } from 'date-fns';
import { useState } from 'react';
import { useCorrect } from '../../api/notebook.js';
import { dayClock, span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { saidText } from './notebook-text.js';

/** Every visit in words; a moment that was entered wrongly is put right here, and what was said first stays beside it. */
export function Visits({ run }: { readonly run: NotebookRunView }) {
  const [open, setOpen] = useState<string | null>(null);
  const right = new Map(run.corrections.map((c) => [c.eventId, c]));
  return (
    <section className="overflow-x-auto" tabIndex={0} aria-label={msg`Visits`}>
      <table className="table text-base">
        <thead>
          <tr className="text-base-content">
            <th>{msg`tray`}</th>
            <th>{msg`what`}</th>
            <th>{msg`planned`}</th>
            <th>{msg`begun`}</th>
            <th>{msg`done`}</th>
            <th>{msg`took`}</th>
            <th>
              <span className="sr-only">{msg`put right`}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {run.account.visits.map((v) => {
            const moments = [v.begunBy, v.doneBy].flatMap((id) => (id ? [right.get(id)] : [])).filter((c) => c !== undefined);
            return (
              <tr key={v.taskId}>
                <th>{v.trayId}</th>
                <td>
                  {v.title}
                  {v.design && `, ${v.design}`}
                  {saidText(v.said) && <span className="block opacity-80">{saidText(v.said)}</span>}
                  {moments.map((c) => (
                    <span key={c.eventId} className="block opacity-80">
                      {msgNodes`put right; said at the bench: ${dayClock(c.wasMs)}`}
                    </span>
                  ))}
                  {open === v.taskId && <Correct run={run} visit={v} onDone={() => setOpen(null)} />}
                </td>
                <td className="whitespace-nowrap">
                  {msgNodes`${dayClock(v.plannedStartS * 1000)} to ${dayClock(v.plannedEndS * 1000, v.plannedStartS * 1000)}`}
                </td>
                <td>{v.begunS === null ? '' : dayClock(v.begunS * 1000)}</td>
                <td>{v.doneS === null ? '' : dayClock(v.doneS * 1000)}</td>
                <td className="whitespace-nowrap">
                  {v.tookS === null ? '' : msg`${span(v.tookS)} of ${span(v.plannedEndS - v.plannedStartS)}`}
                </td>
                <td>
                  {run.orderId !== null && (v.begunBy ?? v.doneBy) !== null && open !== v.taskId && (
                    <button type="button" className="link" onClick={() => setOpen(v.taskId)}>
                      {msg`put right`}
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

const INPUT = "yyyy-MM-dd'T'HH:mm";
function Correct({ run, visit, onDone }: { readonly run: NotebookRunView; readonly visit: VisitAccount; readonly onDone: () => void }) {
  const correct = useCorrect(run.runId);
  const moments = [
    { id: visit.begunBy, label: msg`begun`, atS: visit.begunS },
    { id: visit.doneBy, label: msg`done`, atS: visit.doneS },
  ].filter((m): m is { id: string; label: string; atS: number } => m.id !== null && m.atS !== null);
  const [text, setText] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(moments.map((m) => [m.id, format(m.atS * 1000, INPUT)])),
  );
  const changed = moments.filter((m) => text[m.id] !== format(m.atS * 1000, INPUT));
  const keep = async () => {
    for (const m of changed) await correct.mutateAsync({ eventId: m.id, atMs: new Date(text[m.id] as string).getTime() });
    onDone();
  };
  const asSaid = run.corrections.filter((c) => moments.some((m) => m.id === c.eventId));
  return (
    <div className="flex flex-wrap items-end gap-3 mt-2">
      {moments.map((m) => (
        <label key={m.id} className="grid gap-1">
          <span>{m.label}</span>
          <input
            type="datetime-local"
            className="input"
            value={text[m.id]}
            onChange={(e) => setText({ ...text, [m.id]: e.target.value })}
          />
        </label>
      ))}
      <button
        type="button"
        className="btn btn-primary"
        disabled={changed.length === 0 || changed.some((m) => text[m.id] === '') || correct.isPending}
        onClick={() => void keep().catch(() => undefined)}
      >
        {correct.isPending ? msg`Working it out …` : msg`It was then`}
      </button>
      {asSaid.length > 0 && (
        <button
          type="button"
          className="btn"
          disabled={correct.isPending}
          onClick={() =>
            void Promise.all(asSaid.map((c) => correct.mutateAsync({ eventId: c.eventId, atMs: null }))).then(onDone, () => undefined)
          }
        >
          {msg`As it was said`}
        </button>
      )}
      <button type="button" className="btn btn-ghost" onClick={onDone}>
        {msg`Leave it`}
      </button>
      {correct.isError && (
        <p role="alert" className="text-error font-medium basis-full">
          {correct.error.message}
        </p>
      )}
    </div>
  );
}
