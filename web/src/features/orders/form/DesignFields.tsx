import { suggestedSpares } from '@kestfog/core/planning';
import { deriveSteps } from '@kestfog/core/steps';
import type { DesignSummary } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { refOf, useDrawing, useSchools } from '../../../api/queries.js';
import { DesignPicture } from '../../../ui/DesignPicture.js';
import { Field, RemoveButton, within } from '../../../ui/Field.js';
import { msgNodes } from '../../../ui/msg-nodes.js';
import type { OrderDraft } from '../order-draft.js';
import { BringDrawing } from './BringDrawing.js';

/** Which designs, how many of each, and spares. */
export function DesignFields({ designs }: { readonly designs: readonly DesignSummary[] }) {
  const { register, control, formState, watch, getValues, setValue } = useFormContext<OrderDraft>();
  const items = useFieldArray({ control, name: 'designs' });
  const { errors } = formState;
  const drafts = watch('designs');
  const schools = useSchools().data ?? [];
  const schoolId = watch('school');
  const school = schools.find((s) => s.id === schoolId) ?? schools[0];
  return (
    <fieldset>
      <legend className="text-2xl font-semibold mb-3">{msg`Designs and counts`}</legend>
      <ul className="divide-y divide-base-300">
        {items.fields.map((f, i) => {
          const design = designs.find((d) => d.id === drafts[i]?.designId);
          return (
            <li key={f.id} className="flex flex-wrap items-center gap-4 py-3">
              <div className="w-20 h-20">{design && <DesignPicture of={refOf(design)} className="h-20 w-20" label={design.name} />}</div>
              <select className="select select-lg w-64" aria-label={msg`Design ${i + 1}`} {...register(`designs.${i}.designId`)}>
                {designs.map((d) => (
                  <option key={d.id} value={d.id}>
                    {d.name}
                  </option>
                ))}
              </select>
              <Field label={msg`cookies`} error={errors.designs?.[i]?.count?.message} inline>
                <input type="number" className="input input-lg w-24" {...register(`designs.${i}.count`, within(1, 500, msg`The count`))} />
              </Field>
              <Field label={msg`spares`} error={errors.designs?.[i]?.spares?.message} inline>
                <input type="number" className="input input-lg w-20" {...register(`designs.${i}.spares`, within(0, 200, msg`Spares`))} />
              </Field>
              {design && school && (
                <Suggested
                  design={design}
                  count={Number(drafts[i]?.count) || 0}
                  school={school}
                  spares={Number(drafts[i]?.spares) || 0}
                  onTake={(n) => setValue(`designs.${i}.spares`, n, { shouldDirty: true })}
                />
              )}
              <RemoveButton label={msg`Remove design ${i + 1}`} disabled={items.fields.length === 1} onClick={() => items.remove(i)} />
            </li>
          );
        })}
      </ul>
      <div className="flex flex-wrap gap-3 mt-3">
        <button
          type="button"
          className="btn"
          disabled={designs.length === 0}
          onClick={() => items.append({ designId: designs[0]?.id ?? '', count: 12, spares: 0 })}
        >
          <Plus aria-hidden size={18} />
          {msg` another design`}
        </button>
        <BringDrawing
          onAdded={(id) => {
            const empty = getValues('designs').findIndex((d) => d.designId === '');
            if (empty >= 0) setValue(`designs.${empty}.designId`, id);
            else items.append({ designId: id, count: 12, spares: 0 });
          }}
        />
      </div>
    </fieldset>
  );
}

/** How many spares are usual, one touch to take them. */
function Suggested({
  design,
  count,
  school,
  spares,
  onTake,
}: {
  readonly design: DesignSummary;
  readonly count: number;
  readonly school: Parameters<typeof deriveSteps>[1];
  readonly spares: number;
  readonly onTake: (spares: number) => void;
}) {
  const drawing = useDrawing(refOf(design)).data;
  const usual = useMemo(() => drawing && suggestedSpares(deriveSteps(drawing, school), count, drawing.transfer), [drawing, school, count]);
  if (count < 1 || usual === undefined || usual === spares) return null;
  return (
    <button type="button" className="btn btn-ghost" onClick={() => onTake(usual)}>
      {msgNodes`${usual} ${plural(usual, 'spare is', 'spares are')} usual`}
    </button>
  );
}
