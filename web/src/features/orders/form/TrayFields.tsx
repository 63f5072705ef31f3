import { placesOn } from '@kestfog/core/planning';
import { MM_PER_INCH } from '@kestfog/core/units';
import type { DesignSummary } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { refOf, useDrawings } from '../../../api/queries.js';
import { useUnits } from '../../../app/units.js';
import { Choice } from '../../../ui/Choice.js';
import { Field, RemoveButton, within } from '../../../ui/Field.js';
import { msgNodes } from '../../../ui/msg-nodes.js';
import type { OrderDraft } from '../order-draft.js';

/** The trays: by how many cookies they hold, or by their size, and then that is worked out. */
const TRAYS_BY = [
  { id: 'places', label: msg`by how many they hold` },
  { id: 'size', label: msg`by their size` },
] as const;

export function TrayFields({ designs, hidden }: { readonly designs: readonly DesignSummary[]; readonly hidden: boolean }) {
  const [units] = useUnits();
  const { register, control, formState, watch, getValues, setValue } = useFormContext<OrderDraft>();
  const trays = useFieldArray({ control, name: 'trays' });
  const { errors } = formState;
  const draft = watch();
  const cookies = draft.designs.reduce((s, d) => s + (Number(d.count) || 0) + (Number(d.spares) || 0), 0);
  const places = draft.trays.reduce((s, t) => s + (Number(t.places) || 0), 0);
  const bySize = draft.traysBy === 'size';
  const mm = units === 'us' ? MM_PER_INCH : 1;
  const length = units === 'us' ? 'in' : 'mm';
  // In the kitchen nothing is ordered: some designs say how much a tray holds.
  const ordered = draft.designs.length === 0 ? designs : designs.filter((d) => draft.designs.some((x) => x.designId === d.id));
  return (
    <fieldset hidden={hidden}>
      <legend className="text-2xl font-semibold mb-3">{msg`Trays`}</legend>
      <div className="flex flex-wrap gap-3 items-end mb-4">
        <Choice label={msg`How trays are said`} value={draft.traysBy} options={TRAYS_BY} onChange={(by) => setValue('traysBy', by)} />
        {bySize && (
          <Field label={msg`room for a hand between cookies, ${word(length)}`} error={errors.handGap?.message} inline>
            <input type="number" step="any" className="input w-24" {...register('handGap', within(0, Math.round(60 / mm), msg`The gap`))} />
          </Field>
        )}
      </div>
      <ul className="flex flex-wrap gap-4">
        {trays.fields.map((f, i) => (
          <li key={f.id} className="flex items-end gap-2">
            <Field label={msg`tray`} error={errors.trays?.[i]?.id?.message}>
              <input
                className="input input-lg w-20"
                {...register(`trays.${i}.id`, {
                  required: msg`Name it.`,
                  maxLength: { value: 12, message: msg`Shorter.` },
                  validate: (v, all) => all.trays.filter((t) => t.id === v).length === 1 || msg`Twice.`,
                })}
              />
            </Field>
            {bySize ? (
              <>
                <Field label={msg`width, ${word(length)}`} error={errors.trays?.[i]?.width?.message}>
                  <input
                    type="number"
                    step="any"
                    className="input input-lg w-28"
                    {...register(`trays.${i}.width`, within(Math.ceil(50 / mm), Math.floor(2000 / mm), msg`The width`))}
                  />
                </Field>
                <Field label={msg`depth, ${word(length)}`} error={errors.trays?.[i]?.depth?.message}>
                  <input
                    type="number"
                    step="any"
                    className="input input-lg w-28"
                    {...register(`trays.${i}.depth`, within(Math.ceil(50 / mm), Math.floor(2000 / mm), msg`The depth`))}
                  />
                </Field>
              </>
            ) : (
              <Field label={msg`holds`} error={errors.trays?.[i]?.places?.message}>
                <input
                  type="number"
                  className="input input-lg w-24"
                  {...register(`trays.${i}.places`, within(1, 200, msg`What it holds`))}
                />
              </Field>
            )}
            <RemoveButton
              label={msg`Remove tray ${draft.trays[i]?.id ?? ''}`}
              disabled={trays.fields.length === 1}
              onClick={() => trays.remove(i)}
            />
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn mt-3"
        onClick={() =>
          trays.append({
            ...(getValues('trays').at(-1) ?? { places: 8, width: 420, depth: 300 }),
            id: nextLetter(getValues('trays').map((t) => t.id)),
          })
        }
      >
        <Plus aria-hidden size={18} />
        {msg` another tray`}
      </button>
      {bySize ? (
        <TrayHolds
          designs={ordered}
          trays={draft.trays.map((t) => ({ widthMm: t.width * mm, depthMm: t.depth * mm }))}
          gapMm={draft.handGap * mm}
          cookies={cookies}
        />
      ) : (
        <p className={`mt-2 text-lg ${cookies > places ? 'text-error font-medium' : 'opacity-80'}`}>
          {msgNodes`${cookies > 0 && msg`${cookies} cookies, `}${places} places${
            cookies > places
              ? msg`: ${cookies - places} too
            few`
              : ''
          }`}
        </p>
      )}
    </fieldset>
  );
}

/** How many of each design a tray holds, worked out from the outlines. */
function TrayHolds({
  designs,
  trays,
  gapMm,
  cookies,
}: {
  readonly designs: readonly DesignSummary[];
  readonly trays: readonly { readonly widthMm: number; readonly depthMm: number }[];
  readonly gapMm: number;
  readonly cookies: number;
}) {
  const sizes = [...new Map(trays.map((t) => [`${t.widthMm} ${t.depthMm}`, t])).values()].filter((t) => t.widthMm >= 50 && t.depthMm >= 50);
  const drawings = useDrawings(designs.map(refOf));
  const key = JSON.stringify([sizes, gapMm, designs.map((d, i) => [d.id, drawings[i] !== undefined])]);
  const holds = useMemo(() => sizes.map((t) => drawings.map((d) => d && placesOn(d.cookie, t.widthMm, t.depthMm, gapMm))), [key]);
  // Of the design they hold most of: with any other among them there is no more room.
  const most = sizes.map((_, i) => Math.max(0, ...(holds[i] ?? []).map((n) => n ?? Number.POSITIVE_INFINITY)));
  const sum = trays.reduce((s, t) => s + (most[sizes.findIndex((z) => z.widthMm === t.widthMm && z.depthMm === t.depthMm)] ?? 0), 0);
  const atMost = Number.isFinite(sum) ? sum : null;
  return (
    <div className="mt-2 text-lg">
      {holds.map((places, i) => (
        <p key={`${sizes[i]?.widthMm} ${sizes[i]?.depthMm}`}>
          {msgNodes`${sizes.length > 1 && msg`${Math.round(sizes[i]?.widthMm ?? 0)} × ${Math.round(sizes[i]?.depthMm ?? 0)} mm: `}a tray
            holds ${designs.map((d, k) => msg`${places[k] ?? '…'} of ${d.name}`).join(', ')}`}
        </p>
      ))}
      <p hidden={cookies === 0} className={atMost !== null && cookies > atMost ? 'text-error font-medium' : ''}>
        {msgNodes`${cookies} cookies in all${
          atMost !== null &&
          cookies > atMost &&
          msg`: these trays hold ${atMost} at most, so
          ${cookies - atMost} have no place`
        }`}
      </p>
    </div>
  );
}

function nextLetter(taken: readonly string[]): string {
  return [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].find((c) => !taken.includes(c)) ?? String(taken.length + 1);
}
