import { margins } from '@kestfog/core/drying';
import type { DesignSummary, HostChoice, OrderInput } from '@kestfog/core/wire';
import { useEffect, useState } from 'react';
import { FormProvider, useForm } from 'react-hook-form';
import { useKitchen, useSchools } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { dayClock } from '../../text/time.js';
import { Notice } from '../../ui/Notice.js';
import { AirFields } from './form/AirFields.js';
import { BenchFields } from './form/BenchFields.js';
import { DesignFields } from './form/DesignFields.js';
import { Field } from './form/Field.js';
import { HandFields } from './form/HandFields.js';
import { PinFields } from './form/PinFields.js';
import { TrayFields } from './form/TrayFields.js';
import { dropDraft, keepDraft, keptDraft } from './kept-draft.js';
import { draftOf, inputOf, type OrderDraft } from './order-draft.js';

interface Props {
  /** names the form among others: what is typed into it is kept on this device under that name */
  readonly form: string;
  readonly initial: OrderInput;
  readonly designs: readonly DesignSummary[];
  /** orders whose bench could be shared */
  readonly hosts: readonly HostChoice[];
  readonly saving: boolean;
  readonly failure: string | null;
  readonly submitText: string;
  readonly onSubmit: (input: OrderInput) => void;
  /** something was typed after a refusal: that speaks of what is there no more */
  readonly onTyped?: () => void;
}

/** Making or changing an order. What is typed stays typed, whatever the server says to it. */
export function OrderForm({ form: name, initial, designs, hosts, saving, failure, submitText, onSubmit, onTyped }: Props) {
  const [units] = useUnits();
  const schools = useSchools().data ?? [];
  const kitchen = useKitchen().data;
  const [fresh] = useState(() => draftOf(initial, units, kitchen?.dehydrator));
  const [kept, setKept] = useState(() => keptDraft(name, fresh, units));
  const form = useForm<OrderDraft>({ defaultValues: kept?.draft ?? fresh, mode: 'onTouched' });
  const { register, handleSubmit, formState, watch, reset } = form;
  useEffect(() => {
    const typed = watch((draft) => keepDraft(name, fresh, units, draft as OrderDraft));
    return () => typed.unsubscribe();
  }, [watch, name, fresh, units]);
  const { errors } = formState;
  const sharing = watch('hostId') !== '';
  const wrong = sentencesIn(errors);
  return (
    <FormProvider {...form}>
      {kept && (
        <p role="status" className="mb-6 text-lg border-l-8 border-primary pl-4">
          What you typed {dayClock(kept.atMs)} is here again.{' '}
          <button
            type="button"
            className="link"
            onClick={() => {
              reset(fresh);
              dropDraft(name);
              setKept(null);
            }}
          >
            Begin anew
          </button>
        </p>
      )}
      <form className="grid gap-10 max-w-5xl" onSubmit={handleSubmit((d) => onSubmit(inputOf(d, units)))} onChange={() => failure && onTyped?.()} noValidate>
        <Field label="Name of the order" error={errors.name?.message}>
          <input
            className="input input-lg w-full max-w-xl"
            {...register('name', { required: 'Give the order a name.', maxLength: { value: 80, message: 'Keep the name under 80 letters.' } })}
          />
        </Field>

        <DesignFields designs={designs} />

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

        <TrayFields designs={designs} hidden={sharing} />

        <BenchFields sharing={sharing} />

        <HandFields hidden={sharing} />

        <PinFields hidden={sharing} />

        <AirFields hidden={sharing} />

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

        {formState.submitCount > 0 && wrong.length > 0 && (
          <Notice title="Not kept yet: something is missing or cannot be" tone="closing">
            {wrong.join(' ')}
          </Notice>
        )}
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
    </FormProvider>
  );
}

/** Everything a form finds wrong, each said once, also of fields that are folded away. */
function sentencesIn(errors: object): string[] {
  const found = Object.values(errors).flatMap((e: unknown): string[] => {
    if (typeof e !== 'object' || e === null) return [];
    const { message, ref: _ref, ...inner } = e as { message?: unknown; ref?: unknown };
    return typeof message === 'string' && message !== '' ? [message] : sentencesIn(inner);
  });
  return [...new Set(found)];
}
