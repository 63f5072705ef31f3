import type { HoursOfDay, Kitchen } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { addDays, format } from 'date-fns';
import { useKeepKitchen } from '../../api/queries.js';
import { firstDayOfWeek } from '../../app/clock.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { useKeptForm } from '../../ui/use-kept-form.js';

/** A day whose hours are shown while it is a day off, as most bench days are: *assumed*. */
const AFTERNOON: HoursOfDay = { from: '14:00', to: '22:00' };
/** Any Monday, for the names of the days. */
const MONDAY = new Date(2026, 0, 5);
const dayName = (day: number) => format(addDays(MONDAY, day), 'EEEE');

interface Row extends HoursOfDay {
  readonly open: boolean;
}

/** When someone is usually at the bench: a new order begins with the next of these days. */
export function UsualWeek({ kitchen }: { readonly kitchen: Kitchen }) {
  const keep = useKeepKitchen();
  const { form } = useKeptForm<{ days: Row[] }>({
    name: 'kitchen.week',
    begin: () => ({
      days: Array.from({ length: 7 }, (_, day): Row => {
        const hours = kitchen.week?.[day];
        return { open: hours != null, ...(hours ?? AFTERNOON) };
      }),
    }),
  });
  const { register, watch, handleSubmit } = form;
  const rows = watch('days');
  const first = firstDayOfWeek();
  // An emptied time is an empty text, which would count as the earliest of all.
  const wrong = rows.findIndex((r) => r.open && (r.from === '' || r.from >= r.to));
  const nothing = rows.every((r) => !r.open);
  return (
    <section id="week" aria-label={msg`The usual week`}>
      <h2 className="text-2xl font-semibold">{msg`The usual week`}</h2>
      <p className="text-lg mt-1">
        {kitchen.week
          ? msg`New orders begin with the next two of these days.`
          : msg`Not said yet: a new order begins with an afternoon and the day after.`}
      </p>
      <ul className="grid gap-2 mt-3">
        {rows.map((_, k) => {
          const day = (first + k) % 7;
          const r = rows[day] as Row;
          return (
            <li key={day} className="flex flex-wrap items-center gap-x-4 gap-y-1 text-lg min-h-12">
              <label className="flex items-center gap-3 w-40 min-h-11">
                <input type="checkbox" className="checkbox" {...register(`days.${day}.open`)} />
                {dayName(day)}
              </label>
              {r.open ? (
                <>
                  <input
                    type="time"
                    className="input w-32"
                    aria-label={msg`${dayName(day)} from`}
                    aria-invalid={day === wrong}
                    {...register(`days.${day}.from`)}
                  />
                  {msg`to`}
                  <input
                    type="time"
                    className="input w-32"
                    aria-label={msg`${dayName(day)} to`}
                    aria-invalid={day === wrong}
                    {...register(`days.${day}.to`)}
                  />
                </>
              ) : (
                <span className="opacity-80">{msg`nobody at the bench`}</span>
              )}
            </li>
          );
        })}
      </ul>
      {wrong >= 0 && (
        <p role="alert" className="text-error font-medium mt-2">
          {msgNodes`On ${dayName(wrong)} it must close after it opens. A night at the bench is two days.`}
        </p>
      )}
      <div className="flex flex-wrap gap-3 items-center mt-3">
        <button
          type="button"
          className="btn btn-lg"
          disabled={wrong >= 0 || nothing || keep.isPending}
          onClick={handleSubmit(({ days }) => keep.mutate({ week: days.map(({ open, from, to }) => (open ? { from, to } : null)) }))}
        >
          {msg`Keep the usual week`}
        </button>
        {kitchen.week && (
          <button type="button" className="btn btn-lg btn-ghost" disabled={keep.isPending} onClick={() => keep.mutate({ week: null })}>
            {msg`no usual week`}
          </button>
        )}
        {keep.isError && (
          <span role="alert" className="text-error font-medium">
            {keep.error.message}
          </span>
        )}
      </div>
    </section>
  );
}
