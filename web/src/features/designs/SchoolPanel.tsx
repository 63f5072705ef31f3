import type { Design } from '@kestfog/core/design';
import { schoolParameters } from '@kestfog/core/steps';
import type { SchoolView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepSchool, useSchools } from '../../api/queries.js';
import type { KitchenNow } from '../../api/use-making.js';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import type { InSchool } from '../../workers/plan.worker.js';
import { inSchoolBeside } from '../../workers/plan-client.js';
import { useBeside } from '../../workers/use-beside.js';
import { schoolValue } from './school-text.js';

interface Props {
  readonly design: Design;
  /** another text for another state of the design */
  readonly designKey: string;
  readonly now: Omit<KitchenNow, 'airFrom'>;
  readonly schoolId: string;
  readonly onSchool: (id: string) => void;
}

/** The way of working: a preset, or one's own begun as a copy, and two side by side on this design. */
export function SchoolPanel({ design, designKey, now, schoolId, onSchool }: Props) {
  const schools = useSchools().data ?? [];
  const counting = useCounting();
  const [units] = useUnits();
  const keep = useKeepSchool();
  const [otherId, setOtherId] = useState('patient');
  const [every, setEvery] = useState(false);
  const school = schools.find((s) => s.id === schoolId);
  const other = schools.find((s) => s.id === otherId);
  // Another design, kitchen or school is another question.
  const question = `${designKey} ${JSON.stringify(now)}`;
  const own = useBeside(school ? `${question} ${school.id} ${school.revision}` : null, () =>
    inSchoolBeside(design, school as SchoolView, now),
  );
  const beside = useBeside(other ? `${question} ${other.id} ${other.revision}` : null, () =>
    inSchoolBeside(design, other as SchoolView, now),
  );
  const columns = [
    { school, found: own },
    { school: other, found: beside },
  ].flatMap((c) => (c.school ? [{ school: c.school, found: c.found }] : []));
  const rows: [string, (c: InSchool) => string][] = [
    [msg`rounds`, (c) => String(c.totals.rounds)],
    [msg`hands-on, a cookie`, (c) => span(c.totals.handsOnS)],
    [msg`first touch to dry`, (c) => (c.totals.throughS === null ? msg`never` : span(c.totals.throughS))],
    [msg`likely to go wrong`, (c) => msg`${c.likely}, to watch ${c.watch}`],
  ];
  const differing = schoolParameters.filter((p) => columns[0] && columns[1] && columns[0].school[p.key] !== columns[1].school[p.key]);
  const select = (label: string, value: string, onChange: (id: string) => void) => (
    <label className="grid gap-1">
      <span className="text-lg">{label}</span>
      <select className="select" value={value} onChange={(e) => onChange(e.target.value)}>
        {schools.map((s) => (
          <option key={s.id} value={s.id}>
            {s.label}
            {s.preset ? '' : msg` (own)`}
          </option>
        ))}
      </select>
    </label>
  );
  if (!school) return <p>{msg`Getting the schools …`}</p>;
  return (
    <section aria-label={msg`School`} className="grid gap-4">
      <div className="flex flex-wrap gap-4 items-end">
        {select(msg`school`, schoolId, onSchool)}
        {select(msg`beside it`, otherId, setOtherId)}
        <button
          type="button"
          className="btn"
          disabled={keep.isPending}
          onClick={() =>
            keep.mutate(
              { ...school, preset: true, label: msg`${school.label}, mine`.slice(0, 60) },
              { onSuccess: ({ id, waits }) => !waits && onSchool(id) },
            )
          }
        >
          {msg`Copy to change it`}
        </button>
      </div>
      <table className="table text-base">
        <thead>
          <tr className="text-base-content">
            <td />
            {columns.map((c, i) => (
              <th key={`${c.school.id} ${i}`}>{c.school.label}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([what, measure]) => (
            <tr key={what}>
              <th scope="row">{what}</th>
              {columns.map((c, i) => (
                <td key={`${c.school.id} ${i}`}>{c.found.value ? measure(c.found.value) : (c.found.failure ?? '…')}</td>
              ))}
            </tr>
          ))}
          {(every ? schoolParameters : differing).map((p) => (
            <tr key={p.key} className={every && differing.includes(p) ? 'bg-base-200' : ''}>
              <th scope="row" className="font-normal">
                {p.label}
                {every && <span className="block text-sm opacity-80">{msgNodes`in practice: ${p.inPractice}`}</span>}
              </th>
              {columns.map((c, i) => (
                <td key={`${c.school.id} ${i}`}>{schoolValue(p, c.school, counting, units)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <label className="flex items-center gap-2 min-h-11 text-lg">
        <input type="checkbox" className="checkbox" checked={every} onChange={(e) => setEvery(e.target.checked)} />
        {msg`every row, with what practitioners tell of it`}
      </label>
      {!every && differing.length === 0 && <p className="text-base opacity-85">{msg`The two do not differ in anything.`}</p>}
      {keep.isError && (
        <p role="alert" className="text-error font-medium">
          {keep.error.message}
        </p>
      )}
      <p className="text-base opacity-85">
        {msg`Every value of a school is common practice with no published source; where practitioners disagree you choose, nothing is
          averaged.`}
      </p>
    </section>
  );
}
