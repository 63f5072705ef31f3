import type { NotebookRun } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { Link } from 'react-router';
import { dayDate } from '../../text/time.js';
import { lateText } from './notebook-text.js';

/** Finished runs, the newest first, each in a line. */
export function RunList({ runs }: { readonly runs: readonly NotebookRun[] }) {
  return (
    <ul className="divide-y divide-base-300 border-y border-base-300">
      {runs.map((r) => (
        <li key={r.runId}>
          <Link
            to={`/notebook/runs/${r.runId}`}
            className="grid md:grid-cols-[1fr_20rem] gap-x-10 gap-y-1 items-center py-4 hover:bg-base-200 -mx-4 px-4 rounded-box"
          >
            <div>
              <h2 className="text-2xl font-semibold">
                {r.orderName}
                {r.simulated && <span className="badge badge-outline ml-3 align-middle">{msg`simulated`}</span>}
                {r.leftOut && <span className="badge badge-outline ml-3 align-middle">{msg`not learned from`}</span>}
              </h2>
              <p className="text-lg">
                {dayDate(r.summary.startedS * 1000)}: {r.summary.designs.map((d) => `${d.packed} ${d.name}`).join(', ')}
              </p>
            </div>
            <p className="text-lg md:text-right">{outcomeOf(r)}</p>
          </Link>
        </li>
      ))}
    </ul>
  );
}

function outcomeOf({ summary: s }: NotebookRun): string {
  const lost = s.cookies - s.packed;
  return [
    lateText(s.endedS - s.plannedEndS),
    lost > 0 ? msg`${lost} of ${s.cookies} lost` : msg`all ${s.packed} packed`,
    s.windows.lost > 0 ? msg`${s.windows.lost} ${plural(s.windows.lost, 'window', 'windows')} lost` : '',
    s.defects.length > 0 ? `${s.defects.length} ${plural(s.defects.length, 'defect', 'defects')}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
