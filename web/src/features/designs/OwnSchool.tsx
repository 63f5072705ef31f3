import { type SchoolParameter, schoolParameters } from '@kestfog/core/steps';
import type { SchoolView } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import type { RegisterOptions } from 'react-hook-form';
import { useKeepSchool, useRemoveSchool } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import type { Units } from '../../app/units.js';
import { Field } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';
import { lengthTurned, mmIn, shownIn } from '../../ui/use-length.js';
import { isCount, isLength } from './school-text.js';

/** Its name, and each of its rows as it is typed, ticked or chosen. */
type Fields = Record<string, string | boolean>;
const message = (error: { readonly message?: unknown } | undefined): string | undefined => error?.message as string | undefined;

interface Props {
  readonly school: SchoolView;
  readonly onRemoved: () => void;
}

/** A school of one's own: every row a field, with what practitioners tell of it beside it. */
export function OwnSchool({ school, onRemoved }: Props) {
  const keeping = useKeepSchool();
  const removing = useRemoveSchool();
  const counting = useCounting();
  const own = (p: SchoolParameter, v: number, u: Units) =>
    isCount(p) ? counting.own(v) : isLength(p) ? Number(shownIn(v, u === 'us')) : v;
  const begin = (u: Units): Fields => ({
    label: school.label,
    ...Object.fromEntries(
      schoolParameters.map((p) => [
        p.key,
        p.kind === 'number' ? String(own(p, school[p.key] as number, u)) : (school[p.key] as string | boolean),
      ]),
    ),
  });
  const turned = (typed: Fields, from: Units, to: Units): Fields => ({
    ...typed,
    ...Object.fromEntries(schoolParameters.filter(isLength).map((p) => [p.key, lengthTurned(String(typed[p.key]), from, to)])),
  });
  const { form, units } = useKeptForm<Fields>({ name: `school.${school.id}`, begin, turned });
  const unitOf = (p: SchoolParameter & { kind: 'number' }) => (isLength(p) && units === 'us' ? word('in') : p.unit);
  const { errors, isValid } = form.formState;
  const keep = (typed: Fields) => {
    const values = schoolParameters.map((p) => {
      if (p.kind !== 'number') return [p.key, typed[p.key]] as const;
      const text = String(typed[p.key]);
      if (isLength(p)) return [p.key, Math.round(mmIn(text, units) * 100) / 100] as const;
      return [p.key, isCount(p) ? counting.reference(numberIn(text)) : numberIn(text)] as const;
    });
    keeping.mutate({ ...school, ...Object.fromEntries(values), label: String(typed['label']).trim() });
  };
  return (
    <form noValidate onSubmit={form.handleSubmit(keep)}>
      <fieldset className="grid gap-4 border-t border-base-300 pt-3" aria-label={msg`Your own school`}>
        <Field label={msg`name`} error={message(errors['label'])}>
          <input
            className="input w-60"
            maxLength={60}
            {...form.register('label', { validate: (v) => String(v).trim() !== '' || msg`Name it.` })}
          />
        </Field>
        <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-6 gap-y-5">
          {schoolParameters.map((p) => (
            <div key={p.key} className="grid gap-1 content-start">
              {p.kind === 'number' && (
                <Field label={`${p.label}${p.unit ? `, ${unitOf(p)}` : ''}`} error={message(errors[p.key])}>
                  <NumberInput
                    isWrong={!!errors[p.key]}
                    {...form.register(
                      p.key,
                      aNumber(own(p, p.from, units), own(p, p.to, units), msg`This`, unitOf(p)) as RegisterOptions<Fields>,
                    )}
                  />
                </Field>
              )}
              {p.kind === 'choice' && (
                <Field label={p.label}>
                  <select className="select" {...form.register(p.key)}>
                    {p.of.map((o) => (
                      <option key={o.value} value={o.value}>
                        {o.text}
                      </option>
                    ))}
                  </select>
                </Field>
              )}
              {p.kind === 'yes' && (
                <label className="flex items-center gap-2 min-h-11 text-lg">
                  <input type="checkbox" className="checkbox" {...form.register(p.key)} />
                  {p.label}
                </label>
              )}
              <span className="text-sm opacity-80">{msgNodes`in practice: ${p.inPractice}`}</span>
            </div>
          ))}
        </div>
        <div className="flex flex-wrap gap-3">
          <button type="submit" className="btn" disabled={!isValid || keeping.isPending}>
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
    </form>
  );
}
