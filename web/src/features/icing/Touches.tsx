import { type Air, type DryingState, type Factors, PRIOR_FACTORS } from '@kestfog/core/drying';
import type { BenchTouchView } from '@kestfog/core/wire';
import { reasonOf } from '@kestfog/core/wording';
import { msg, plural, word } from '@kestfog/core/words';
import { useBenchTouches, useLeaveOut, useTouches } from '../../api/queries.js';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { millimetres, temperature } from '../../text/amounts.js';
import { dayDate } from '../../text/time.js';
import { Field } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { aNumberOrNone, useKeptForm } from '../../ui/use-kept-form.js';
import { takeAway } from '../../ui/use-put-back.js';
import { type Question, shownStates } from './curves.js';

interface Fields {
  readonly state: DryingState;
  readonly notYet: string;
  readonly reached: string;
}
const NOTHING: Fields = { state: 'crusted', notYet: '', reached: '' };

interface Props {
  readonly question: Question;
  readonly air: Air;
  readonly factors: Factors;
}

const percent = (mean: number) => {
  const p = Math.round((Math.exp(mean) - 1) * 100);
  return p === 0 ? msg`as the book` : p > 0 ? msg`${p} % later` : msg`${-p} % sooner`;
};

/** "not yet at 80 %, come at 120 %" */
export const foundText = (t: Pick<BenchTouchView, 'notYetShare' | 'reachedShare'>): string =>
  [
    t.notYetShare !== null && msg`not yet at ${Math.round(t.notYetShare * 100)} %`,
    t.reachedShare !== null && msg`come at ${Math.round(t.reachedShare * 100)} %`,
  ]
    .filter(Boolean)
    .join(', ');

/** Waits that nobody complained of count too: learning from complaints alone would push every wait up. */
const silentText = (n: number): string =>
  n === 0 ? '' : msg`${n} ${plural(n, 'wait', 'waits')} passed without complaint, and ${plural(n, 'counts', 'count')} too`;

/** What a finger found, reported once and learned from: this kitchen's own crust beside the book's. */
export function Touches({ question, air, factors }: Props) {
  const [units] = useUnits();
  const counting = useCounting();
  const touches = useTouches();
  const { form, beginAnew } = useKeptForm<Fields>({ name: 'touch', begin: () => NOTHING });
  const { errors, isValid } = form.formState;
  const typed = form.watch();
  const isGiven = typed.notYet.trim() !== '' || typed.reached.trim() !== '';
  const minutesIn = (text: string) => (text.trim() === '' ? null : numberIn(text));
  const learn = (found: Fields) =>
    touches.add.mutate(
      {
        state: found.state,
        seconds: question.seconds,
        depthMm: question.depthMm,
        on: question.on,
        tempC: air.tempC,
        humidityPct: Math.round(air.humidityFrac * 1000) / 10,
        airMPerS: Math.round(air.airMPerS * 100) / 100,
        notYetMin: minutesIn(found.notYet),
        reachedMin: minutesIn(found.reached),
      },
      { onSuccess: beginAnew },
    );
  const list = touches.list.data ?? [];
  const atBench = useBenchTouches().data ?? [];
  const leaveOut = useLeaveOut();
  const nothing = list.length === 0 && atBench.every((t) => t.leftOut);
  const runs = [...Map.groupBy(atBench, (t) => t.runId).values()] as [BenchTouchView, ...BenchTouchView[]][];
  return (
    <section aria-label={msg`What your finger found`}>
      <h3 className="text-xl font-semibold">{msg`What your finger found`}</h3>
      <p className="text-lg mt-1 opacity-85">{msg`For icing and air as set above. One of the two minutes is enough.`}</p>
      <form className="flex flex-wrap items-start gap-4 mt-2" noValidate onSubmit={form.handleSubmit(learn)}>
        <Field label={msg`state`}>
          <select className="select select-lg max-w-full" {...form.register('state')}>
            {shownStates.map((s) => (
              <option key={s} value={s}>
                {word(s)}
              </option>
            ))}
          </select>
        </Field>
        <Field label={msg`not yet after, min`} error={errors.notYet?.message}>
          <NumberInput
            large
            isWrong={!!errors.notYet}
            {...form.register('notYet', aNumberOrNone(0.1, 4320, msg`“Not yet”`, msg`minutes`))}
          />
        </Field>
        <Field label={msg`had come at, min`} error={errors.reached?.message}>
          <NumberInput
            large
            isWrong={!!errors.reached}
            {...form.register('reached', aNumberOrNone(0.1, 4320, msg`“Had come”`, msg`minutes`))}
          />
        </Field>
        <button type="submit" className="btn btn-lg mt-8" disabled={!isValid || !isGiven || touches.add.isPending}>
          {msg`Learn from it`}
        </button>
      </form>
      {touches.add.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {touches.add.error.message}
        </p>
      )}
      {nothing && <p className="text-lg mt-3">{msg`Nothing reported yet: plans go by the book.`}</p>}
      <div className="grid lg:grid-cols-2 gap-8 mt-3">
        {!nothing && (
          <div className="overflow-x-auto">
            <table className="table text-lg">
              <caption className="sr-only">{msg`Before and after learning`}</caption>
              <thead>
                <tr className="text-base-content">
                  <th>{msg`state`}</th>
                  <th>{msg`book, eight in ten`}</th>
                  <th>{msg`yours`}</th>
                  <th>{msg`eight in ten`}</th>
                </tr>
              </thead>
              <tbody>
                {shownStates.map((s) => (
                  <tr key={s}>
                    <th scope="row">{word(s)}</th>
                    <td>{spreadText(PRIOR_FACTORS[s].sigma)}</td>
                    <td>{percent(factors[s].mean)}</td>
                    <td>{spreadText(factors[s].sigma)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        {list.length + runs.length > 0 && (
          <ul className="grid content-start gap-1 text-base">
            {runs.map((run) => (
              <li key={run[0].runId} className="grid gap-1">
                <b className="font-semibold">
                  {run[0].orderName}, {dayDate(run[0].atMs)}
                </b>
                {run[0].leftOut ? (
                  <span>{msg`left out: nothing is learned from it`}</span>
                ) : (
                  <>
                    {run
                      .filter((t) => !t.silent)
                      .map((t) => (
                        <span key={t.body}>
                          {msgNodes`${word(t.state)}: ${foundText(t)} of the book’s loss (${reasonOf({ facts: t.about })})`}
                        </span>
                      ))}
                    <span>{silentText(run.filter((t) => t.silent).length)}</span>
                  </>
                )}
                <button
                  type="button"
                  className="link justify-self-start"
                  disabled={leaveOut.isPending}
                  onClick={() => leaveOut.mutate({ runId: run[0].runId, leftOut: !run[0].leftOut })}
                >
                  {run[0].leftOut ? msg`count this run again` : msg`leave this run out`}
                </button>
              </li>
            ))}
            {leaveOut.isError && (
              <li role="alert" className="text-error font-medium">
                {leaveOut.error.message}
              </li>
            )}
            {list.map((t) => (
              <li key={t.id} className="flex flex-wrap gap-x-3 items-center">
                {word(t.state)}: {t.notYetMin !== null && msg`not yet at ${t.notYetMin} min`}
                {t.notYetMin !== null && t.reachedMin !== null && ', '}
                {t.reachedMin !== null &&
                  msg`come at ${t.reachedMin}
                  min`}{' '}
                ({counting.text(t.seconds)}, {millimetres(t.depthMm, units)}, {temperature(t.tempC, units)}, {t.humidityPct} %)
                <button
                  type="button"
                  className="link"
                  disabled={touches.remove.isPending}
                  onClick={() => takeAway(touches, t.id, msg`What was found is taken back.`)}
                >
                  {msg`take it back`}
                </button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

/** The half of an 80 % interval of what multiplies a time. */
export const spreadText = (sigma: number) => `± ${Math.round((Math.exp(1.2816 * sigma) - 1) * 100)} %`;
