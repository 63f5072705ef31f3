import type { Design } from '@kestfog/core/design';
import { isSeenOn, longEnough, runTable, runTableKinds } from '@kestfog/core/notebook';
import { flawsOn } from '@kestfog/core/picture';
import { finishedLook } from '@kestfog/core/planning';
import type { NotebookRunView } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { useNotebookRun } from '../api/notebook.js';
import { useColourName } from '../app/colour-names.js';
import { useCounting } from '../app/counting.js';
import { useUnits } from '../app/units.js';
import { DEFECT_FLAWS } from '../features/bench/defect-flaws.js';
import { outcomeText } from '../features/bench/defect-text.js';
import { Lessons } from '../features/notebook/Lessons.js';
import { defectSeen, lateText, slipText } from '../features/notebook/notebook-text.js';
import { Recordings } from '../features/notebook/Recordings.js';
import { RunChart } from '../features/notebook/RunChart.js';
import { Visits } from '../features/notebook/Visits.js';
import { airText, grams, percent } from '../text/amounts.js';
import { dayClock, dayDate, span } from '../text/time.js';
import { Cookie } from '../ui/Cookie.js';
import { Facts } from '../ui/Facts.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { fileName, saveFile } from '../ui/save-file.js';
import { useTitle } from '../ui/use-title.js';

const TABLES = { times: msg`real times`, found: msg`what was found` } as const;
/** So many slips explain an evening; the rest is in the table. */
const MOST_SLIPS = 6;

/** One finished run compared with its plan. */
export function NotebookRunPage() {
  const { runId = '' } = useParams();
  const run = useNotebookRun(runId);
  useTitle(run.data ? msg`${run.data.orderName}, as it was` : null);
  if (run.isError && !run.data)
    return (
      <Notice title={msg`This evening could not be read`} tone="closing">
        {run.error.message}{' '}
        <Link to="/notebook" className="link">
          {msg`Back to the notebook`}
        </Link>
      </Notice>
    );
  if (!run.data) return <Loading what={msg`turning the pages`} />;
  return <Account run={run.data} />;
}

function Account({ run }: { readonly run: NotebookRunView }) {
  const [units] = useUnits();
  const nameOf = useColourName();
  const counting = useCounting();
  const { summary: s, account } = run;
  const waits = longEnough(s.honesty.waits);
  const late = account.slips.filter((x) => x.seconds > 0);
  const good = account.slips.filter((x) => x.seconds < 0);
  const facts: (readonly [string, string, string])[] = [
    [msg`packed`, msg`${s.packed} of ${s.cookies}`, lateText(s.endedS - s.plannedEndS)],
    [msg`hands`, span(s.handsOnS), msg`${span(s.plannedHandsOnS)} were planned for it`],
    [msg`windows`, s.windows.lost === 0 ? msg`all held` : msg`${s.windows.lost} lost`, msg`${s.windows.held} cookies worked in time`],
    [
      msg`waits`,
      waits.all === 0 ? '–' : percent(waits.share),
      msg`long enough, by ${waits.all} ${plural(waits.all, 'body', 'bodies')} of icing; planned for
        ${Math.round(s.honesty.promised * 100)} in 100`,
    ],
  ];
  const { icing } = s;
  if (icing)
    facts.push([
      msg`icing`,
      grams(icing.onCookiesG, units),
      msg`on cookies, of ${grams(icing.toMixG, units)} to be mixed${run.putByG > 0 ? msg`; ${grams(run.putByG, units)} put by` : ''}`,
    ]);
  return (
    <>
      <p className="pt-2 text-lg">
        <Link to="/notebook" className="link link-hover">
          {msg`Notebook`}
        </Link>
        {run.orderId && (
          <>
            {', '}
            <Link to={`/orders/${run.orderId}`} className="link link-hover">
              {msg`its order`}
            </Link>
          </>
        )}
      </p>
      <h1 className="text-4xl font-semibold">
        {run.orderName}
        {run.simulated && <span className="badge badge-outline ml-3 align-middle">{msg`simulated: nobody worked it`}</span>}
      </h1>
      <p className="text-xl mt-1">
        {dayDate(s.startedS * 1000)}, {airText(s.air.tempC, s.air.humidityPct, units)}, {s.school};{' '}
        {s.designs.map((d) => `${d.packed} ${d.name}`).join(', ')}
      </p>
      <Facts facts={facts} className="grid-cols-2 lg:grid-cols-5 gap-x-8 mt-5 text-lg" />
      <section aria-label={msg`As planned and as it was`} className="mt-8">
        <RunChart visits={account.visits} />
      </section>
      <div className="grid lg:grid-cols-2 gap-x-16 gap-y-8 mt-8">
        <div className="grid gap-8 content-start">
          <section aria-label={msg`Where the time went`}>
            <h2 className="text-2xl font-semibold">{msg`Where the time went`}</h2>
            {account.slips.length === 0 ? (
              <p className="text-lg">{msg`As planned, to half a minute a visit.`}</p>
            ) : (
              <ol className="text-lg divide-y divide-base-300">
                {late.slice(0, MOST_SLIPS).map((x) => (
                  <li key={`${x.taskId} ${x.kind}`} className="py-1.5">
                    <b className="font-semibold">{slipText(x)}</b>
                    <span className="opacity-85">{msgNodes` (${x.title}, tray ${x.trayId})`}</span>
                  </li>
                ))}
                {good.length > 0 && (
                  <li className="py-1.5">
                    <b className="font-semibold">{msgNodes`${span(-good.reduce((n, x) => n + x.seconds, 0))} made good`}</b>
                    <span className="opacity-85"> ({good.map((x) => x.title).join(', ')})</span>
                  </li>
                )}
              </ol>
            )}
          </section>
          <section aria-label={msg`What went wrong`}>
            <h2 className="text-2xl font-semibold">{msg`What went wrong`}</h2>
            {account.drawings.length > 0 && (
              <ul className="flex flex-wrap gap-4 mt-2">
                {account.drawings.map((design, i) => (
                  // Two designs may have one name.
                  <SeenOn key={`${i} ${design.name}`} design={design} defects={s.defects.filter((d) => isSeenOn(d, design))} />
                ))}
              </ul>
            )}
            {s.defects.length + account.shut.length === 0 ? (
              <p className="text-lg">{msg`Nothing that was said.`}</p>
            ) : (
              <ul className="text-lg divide-y divide-base-300">
                {account.shut.map((x) => (
                  <li key={`${x.atS} ${x.title}`} className="py-1.5">
                    {msgNodes`${dayClock(x.atS * 1000)}: too late for ${x.cookies} ${plural(x.cookies, 'cookie', 'cookies')}, ${x.title},
                      tray ${x.trayId}`}
                  </li>
                ))}
                {s.defects.map((d) => (
                  <li key={`${d.atS} ${d.trayId} ${d.cookie} ${d.seen}`} className="py-1.5">
                    {dayClock(d.atS * 1000)}: {defectSeen(d.seen)}, {d.design} {d.cookie}
                    {d.trayId && msg` on tray ${d.trayId}`}
                    {d.part && `, ${d.part}`}; {outcomeText(d.outcome)}
                  </li>
                ))}
              </ul>
            )}
          </section>
          {account.found.length + account.counted.length > 0 && (
            <section aria-label={msg`What was found`}>
              <h2 className="text-2xl font-semibold">{msg`What was found`}</h2>
              <ul className="text-lg divide-y divide-base-300">
                {account.found.map((f, i) => (
                  // Two looks can be alike in all they say.
                  <li key={`${i} ${f.atS}`} className="py-1.5">
                    {dayClock(f.atS * 1000)}:{' '}
                    {f.found === 'not-yet'
                      ? msg`not ${f.state ?? msg`ready`} yet`
                      : f.found === 'past'
                        ? msg`too far already`
                        : msg`${f.state ?? msg`ready`} already`}
                    {msgNodes`, ${f.title}, tray ${f.trayId}${f.cookie !== null && msg`, cookie ${f.cookie}`}`}
                  </li>
                ))}
                {account.counted.map((c) => (
                  <li key={`${c.atS} ${c.colour}`} className="py-1.5">
                    {msgNodes`${dayClock(c.atS * 1000)}: ${nameOf(c.colour)} counted ${counting.text(c.countedS)}, planned
                      ${counting.text(c.plannedS)}`}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
        <div className="grid gap-8 content-start">
          <Lessons
            runId={run.runId}
            lessons={run.lessons}
            designs={s.designs.map((d) => d.name)}
            school={s.school}
            steps={account.visits}
          />
          <Recordings runId={run.runId} recordings={run.recordings} designs={s.designs.map((d) => d.name)} />
          <section aria-label={msg`For other programs`} className="no-print">
            <h2 className="text-2xl font-semibold">{msg`For other programs`}</h2>
            <div className="flex flex-wrap gap-2 mt-2">
              {runTableKinds.map((kind) => (
                <button
                  key={kind}
                  type="button"
                  className="btn"
                  onClick={() => saveFile(fileName(`${run.orderName} ${kind}`, 'csv'), 'text/csv', runTable(account, kind))}
                >
                  {msgNodes`Table of ${TABLES[kind]}`}
                </button>
              ))}
            </div>
          </section>
        </div>
      </div>
      <h2 className="text-2xl font-semibold mt-10 mb-2">{msg`Visits`}</h2>
      <Visits run={run} />
    </>
  );
}

/** A design with everything that was seen on any of its cookies. */
function SeenOn({ design, defects }: { readonly design: Design; readonly defects: NotebookRunView['summary']['defects'] }) {
  const look = useMemo(() => finishedLook(design), [design]);
  const flaws = useMemo(
    () =>
      defects.flatMap((d) => {
        const kind = DEFECT_FLAWS[d.seen];
        return d.partId !== null && kind ? flawsOn(design, d.partId, kind) : [];
      }),
    [design, defects],
  );
  // A flaw can be hard to see at this size: its part is marked as well.
  const lit = defects.flatMap((d) => d.partId ?? []);
  return (
    <li className="w-44">
      <Cookie
        design={design}
        look={look}
        lit={lit}
        flaws={flaws}
        className="w-full max-h-44"
        label={`${design.name}: ${[...new Set(defects.map((d) => defectSeen(d.seen)))].join(', ')}`}
      />
      <span className="text-base">{design.name}</span>
    </li>
  );
}
