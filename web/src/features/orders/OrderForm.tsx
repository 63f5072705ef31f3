import type { DesignSummary, HostChoice, OrderInput } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useEffect, useState } from 'react';
import { FormProvider } from 'react-hook-form';
import { useKeepKitchen, useKitchen, useSchools } from '../../api/queries.js';
import { dayClock } from '../../text/time.js';
import { Field } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Notice } from '../../ui/Notice.js';
import { BenchFields } from './form/BenchFields.js';
import { BenchSetUp, benchText } from './form/BenchSetUp.js';
import { DesignFields } from './form/DesignFields.js';
import { PinFields } from './form/PinFields.js';
import { inputOf, type OrderDraft, unusual, usualOf } from './order-draft.js';
import { useDraftForm } from './use-draft-form.js';

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
  const schools = useSchools().data ?? [];
  const kitchen = useKitchen().data;
  const { form, units, typedAtMs, beginAnew } = useDraftForm(name, initial, kitchen);
  const { register, handleSubmit, formState, watch } = form;
  const { errors } = formState;
  const sharing = watch('hostId') !== '';
  const wrong = sentencesIn(errors);
  const keepUsual = useKeepKitchen();
  const now = inputOf(readable(watch()), units);
  const differs = kitchen?.usual ? unusual(usualOf(now), kitchen.usual) : [];
  const cookies = now.designs.reduce((sum, d) => sum + (d.count || 0) + (d.spares || 0), 0);
  const short = cookies - now.trays.reduce((sum, t) => sum + (t.places ?? Number.POSITIVE_INFINITY), 0);
  // What a kitchen has not said yet is asked in full, and so is what is wrong.
  const isBenchWrong = BENCH_FIELDS.some((field) => field in errors);
  const [opened, setOpened] = useState(!kitchen?.usual);
  useEffect(() => {
    if (isBenchWrong) setOpened(true);
  }, [isBenchWrong]);
  return (
    <FormProvider {...form}>
      {typedAtMs !== null && (
        <p role="status" className="mb-6 text-lg border-l-8 border-primary pl-4">
          {msgNodes`What you typed ${dayClock(typedAtMs)} is here again. `}
          <button type="button" className="link" onClick={beginAnew}>
            {msg`Begin anew`}
          </button>
        </p>
      )}
      <form
        className="grid gap-10 max-w-5xl"
        onSubmit={handleSubmit((d) => onSubmit(inputOf(d, units)))}
        onChange={() => failure && onTyped?.()}
        noValidate
      >
        <Field label={msg`Name of the order`} error={errors.name?.message}>
          <input
            className="input input-lg w-full max-w-xl"
            {...register('name', {
              required: msg`Give the order a name.`,
              maxLength: { value: 80, message: msg`Keep the name under 80 letters.` },
            })}
          />
        </Field>

        <DesignFields designs={designs} />

        {hosts.length > 0 && (
          <fieldset>
            <legend className="text-2xl font-semibold mb-3">{msg`Whose bench`}</legend>
            <Field label={msg`worked on`}>
              <select className="select select-lg w-full max-w-xl" {...register('hostId')}>
                <option value="">{msg`a bench of its own`}</option>
                {hosts.map((h) => (
                  <option key={h.id} value={h.id}>
                    {msg`the bench of ${h.name}`}
                  </option>
                ))}
              </select>
            </Field>
            {sharing && (
              <p className="mt-2 text-lg opacity-80">
                {msg`It shares the trays, hours, air and hands of that order; its own time to be packed counts.`}
              </p>
            )}
          </fieldset>
        )}

        <BenchFields sharing={sharing} />

        {!sharing && (
          <details className="border-y border-base-300" open={opened} onToggle={(e) => setOpened(e.currentTarget.open)}>
            <summary className="cursor-pointer py-3 text-lg">
              <span className="text-2xl font-semibold mr-4">{msg`The bench`}</span>
              {benchText(now, schools.find((x) => x.id === now.school)?.label ?? now.school, units)}
              {short > 0 && <span className="text-error font-medium">{msgNodes`: ${short} cookies have no place`}</span>}
              {kitchen?.usual && (
                <span className="block opacity-85">
                  {differs.length === 0 ? msg`as your kitchen` : msg`as your kitchen, but for: ${differs.join(', ')}`}
                </span>
              )}
            </summary>
            <div className="grid gap-10 pb-6">
              <BenchSetUp designs={designs} schools={schools} first={initial.school} />
              {(!kitchen?.usual || differs.length > 0) && (
                <p className="text-lg">
                  <button
                    type="button"
                    className="btn"
                    disabled={keepUsual.isPending}
                    onClick={() => keepUsual.mutate({ usual: usualOf(now) })}
                  >
                    {msg`Make this my usual bench`}
                  </button>
                  {msg` New orders begin with it then.`}
                </p>
              )}
            </div>
          </details>
        )}

        <PinFields hidden={sharing} />

        <Field label={msg`Notes`} error={errors.notes?.message}>
          <textarea
            className="textarea textarea-lg w-full max-w-xl"
            rows={3}
            {...register('notes', { maxLength: { value: 2000, message: msg`Keep the notes under 2,000 letters.` } })}
          />
        </Field>

        {formState.submitCount > 0 && wrong.length > 0 && (
          <Notice title={msg`Not kept yet: something is missing or cannot be`} tone="closing">
            {wrong.join(' ')}
          </Notice>
        )}
        {failure && (
          <Notice title={msg`This could not be kept`} tone="closing">
            {failure}
          </Notice>
        )}
        <div>
          <button type="submit" className="btn btn-primary btn-lg text-xl px-10" disabled={saving || designs.length === 0}>
            {saving ? msg`Keeping it …` : submitText}
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

const BENCH_FIELDS: readonly (keyof OrderDraft)[] = [
  'trays',
  'handGap',
  'decorators',
  'openBags',
  'temp',
  'humidityPct',
  'fanPlaces',
  'dehydratorPlaces',
  'dehydratorTemp',
];

/** Dates that are being typed are none yet; what is shown of the bench does not depend on them. */
const SOME_DAY = '2026-01-01T12:00';
const readable = (d: OrderDraft): OrderDraft => ({
  ...d,
  openingHours: d.openingHours.map(() => ({ from: SOME_DAY, to: SOME_DAY })),
  pins: [],
  packBy: SOME_DAY,
});
