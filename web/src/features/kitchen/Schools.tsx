import { type SchoolParameter, schoolParameters } from '@kestfog/core/steps';
import type { SchoolView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepSchool, useSchools } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { OwnSchool } from '../designs/OwnSchool.js';
import { schoolValue } from '../designs/school-text.js';

/** What tells schools apart at a glance. */
const TELLING: readonly SchoolParameter['key'][] = ['bags', 'floodS', 'neighbourCrusts', 'contrastOn', 'detailsOn', 'pensOn'];

/** The ways of working there are, and those of one's own; an order is planned by one of them. */
export function Schools() {
  const schools = useSchools();
  const keep = useKeepSchool();
  const [open, setOpen] = useState<string | null>(null);
  const list = [...(schools.data ?? [])].sort((a, b) => Number(b.preset) - Number(a.preset));
  return (
    <section id="schools" aria-label={msg`Schools`} className="lg:col-span-2">
      <h2 className="text-2xl font-semibold">{msg`Schools`}</h2>
      <p className="text-lg mt-1 max-w-4xl">
        {msg`A school is a way of working: how thick the icing, how long each wait, what is piped when. Practitioners disagree, so there
          are several. Icing has crusted when it no longer sticks to a finger but still dents; a neighbour that waits half of that is
            flooded sooner and shows less of a step. Copy one to make it your own.`}
      </p>
      {schools.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {msgNodes`The schools could not be read: ${schools.error.message}`}
        </p>
      )}
      <ul className="divide-y divide-base-300 border-y border-base-300 mt-3">
        {list.map((s) => (
          <li key={s.id} className="py-3 grid gap-2">
            <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
              <span className="text-xl font-semibold basis-52">
                {s.label}
                {!s.preset && <span className="font-normal text-base opacity-80">{msg` your own`}</span>}
              </span>
              <InShort school={s} />
              {s.preset ? (
                <button
                  type="button"
                  className="btn"
                  disabled={keep.isPending}
                  onClick={() =>
                    keep.mutate(
                      { ...s, label: msg`${s.label}, mine`.slice(0, 60) },
                      { onSuccess: ({ id, waits }) => !waits && setOpen(id) },
                    )
                  }
                >
                  {msgNodes`Copy ${s.label}`}
                </button>
              ) : (
                <button type="button" className="btn" aria-expanded={open === s.id} onClick={() => setOpen(open === s.id ? null : s.id)}>
                  {open === s.id ? msg`Close it` : msg`Change ${s.label}`}
                </button>
              )}
            </div>
            {open === s.id && !s.preset && <OwnSchool school={s} onRemoved={() => setOpen(null)} />}
          </li>
        ))}
      </ul>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
    </section>
  );
}

function InShort({ school }: { readonly school: SchoolView }) {
  const counting = useCounting();
  const [units] = useUnits();
  return (
    <span className="grow basis-96 text-base opacity-85">
      {schoolParameters
        .filter((p) => TELLING.includes(p.key))
        .map((p) => `${p.label}: ${schoolValue(p, school, counting, units)}`)
        .join('; ')}
    </span>
  );
}
