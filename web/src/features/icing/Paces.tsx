import { paceKinds } from '@kestfog/core/calibration';
import { msg, plural } from '@kestfog/core/words';
import { usePaces } from '../../api/queries.js';
import { motionWord, takesText } from '../../text/pace.js';
import { spreadText } from './Touches.js';

/** How quick each pair of hands was seen to be, by kind of motion: next orders are planned at it. */
export function Paces() {
  const paces = usePaces();
  const people = Object.entries(paces.data ?? {});
  return (
    <section aria-label={msg`Paces`}>
      <h2 className="text-2xl font-semibold">{msg`How long these hands take`}</h2>
      {paces.isError && <p role="alert">{msg`What was learned of paces cannot be read now; plans use it all the same.`}</p>}
      {paces.isSuccess && people.length === 0 && (
        <p>{msg`Nothing yet: visits begun and ended at the bench teach it, pauses cut off. Until then plans take the assumed pace.`}</p>
      )}
      {people.length > 0 && (
        <section className="overflow-x-auto" tabIndex={0} aria-label={msg`Paces by hands and motion`}>
          <table className="table w-auto">
            <thead>
              <tr className="text-base-content">
                <th>{msg`hands`}</th>
                {paceKinds.map((k) => (
                  <th key={k}>{motionWord[k]}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {people.map(([who, pace]) => (
                <tr key={who}>
                  <th>{who}</th>
                  {paceKinds.map((k) => (
                    <td key={k}>
                      {pace[k].visits === 0 ? (
                        msg`not seen yet`
                      ) : (
                        <>
                          {takesText(pace[k].takes)}
                          <span className="block text-sm opacity-80">
                            {spreadText(pace[k].sigma)}, {pace[k].visits} {plural(pace[k].visits, 'visit', 'visits')}
                          </span>
                        </>
                      )}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </section>
  );
}
