import { cookiesMade, type Plan, planIndex } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { useColourName } from '../../app/colour-names.js';
import { clockTime, dayDate } from '../../text/time.js';
import { bagsByColour, capital, cookiesText, designName } from '../../text/words.js';

/** The evening in words, for paper: what to do when, day by day, in lines that fit the page. */
export function RackOnPaper({ plan, epochMs }: { readonly plan: Plan; readonly epochMs: number }) {
  const nameOf = useColourName();
  const index = planIndex(plan);
  const days = new Map<string, Plan['tasks']>();
  for (const t of plan.tasks) {
    const day = dayDate(epochMs + t.startS * 1000);
    days.set(day, [...(days.get(day) ?? []), t]);
  }
  const many = plan.order.decorators.length > 1;
  return (
    <div className="on-paper">
      <h1 className="text-2xl font-semibold">{plan.order.name}</h1>
      <p>{plan.designs.map((d) => `${cookiesMade(d)} ${d.drawing.name}`).join(', ')}</p>
      {[...days].map(([day, tasks]) => (
        <table key={day} className="w-full text-left">
          <caption className="text-left text-xl font-semibold pt-4 pb-1">{day}</caption>
          <thead>
            <tr>
              <th scope="col">{msg`from`}</th>
              <th scope="col">{msg`to`}</th>
              <th scope="col">{msg`tray`}</th>
              {many && <th scope="col">{msg`who`}</th>}
              <th scope="col">{msg`what`}</th>
              <th scope="col">{msg`icing`}</th>
            </tr>
          </thead>
          <tbody>
            {tasks.map((t) => (
              <tr key={t.id}>
                <td className="clock">{clockTime(epochMs + t.startS * 1000)}</td>
                <td className="clock">{clockTime(epochMs + t.endS * 1000)}</td>
                <td className="font-semibold">{t.trayId}</td>
                {many && <td>{t.by}</td>}
                <td>
                  {capital(t.title)}
                  {t.lotId && index.lot(t.lotId) && `; ${designName(plan, t)}, ${cookiesText(plan, t)}`}
                </td>
                <td>
                  {bagsByColour(t.bags, nameOf)
                    .map((b) => b.text)
                    .join('; ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </div>
  );
}
