import { type SchoolParameter, schoolParameters } from '@kestfog/core/steps';
import type { SchoolView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepSchool, useRemoveSchool } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { isCount } from './school-text.js';

interface Props {
  readonly school: SchoolView;
  readonly onRemoved: () => void;
}

/** A school of one's own: every row a field, with what practitioners tell of it beside it. */
export function OwnSchool({ school, onRemoved }: Props) {
  const keeping = useKeepSchool();
  const removing = useRemoveSchool();
  const counting = useCounting();
  const [draft, setDraft] = useState<SchoolView>(school);
  const [label, setLabel] = useState(school.label);
  const own = (p: SchoolParameter, v: number) => (isCount(p) ? counting.own(v) : v);
  const [text, setText] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(schoolParameters.filter((p) => p.kind === 'number').map((p) => [p.key, String(own(p, school[p.key] as number))])),
  );
  const read = (p: SchoolParameter & { kind: 'number' }) => readNumber(text[p.key] ?? '', own(p, p.from), own(p, p.to), msg`This`, p.unit);
  const numbers = schoolParameters.filter((p): p is SchoolParameter & { kind: 'number' } => p.kind === 'number');
  const good = label.trim() !== '' && numbers.every((p) => 'value' in read(p));
  const keep = () => {
    const values = numbers.map((p) => {
      const typed = read(p);
      const v = 'value' in typed ? typed.value : (school[p.key] as number);
      return [p.key, isCount(p) ? counting.reference(v) : v] as const;
    });
    keeping.mutate({ ...draft, label: label.trim(), ...Object.fromEntries(values) });
  };
  return (
    <fieldset className="grid gap-4 border-t border-base-300 pt-3" aria-label={msg`Your own school`}>
      <label className="grid gap-1 justify-self-start">
        <span className="text-lg">{msg`name`}</span>
        <input className="input w-60" maxLength={60} value={label} onChange={(e) => setLabel(e.target.value)} />
      </label>
      <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-6 gap-y-5">
        {schoolParameters.map((p) => (
          <div key={p.key} className="grid gap-1 content-start">
            {p.kind === 'number' && (
              <NumberField
                small
                label={`${p.label}${p.unit ? `, ${p.unit}` : ''}`}
                text={text[p.key] ?? ''}
                typed={read(p)}
                onText={(v) => setText({ ...text, [p.key]: v })}
              />
            )}
            {p.kind === 'choice' && (
              <label className="grid gap-1">
                <span className="text-lg">{p.label}</span>
                <select className="select" value={draft[p.key] as string} onChange={(e) => setDraft({ ...draft, [p.key]: e.target.value })}>
                  {p.of.map((o) => (
                    <option key={o.value} value={o.value}>
                      {o.text}
                    </option>
                  ))}
                </select>
              </label>
            )}
            {p.kind === 'yes' && (
              <label className="flex items-center gap-2 min-h-11 text-lg">
                <input
                  type="checkbox"
                  className="checkbox"
                  checked={draft[p.key] as boolean}
                  onChange={(e) => setDraft({ ...draft, [p.key]: e.target.checked })}
                />
                {p.label}
              </label>
            )}
            <span className="text-sm opacity-80">{msgNodes`in practice: ${p.inPractice}`}</span>
          </div>
        ))}
      </div>
      <div className="flex flex-wrap gap-3">
        <button type="button" className="btn" disabled={!good || keeping.isPending} onClick={keep}>
          {msg`Keep this school`}
        </button>
        <button
          type="button"
          className="btn btn-ghost"
          onClick={() => removing.mutate({ id: school.id, name: school.label }, { onSuccess: onRemoved })}
        >
          {msg`Delete it`}
        </button>
        {keeping.isSuccess && (
          <span role="status" className="self-center text-lg">
            {msg`kept`}
          </span>
        )}
      </div>
      {(keeping.isError || removing.isError) && (
        <p role="alert" className="text-error font-medium">
          {(keeping.error ?? removing.error)?.message}
        </p>
      )}
    </fieldset>
  );
}
