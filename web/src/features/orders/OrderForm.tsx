import { type DesignSummary, margins, type OrderInput } from '@kestfog/core';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { ApiFailure } from '../../api/client.js';
import { useAddDesign, useSchools } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { Cookie, finishedLook } from '../../ui/Cookie.js';
import { Notice } from '../../ui/Notice.js';
import { draftOf, inputOf, type OrderDraft } from './order-draft.js';

interface Props {
  readonly initial: OrderInput;
  readonly designs: readonly DesignSummary[];
  readonly saving: boolean;
  readonly failure: string | null;
  readonly submitText: string;
  readonly onSubmit: (input: OrderInput) => void;
}

const MAX_SVG_BYTES = 2_000_000;

/** Making or changing an order. What is typed stays typed, whatever the server says to it. */
export function OrderForm({ initial, designs, saving, failure, submitText, onSubmit }: Props) {
  const [units] = useUnits();
  const schools = useSchools().data ?? [];
  const { register, control, handleSubmit, formState, watch, getValues, setValue } = useForm<OrderDraft>({
    defaultValues: draftOf(initial, units),
    mode: 'onTouched',
  });
  const items = useFieldArray({ control, name: 'designs' });
  const trays = useFieldArray({ control, name: 'trays' });
  const bench = useFieldArray({ control, name: 'bench' });
  const { errors } = formState;
  const draft = watch();
  const cookies = draft.designs.reduce((s, d) => s + (Number(d.count) || 0), 0);
  const places = draft.trays.reduce((s, t) => s + (Number(t.places) || 0), 0);
  const tempRange = units === 'us' ? { min: 41, max: 113, unit: '°F' } : { min: 5, max: 45, unit: '°C' };
  const within = (min: number, max: number, what: string) => ({
    valueAsNumber: true,
    validate: (v: number) => (Number.isFinite(v) && v >= min && v <= max ? true : `${what} goes from ${min} to ${max}.`),
  });
  return (
    <form className="grid gap-10 max-w-5xl" onSubmit={handleSubmit((d) => onSubmit(inputOf(d, units)))} noValidate>
      <Field label="Name of the order" error={errors.name?.message}>
        <input
          className="input input-lg w-full max-w-xl"
          {...register('name', { required: 'Give the order a name.', maxLength: { value: 80, message: 'Keep the name under 80 letters.' } })}
        />
      </Field>

      <fieldset>
        <legend className="text-2xl font-semibold mb-3">Designs and counts</legend>
        <ul className="divide-y divide-base-300">
          {items.fields.map((f, i) => {
            const design = designs.find((d) => d.id === draft.designs[i]?.designId);
            return (
              <li key={f.id} className="flex flex-wrap items-center gap-4 py-3">
                <div className="w-20 h-20">
                  {design && <Cookie design={design.drawing} look={finishedLook(design.drawing)} className="h-20 w-20" label={design.name} />}
                </div>
                <select className="select select-lg w-64" aria-label={`Design ${i + 1}`} {...register(`designs.${i}.designId`)}>
                  {designs.map((d) => (
                    <option key={d.id} value={d.id}>
                      {d.name}
                    </option>
                  ))}
                </select>
                <Field label="cookies" error={errors.designs?.[i]?.count?.message} inline>
                  <input type="number" className="input input-lg w-28" {...register(`designs.${i}.count`, within(1, 500, 'The count'))} />
                </Field>
                <RemoveButton label={`Remove design ${i + 1}`} disabled={items.fields.length === 1} onClick={() => items.remove(i)} />
              </li>
            );
          })}
        </ul>
        <div className="flex flex-wrap gap-3 mt-3">
          <button type="button" className="btn" disabled={designs.length === 0} onClick={() => items.append({ designId: designs[0]?.id ?? '', count: 12 })}>
            <Plus aria-hidden size={18} /> another design
          </button>
          <BringDrawing
            onAdded={(id) => {
              const empty = getValues('designs').findIndex((d) => d.designId === '');
              if (empty >= 0) setValue(`designs.${empty}.designId`, id);
              else items.append({ designId: id, count: 12 });
            }}
          />
        </div>
      </fieldset>

      <fieldset>
        <legend className="text-2xl font-semibold mb-3">Trays</legend>
        <ul className="flex flex-wrap gap-4">
          {trays.fields.map((f, i) => (
            <li key={f.id} className="flex items-end gap-2">
              <Field label="tray" error={errors.trays?.[i]?.id?.message}>
                <input
                  className="input input-lg w-20"
                  {...register(`trays.${i}.id`, {
                    required: 'Name it.',
                    maxLength: { value: 12, message: 'Shorter.' },
                    validate: (v, all) => all.trays.filter((t) => t.id === v).length === 1 || 'Twice.',
                  })}
                />
              </Field>
              <Field label="holds" error={errors.trays?.[i]?.places?.message}>
                <input type="number" className="input input-lg w-24" {...register(`trays.${i}.places`, within(1, 200, 'It'))} />
              </Field>
              <RemoveButton label={`Remove tray ${draft.trays[i]?.id ?? ''}`} disabled={trays.fields.length === 1} onClick={() => trays.remove(i)} />
            </li>
          ))}
        </ul>
        <button type="button" className="btn mt-3" onClick={() => trays.append({ id: nextLetter(getValues('trays').map((t) => t.id)), places: 8 })}>
          <Plus aria-hidden size={18} /> another tray
        </button>
        <p className={`mt-2 text-lg ${cookies > places ? 'text-error font-medium' : 'opacity-80'}`}>
          {cookies} cookies, {places} places{cookies > places ? `: ${cookies - places} too few` : ''}
        </p>
      </fieldset>

      <fieldset>
        <legend className="text-2xl font-semibold mb-3">At the bench</legend>
        <ul className="grid gap-3">
          {bench.fields.map((f, i) => (
            <li key={f.id} className="flex flex-wrap items-end gap-3">
              <Field label="from" error={errors.bench?.[i]?.from?.message}>
                <input type="datetime-local" className="input input-lg" {...register(`bench.${i}.from`, { required: 'When does it open?' })} />
              </Field>
              <Field label="to" error={errors.bench?.[i]?.to?.message}>
                <input
                  type="datetime-local"
                  className="input input-lg"
                  {...register(`bench.${i}.to`, {
                    required: 'When does it close?',
                    validate: (v, all) => v > (all.bench[i]?.from ?? '') || 'It must close after it opens.',
                  })}
                />
              </Field>
              <RemoveButton label={`Remove opening ${i + 1}`} disabled={bench.fields.length === 1} onClick={() => bench.remove(i)} />
            </li>
          ))}
        </ul>
        <button type="button" className="btn mt-3" onClick={() => bench.append({ from: '', to: '' })}>
          <Plus aria-hidden size={18} /> another opening
        </button>
        <div className="mt-5">
          <Field label="Packed by" error={errors.packBy?.message}>
            <input type="datetime-local" className="input input-lg" {...register('packBy', { required: 'When must it be packed?' })} />
          </Field>
        </div>
      </fieldset>

      <fieldset>
        <legend className="text-2xl font-semibold mb-3">Air</legend>
        <div className="flex flex-wrap gap-5 items-start">
          <Field label={`temperature, ${tempRange.unit}`} error={errors.temp?.message}>
            <input type="number" step="any" className="input input-lg w-32" {...register('temp', within(tempRange.min, tempRange.max, 'The temperature'))} />
          </Field>
          <Field label="humidity, %" error={errors.humidityPct?.message}>
            <input type="number" step="any" className="input input-lg w-32" {...register('humidityPct', within(1, 100, 'Humidity'))} />
          </Field>
          <Field label="trays before the fan" error={errors.fanPlaces?.message}>
            <input type="number" className="input input-lg w-32" {...register('fanPlaces', within(0, 20, 'The number of trays'))} />
          </Field>
        </div>
      </fieldset>

      <fieldset>
        <legend className="text-2xl font-semibold mb-3">Way of working</legend>
        <div className="flex flex-wrap gap-5">
          <Field label="school">
            <select className="select select-lg w-56" {...register('school')}>
              {schools.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.label}
                </option>
              ))}
            </select>
          </Field>
          <Field label="margin">
            <select className="select select-lg w-56" {...register('margin')}>
              {margins.map((m) => (
                <option key={m} value={m}>
                  {m}
                </option>
              ))}
            </select>
          </Field>
        </div>
      </fieldset>

      {failure && (
        <Notice title="This could not be kept" tone="closing">
          {failure}
        </Notice>
      )}
      <div>
        <button type="submit" className="btn btn-primary btn-lg text-xl px-10" disabled={saving || designs.length === 0}>
          {saving ? 'Keeping it …' : submitText}
        </button>
      </div>
    </form>
  );
}

function Field({
  label,
  error,
  inline = false,
  children,
}: {
  readonly label: string;
  readonly error?: string | undefined;
  readonly inline?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <label className={inline ? 'flex flex-wrap items-center gap-2' : 'grid gap-1 content-start'}>
      <span className={`text-lg ${inline ? 'order-2' : ''}`}>{label}</span>
      {children}
      {error && (
        <span role="alert" className="text-error text-base font-medium basis-full order-3">
          {error}
        </span>
      )}
    </label>
  );
}

function RemoveButton({ label, disabled, onClick }: { readonly label: string; readonly disabled: boolean; readonly onClick: () => void }) {
  return (
    <button type="button" className="btn btn-ghost btn-square" aria-label={label} disabled={disabled} onClick={onClick}>
      <X aria-hidden />
    </button>
  );
}

function nextLetter(taken: readonly string[]): string {
  return [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].find((c) => !taken.includes(c)) ?? String(taken.length + 1);
}

/** A drawing from a file; what is wrong with it is said here, and nothing is stored. */
function BringDrawing({ onAdded }: { readonly onAdded: (designId: string) => void }) {
  const add = useAddDesign();
  const [problem, setProblem] = useState<string | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    if (file.size > MAX_SVG_BYTES) return setProblem(`${file.name} is larger than 2 MB: simplify it or remove embedded pictures.`);
    try {
      const made = await add.mutateAsync({ name: file.name.replace(/\.svg$/i, '').slice(0, 80) || 'Drawing', svg: await file.text() });
      onAdded(made.id);
    } catch (error) {
      setProblem(error instanceof ApiFailure ? error.message : 'The file could not be read: choose another.');
    }
  };
  return (
    <div>
      <label className="btn">
        {add.isPending ? 'Reading …' : 'bring a drawing (SVG)'}
        <input
          type="file"
          accept=".svg,image/svg+xml"
          className="sr-only"
          onChange={(e) => {
            void read(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="text-error font-medium mt-2 max-w-xl">
          {problem}
        </p>
      )}
    </div>
  );
}
