import {
  type DesignSummary,
  deriveSteps,
  MM_PER_INCH,
  MOST_DECORATORS,
  margins,
  type OrderInput,
  type OrderView,
  placesOn,
  suggestedSpares,
} from '@kestfog/core';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useMemo, useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { ApiFailure } from '../../api/client.js';
import { useAddDesign, useSchools } from '../../api/queries.js';
import { useClimate } from '../../api/use-climate.js';
import { useUnits } from '../../app/units.js';
import { temperature } from '../../text/amounts.js';
import { Cookie, finishedLook } from '../../ui/Cookie.js';
import { Notice } from '../../ui/Notice.js';
import { blankPin, draftOf, inputOf, type OrderDraft, shownTemp } from './order-draft.js';

interface Props {
  readonly initial: OrderInput;
  readonly designs: readonly DesignSummary[];
  /** orders whose bench could be shared */
  readonly hosts: readonly OrderView[];
  readonly saving: boolean;
  readonly failure: string | null;
  readonly submitText: string;
  readonly onSubmit: (input: OrderInput) => void;
}

const MAX_SVG_BYTES = 2_000_000;

/** Making or changing an order. What is typed stays typed, whatever the server says to it. */
export function OrderForm({ initial, designs, hosts, saving, failure, submitText, onSubmit }: Props) {
  const [units] = useUnits();
  const schools = useSchools().data ?? [];
  const climate = useClimate();
  const { register, control, handleSubmit, formState, watch, getValues, setValue } = useForm<OrderDraft>({
    defaultValues: draftOf(initial, units),
    mode: 'onTouched',
  });
  const items = useFieldArray({ control, name: 'designs' });
  const trays = useFieldArray({ control, name: 'trays' });
  const bench = useFieldArray({ control, name: 'bench' });
  const decorators = useFieldArray({ control, name: 'decorators' });
  const pins = useFieldArray({ control, name: 'pins' });
  const { errors } = formState;
  const draft = watch();
  const cookies = draft.designs.reduce((s, d) => s + (Number(d.count) || 0) + (Number(d.spares) || 0), 0);
  const school = schools.find((s) => s.id === draft.school) ?? schools[0];
  const bySize = draft.traysBy === 'size';
  const mm = units === 'us' ? MM_PER_INCH : 1;
  const length = units === 'us' ? 'in' : 'mm';
  const ordered = designs.filter((d) => draft.designs.some((x) => x.designId === d.id));
  const sharing = draft.hostId !== '';
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
                  <input type="number" className="input input-lg w-24" {...register(`designs.${i}.count`, within(1, 500, 'The count'))} />
                </Field>
                <Field label="spares" error={errors.designs?.[i]?.spares?.message} inline>
                  <input type="number" className="input input-lg w-20" {...register(`designs.${i}.spares`, within(0, 200, 'Spares'))} />
                </Field>
                {design && school && (
                  <Suggested
                    design={design}
                    count={Number(draft.designs[i]?.count) || 0}
                    school={school}
                    spares={Number(draft.designs[i]?.spares) || 0}
                    onTake={(n) => setValue(`designs.${i}.spares`, n, { shouldDirty: true })}
                  />
                )}
                <RemoveButton label={`Remove design ${i + 1}`} disabled={items.fields.length === 1} onClick={() => items.remove(i)} />
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
            <Plus aria-hidden size={18} /> another design
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

      {hosts.length > 0 && (
        <fieldset>
          <legend className="text-2xl font-semibold mb-3">Whose bench</legend>
          <Field label="worked on">
            <select className="select select-lg w-full max-w-xl" {...register('hostId')}>
              <option value="">a bench of its own</option>
              {hosts.map((h) => (
                <option key={h.id} value={h.id}>
                  the bench of {h.name}
                </option>
              ))}
            </select>
          </Field>
          {sharing && <p className="mt-2 text-lg opacity-80">It shares the trays, hours, air and hands of that order; its own time to be packed counts.</p>}
        </fieldset>
      )}

      <fieldset hidden={sharing}>
        <legend className="text-2xl font-semibold mb-3">Trays</legend>
        <div className="flex flex-wrap gap-3 items-end mb-4">
          {(['places', 'size'] as const).map((by) => (
            <button
              key={by}
              type="button"
              className={`btn ${draft.traysBy === by ? 'btn-neutral' : ''}`}
              aria-pressed={draft.traysBy === by}
              onClick={() => setValue('traysBy', by)}
            >
              {by === 'places' ? 'by how many they hold' : 'by their size'}
            </button>
          ))}
          {bySize && (
            <Field label={`room for a hand between cookies, ${length}`} error={errors.handGap?.message} inline>
              <input type="number" step="any" className="input w-24" {...register('handGap', within(0, Math.round(60 / mm), 'The gap'))} />
            </Field>
          )}
        </div>
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
              {bySize ? (
                <>
                  <Field label={`width, ${length}`} error={errors.trays?.[i]?.width?.message}>
                    <input
                      type="number"
                      step="any"
                      className="input input-lg w-28"
                      {...register(`trays.${i}.width`, within(Math.ceil(50 / mm), Math.floor(2000 / mm), 'It'))}
                    />
                  </Field>
                  <Field label={`depth, ${length}`} error={errors.trays?.[i]?.depth?.message}>
                    <input
                      type="number"
                      step="any"
                      className="input input-lg w-28"
                      {...register(`trays.${i}.depth`, within(Math.ceil(50 / mm), Math.floor(2000 / mm), 'It'))}
                    />
                  </Field>
                </>
              ) : (
                <Field label="holds" error={errors.trays?.[i]?.places?.message}>
                  <input type="number" className="input input-lg w-24" {...register(`trays.${i}.places`, within(1, 200, 'It'))} />
                </Field>
              )}
              <RemoveButton label={`Remove tray ${draft.trays[i]?.id ?? ''}`} disabled={trays.fields.length === 1} onClick={() => trays.remove(i)} />
            </li>
          ))}
        </ul>
        <button
          type="button"
          className="btn mt-3"
          onClick={() =>
            trays.append({ ...(getValues('trays').at(-1) ?? { places: 8, width: 420, depth: 300 }), id: nextLetter(getValues('trays').map((t) => t.id)) })
          }
        >
          <Plus aria-hidden size={18} /> another tray
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
            {cookies} cookies, {places} places{cookies > places ? `: ${cookies - places} too few` : ''}
          </p>
        )}
      </fieldset>

      <fieldset>
        <legend className="text-2xl font-semibold mb-3">{sharing ? 'Due' : 'At the bench'}</legend>
        <div hidden={sharing}>
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
        </div>
        <div className="mt-5">
          <Field label="Packed by" error={errors.packBy?.message}>
            <input type="datetime-local" className="input input-lg" {...register('packBy', { required: 'When must it be packed?' })} />
          </Field>
        </div>
      </fieldset>

      <fieldset hidden={sharing}>
        <legend className="text-2xl font-semibold mb-3">Hands</legend>
        <ul className="grid gap-3">
          {decorators.fields.map((f, i) => (
            <li key={f.id} className="flex flex-wrap items-end gap-3">
              <Field label="who" error={errors.decorators?.[i]?.id?.message}>
                <input
                  className="input input-lg w-56"
                  {...register(`decorators.${i}.id`, {
                    required: 'Name them.',
                    maxLength: { value: 40, message: 'Shorter.' },
                    validate: (v, all) => all.decorators.filter((d) => d.id === v).length === 1 || 'Twice.',
                  })}
                />
              </Field>
              <Field label="pace (1 as assumed, 2 twice as fast)" error={errors.decorators?.[i]?.pace?.message}>
                <input type="number" step="any" className="input input-lg w-32" {...register(`decorators.${i}.pace`, within(0.3, 3, 'The pace'))} />
              </Field>
              <RemoveButton label={`Remove ${draft.decorators[i]?.id ?? ''}`} disabled={decorators.fields.length === 1} onClick={() => decorators.remove(i)} />
            </li>
          ))}
        </ul>
        <div className="flex flex-wrap gap-5 items-end mt-3">
          <button
            type="button"
            className="btn"
            disabled={decorators.fields.length >= MOST_DECORATORS}
            onClick={() => decorators.append({ id: `hands ${decorators.fields.length + 1}`, pace: 1 })}
          >
            <Plus aria-hidden size={18} /> another pair of hands
          </button>
          <Field label="bags open at once (empty: any)" error={errors.openBags?.message}>
            <input
              type="number"
              className="input input-lg w-32"
              {...register('openBags', {
                validate: (v) => v === '' || (Number.isInteger(Number(v)) && Number(v) >= 1 && Number(v) <= 60) || 'From 1 to 60 bags.',
              })}
            />
          </Field>
        </div>
      </fieldset>

      <fieldset hidden={sharing}>
        <legend className="text-2xl font-semibold mb-3">What you insist on</legend>
        {pins.fields.length === 0 && (
          <p className="text-lg opacity-80">
            Nothing. Lunch, a telephone call, a tray that must be first: what you say here is kept, or you are told why it cannot be.
          </p>
        )}
        <ul className="grid gap-3">
          {pins.fields.map((f, i) => (
            <li key={f.id} className="flex flex-wrap items-end gap-3">
              <Field label="what">
                <select className="select select-lg w-64" {...register(`pins.${i}.kind`)}>
                  <option value="away">nobody at the bench</option>
                  <option value="tray-first">this tray first</option>
                  <option value="not-before">not before</option>
                </select>
              </Field>
              {draft.pins[i]?.kind === 'away' ? (
                <>
                  <Field label="why">
                    <input className="input input-lg w-40" {...register(`pins.${i}.label`, { maxLength: 60 })} />
                  </Field>
                  <Field label="from">
                    <input type="datetime-local" className="input input-lg" {...register(`pins.${i}.from`)} />
                  </Field>
                  <Field label="to" error={errors.pins?.[i]?.to?.message}>
                    <input
                      type="datetime-local"
                      className="input input-lg"
                      {...register(`pins.${i}.to`, {
                        validate: (v, all) => all.pins[i]?.kind !== 'away' || v > (all.pins[i]?.from ?? '') || 'It must end after it begins.',
                      })}
                    />
                  </Field>
                  {draft.decorators.length > 1 && (
                    <Field label="who">
                      <select className="select select-lg w-40" {...register(`pins.${i}.who`)}>
                        <option value="">everyone</option>
                        {draft.decorators.map((d) => (
                          <option key={d.id} value={d.id}>
                            {d.id}
                          </option>
                        ))}
                      </select>
                    </Field>
                  )}
                </>
              ) : (
                <>
                  <Field label="tray" error={errors.pins?.[i]?.tray?.message}>
                    <select
                      className="select select-lg w-28"
                      {...register(`pins.${i}.tray`, {
                        validate: (v, all) => all.pins[i]?.kind === 'away' || all.trays.some((t) => t.id === v) || 'Choose a tray.',
                      })}
                    >
                      {draft.trays.map((t) => (
                        <option key={t.id} value={t.id}>
                          {t.id}
                        </option>
                      ))}
                    </select>
                  </Field>
                  {draft.pins[i]?.kind === 'not-before' && (
                    <Field label="not before">
                      <input type="datetime-local" className="input input-lg" {...register(`pins.${i}.at`)} />
                    </Field>
                  )}
                </>
              )}
              <RemoveButton label={`Remove what you insist on, ${i + 1}`} disabled={false} onClick={() => pins.remove(i)} />
            </li>
          ))}
        </ul>
        <button type="button" className="btn mt-3" onClick={() => pins.append(blankPin(getValues('bench.0.from'), getValues('trays.0.id')))}>
          <Plus aria-hidden size={18} /> something to insist on
        </button>
      </fieldset>

      <fieldset hidden={sharing}>
        <legend className="text-2xl font-semibold mb-3">Air</legend>
        {climate.reading && (
          <button
            type="button"
            className="btn mb-3"
            onClick={() => {
              setValue('temp', shownTemp(climate.reading?.tempC ?? 0, units), { shouldDirty: true });
              setValue('humidityPct', Math.round(climate.reading?.humidityPct ?? 0), { shouldDirty: true });
            }}
          >
            take it from the sensor: {temperature(climate.reading.tempC, units)}, {Math.round(climate.reading.humidityPct)} %
          </button>
        )}
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
          <Field label="trays in the dehydrator" error={errors.boxPlaces?.message}>
            <input type="number" className="input input-lg w-32" {...register('boxPlaces', within(0, 20, 'The number of trays'))} />
          </Field>
          {Number(draft.boxPlaces) > 0 && (
            <Field label={`set to, ${tempRange.unit}`} error={errors.boxTemp?.message}>
              <input
                type="number"
                step="any"
                className="input input-lg w-32"
                {...register('boxTemp', within(units === 'us' ? 68 : 20, units === 'us' ? 176 : 80, 'The dehydrator'))}
              />
            </Field>
          )}
        </div>
        {Number(draft.boxPlaces) > 0 && (
          <p className="mt-2 text-base opacity-80">
            Warm air: never leave it running with food forgotten in it, mind burns, and follow its maker and your local code.
          </p>
        )}
      </fieldset>

      <fieldset hidden={sharing}>
        <legend className="text-2xl font-semibold mb-3">Way of working</legend>
        <div className="flex flex-wrap gap-5">
          <Field label="school">
            <select className="select select-lg w-56" {...register('school')}>
              {/* What the order has is there before the list has come, or the browser would quietly choose the first. */}
              {(schools.some((s) => s.id === initial.school) ? schools : [{ id: initial.school, label: initial.school }]).map((s) => (
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

      <Field label="Notes" error={errors.notes?.message}>
        <textarea
          className="textarea textarea-lg w-full max-w-xl"
          rows={3}
          {...register('notes', { maxLength: { value: 2000, message: 'Keep the notes under 2,000 letters.' } })}
        />
      </Field>

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
  const usual = useMemo(() => suggestedSpares(deriveSteps(design.drawing, school), count, design.drawing.transfer), [design, school, count]);
  if (count < 1 || usual === spares) return null;
  return (
    <button type="button" className="btn btn-ghost" onClick={() => onTake(usual)}>
      {usual} {usual === 1 ? 'spare is' : 'spares are'} usual
    </button>
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
  const key = JSON.stringify([sizes, gapMm, designs.map((d) => d.id)]);
  const holds = useMemo(() => sizes.map((t) => designs.map((d) => placesOn(d.drawing.cookie, t.widthMm, t.depthMm, gapMm))), [key]);
  return (
    <div className="mt-2 text-lg opacity-80">
      {holds.map((places, i) => (
        <p key={`${sizes[i]?.widthMm} ${sizes[i]?.depthMm}`}>
          {sizes.length > 1 && `${Math.round(sizes[i]?.widthMm ?? 0)} × ${Math.round(sizes[i]?.depthMm ?? 0)} mm: `}a tray holds{' '}
          {designs.map((d, k) => `${places[k]} of ${d.name}`).join(', ')}
        </p>
      ))}
      <p>{cookies} cookies in all</p>
    </div>
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
