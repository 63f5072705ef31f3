import { type LessonAbout, lessonsFor } from '@kestfog/core/notebook';
import type { LessonView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useLessons } from '../../api/notebook.js';
import { type ShownRecording, useSpoken } from '../../api/recordings.js';
import { RemoveButton } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { useKeptForm } from '../../ui/use-kept-form.js';
import { DesignChoice } from './DesignChoice.js';
import { Spoken } from './Recordings.js';

/** What a lesson is about, in words. */
const aboutText = (l: LessonAbout): string => [l.design, l.step, l.school].filter(Boolean).join(', ') || msg`whatever it is`;

/** Lessons as they are shown elsewhere; nothing where there is none. */
export function LessonList({
  lessons,
  spoken = [],
  large = false,
}: {
  readonly lessons: readonly LessonView[];
  readonly spoken?: readonly ShownRecording[];
  readonly large?: boolean;
}) {
  if (lessons.length + spoken.length === 0) return null;
  return (
    <section aria-label={msg`From the notebook`} className={`border-l-4 border-primary pl-4 ${large ? 'text-2xl mt-3' : 'text-lg'}`}>
      {lessons.map((l) => (
        <p key={l.id}>
          <b className="font-semibold">{l.text}</b> <span className="opacity-80">{msgNodes`(from the notebook: ${aboutText(l)})`}</span>
        </p>
      ))}
      {spoken.map((r) => (
        <p key={r.id} className="flex flex-wrap items-center gap-x-3">
          <Spoken recording={r} /> <span className="opacity-80">{msgNodes`(said for: ${aboutText(r)})`}</span>
        </p>
      ))}
    </section>
  );
}

interface Props {
  readonly runId: string;
  readonly lessons: readonly LessonView[];
  readonly designs: readonly string[];
  /** the school it was worked in */
  readonly school: string;
  readonly steps: readonly { readonly design: string | null; readonly title: string }[];
}
/** What is to be done otherwise the next time; it comes back with its design, its step, its school. */
export function Lessons({ runId, lessons, designs, school, steps }: Props) {
  const { add, remove, list } = useLessons();
  const { form, beginAnew } = useKeptForm({
    name: msg`lesson ${runId}`,
    begin: () => ({ text: '', design: designs[0] ?? '', step: '', school: '' }),
  });
  const { register, watch, setValue, handleSubmit, formState } = form;
  const about = watch('design');
  const own = list.data ? list.data.filter((l) => l.runId === runId) : lessons;
  const titles = [...new Set(steps.filter((s) => about === '' || s.design === about).map((s) => s.title))];
  const failure = add.error ?? remove.error;
  return (
    <section aria-label={msg`Lessons`}>
      <h2 className="text-2xl font-semibold">{msg`The next time`}</h2>
      <ul className="mt-1">
        {own.map((l) => (
          <li key={l.id} className="flex items-center gap-2 text-lg">
            <span className="grow">
              <b className="font-semibold">{l.text}</b> <span className="opacity-80">({aboutText(l)})</span>
            </span>
            <RemoveButton label={msg`Take away: ${l.text}`} disabled={remove.isPending} onClick={() => remove.mutate(l.id)} />
          </li>
        ))}
      </ul>
      <form
        className="grid gap-3 mt-2"
        noValidate
        onSubmit={handleSubmit((l) =>
          add.mutate(
            { text: l.text.trim(), runId, design: l.design || null, step: l.step || null, school: l.school || null },
            { onSuccess: beginAnew },
          ),
        )}
      >
        <label className="grid gap-1">
          <span className="text-lg">{msg`what is to be done otherwise`}</span>
          <textarea
            className="textarea w-full text-lg"
            maxLength={500}
            placeholder={msg`20 s for the waterline`}
            {...register('text', { validate: (text) => text.trim() !== '' })}
          />
        </label>
        <div className="flex flex-wrap gap-3">
          <DesignChoice
            label={msg`comes back with`}
            designs={designs}
            value={about}
            onChange={(design) => {
              setValue('design', design, { shouldDirty: true });
              setValue('step', '');
            }}
          />
          <label className="grid gap-1">
            <span className="text-lg">{msg`at`}</span>
            <select className="select w-64" {...register('step')}>
              <option value="">{msg`all of it`}</option>
              {titles.map((t) => (
                <option key={t} value={t}>
                  {t}
                </option>
              ))}
            </select>
          </label>
          <label className="grid gap-1">
            <span className="text-lg">{msg`in`}</span>
            <select className="select w-44" {...register('school')}>
              <option value="">{msg`any school`}</option>
              <option value={school}>{msg`${school} only`}</option>
            </select>
          </label>
        </div>
        <button type="submit" className="btn btn-primary justify-self-start" disabled={!formState.isValid || add.isPending}>
          {msg`Write it down`}
        </button>
        {failure && (
          <p role="alert" className="text-error font-medium">
            {failure.message}
          </p>
        )}
      </form>
    </section>
  );
}

/** What was learned of designs and of a school, shown where they come up again. */
export function LessonsOf({ designs, school }: { readonly designs: readonly string[]; readonly school: string | undefined }) {
  const all = useLessons().list.data ?? [];
  const spoken = useSpoken();
  const once = <T extends LessonAbout & { readonly id: string }>(of: readonly T[]): T[] => [
    ...new Map(designs.flatMap((design) => lessonsFor(of, { design, step: null, school })).map((l) => [l.id, l])).values(),
  ];
  return <LessonList lessons={once(all)} spoken={once(spoken)} />;
}
/** … and at the bench, with the step in hand. */
export function LessonsAt(at: { readonly design: string | null; readonly step: string; readonly school: string }) {
  const all = useLessons().list.data ?? [];
  return <LessonList large lessons={lessonsFor(all, at)} spoken={lessonsFor(useSpoken(), at)} />;
}
