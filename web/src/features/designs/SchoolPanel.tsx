import { type Air, checkDesign, type Design, deriveSteps, designTotals, type SchoolView } from '@kestfog/core';
import { useMemo, useState } from 'react';
import { useKeepSchool, useRemoveSchool, useSchools } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import { span } from '../../text/time.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';

interface Props {
  readonly design: Design;
  readonly air: Air;
  readonly schoolId: string;
  readonly onSchool: (id: string) => void;
}

const measured = (design: Design, school: SchoolView, air: Air) => {
  const graph = deriveSteps(design, school);
  const totals = designTotals(design, graph, air, school.margin);
  const checks = checkDesign(design, graph, school, air, school.margin);
  return { totals, likely: checks.filter((c) => c.word === 'likely').length, watch: checks.filter((c) => c.word === 'watch').length };
};

/** The way of working: a preset, or one's own begun as a copy, and two side by side on this design. */
export function SchoolPanel({ design, air, schoolId, onSchool }: Props) {
  const schools = useSchools().data ?? [];
  const keep = useKeepSchool();
  const remove = useRemoveSchool();
  const [otherId, setOtherId] = useState('patient');
  const school = schools.find((s) => s.id === schoolId);
  const other = schools.find((s) => s.id === otherId);
  const columns = useMemo(() => [school, other].flatMap((s) => (s ? [{ school: s, ...measured(design, s, air) }] : [])), [design, air, school, other]);
  const rows: [string, (c: (typeof columns)[number]) => string][] = [
    ['rounds', (c) => String(c.totals.rounds)],
    ['hands-on, a cookie', (c) => span(c.totals.handsOnS)],
    ['first touch to dry', (c) => (c.totals.throughS === null ? 'never' : span(c.totals.throughS))],
    ['a neighbour waits', (c) => `${c.school.neighbourCrusts} × crusting`],
    ['outline', (c) => (c.school.outline === 'set' ? 'sets first' : 'melts in')],
    ['details on', (c) => c.school.detailsOn],
    ['pens on', (c) => c.school.pensOn],
    ['likely to go wrong', (c) => `${c.likely}, to watch ${c.watch}`],
    ['margin', (c) => c.school.margin],
  ];
  const select = (label: string, value: string, onChange: (id: string) => void) => (
    <label className="grid gap-1">
      <span className="text-lg">{label}</span>
      <select className="select" value={value} onChange={(e) => onChange(e.target.value)}>
        {schools.map((s) => (
          <option key={s.id} value={s.id}>
            {s.label}
            {s.preset ? '' : ' (own)'}
          </option>
        ))}
      </select>
    </label>
  );
  if (!school) return <p>Getting the schools …</p>;
  return (
    <section aria-label="School" className="grid gap-4">
      <div className="flex flex-wrap gap-4 items-end">
        {select('school', schoolId, onSchool)}
        {select('beside it', otherId, setOtherId)}
        <button
          type="button"
          className="btn"
          disabled={keep.isPending}
          onClick={() => keep.mutate({ ...school, preset: true, label: `${school.label}, mine`.slice(0, 60) }, { onSuccess: (s) => onSchool(s.id) })}
        >
          Copy to change it
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
          {rows.map(([what, value]) => (
            <tr key={what}>
              <th scope="row">{what}</th>
              {columns.map((c, i) => (
                <td key={`${c.school.id} ${i}`}>{value(c)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {!school.preset && (
        <OwnSchool
          key={school.id}
          school={school}
          saving={keep.isPending}
          onKeep={(s) => keep.mutate(s)}
          onRemove={() => remove.mutate(school.id, { onSuccess: () => onSchool('two-bags') })}
        />
      )}
      {(keep.isError || remove.isError) && (
        <p role="alert" className="text-error font-medium">
          {(keep.error ?? remove.error)?.message}
        </p>
      )}
      <p className="text-base opacity-85">
        Every value of a school is common practice with no published source; where practitioners disagree you choose, nothing is averaged.
      </p>
    </section>
  );
}

interface OwnProps {
  readonly school: SchoolView;
  readonly saving: boolean;
  readonly onKeep: (school: SchoolView) => void;
  readonly onRemove: () => void;
}

function OwnSchool({ school, saving, onKeep, onRemove }: OwnProps) {
  const counting = useCounting();
  const [draft, setDraft] = useState(school);
  const [text, setText] = useState({
    label: school.label,
    floodS: String(counting.own(school.floodS)),
    outlineS: String(counting.own(school.outlineS)),
    neighbourCrusts: String(school.neighbourCrusts),
    pauseS: String(school.pauseS),
  });
  const read = {
    floodS: readNumber(text.floodS, counting.own(6), counting.own(30), 'Flood', 's'),
    outlineS: readNumber(text.outlineS, counting.own(6), counting.own(60), 'Outline', 's'),
    neighbourCrusts: readNumber(text.neighbourCrusts, 0.3, 4, 'The wait', ''),
    pauseS: readNumber(text.pauseS, 0, 300, 'The pause', 's'),
  };
  const good = text.label.trim() !== '' && Object.values(read).every((r) => 'value' in r);
  const choose = <K extends 'outline' | 'detailsOn' | 'pensOn' | 'levelling' | 'margin'>(key: K, label: string, values: readonly SchoolView[K][]) => (
    <label className="grid gap-1">
      <span className="text-lg">{label}</span>
      <select className="select" value={draft[key]} onChange={(e) => setDraft({ ...draft, [key]: e.target.value })}>
        {values.map((v) => (
          <option key={v} value={v}>
            {v}
          </option>
        ))}
      </select>
    </label>
  );
  const keep = () => {
    if (!('value' in read.floodS && 'value' in read.outlineS && 'value' in read.neighbourCrusts && 'value' in read.pauseS)) return;
    onKeep({
      ...draft,
      label: text.label.trim(),
      floodS: counting.reference(read.floodS.value),
      outlineS: counting.reference(read.outlineS.value),
      neighbourCrusts: read.neighbourCrusts.value,
      pauseS: read.pauseS.value,
    });
  };
  return (
    <fieldset className="flex flex-wrap gap-4 items-end border-t border-base-300 pt-3" aria-label="Your own school">
      <label className="grid gap-1">
        <span className="text-lg">name</span>
        <input className="input w-44" maxLength={60} value={text.label} onChange={(e) => setText({ ...text, label: e.target.value })} />
      </label>
      <NumberField small label="flood, s" text={text.floodS} typed={read.floodS} onText={(floodS) => setText({ ...text, floodS })} />
      <NumberField small label="outline, s" text={text.outlineS} typed={read.outlineS} onText={(outlineS) => setText({ ...text, outlineS })} />
      <NumberField
        small
        label="waits × crust"
        text={text.neighbourCrusts}
        typed={read.neighbourCrusts}
        onText={(neighbourCrusts) => setText({ ...text, neighbourCrusts })}
      />
      <NumberField small label="pause, s" text={text.pauseS} typed={read.pauseS} onText={(pauseS) => setText({ ...text, pauseS })} />
      {choose('outline', 'outline', ['set', 'merges'])}
      {choose('detailsOn', 'details on', ['crusted', 'set'])}
      {choose('pensOn', 'pens on', ['firm', 'dry'])}
      {choose('levelling', 'levelled by', ['scribe', 'tap', 'shake'])}
      {choose('margin', 'margin', ['bold', 'normal', 'careful'])}
      <button type="button" className="btn" disabled={!good || saving} onClick={keep}>
        Keep this school
      </button>
      <button type="button" className="btn btn-ghost" onClick={onRemove}>
        Delete it
      </button>
    </fieldset>
  );
}
