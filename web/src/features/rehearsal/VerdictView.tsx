import type { RunIndex } from '@kestfog/core/bench';
import { flawsOn } from '@kestfog/core/picture';
import { finishedLook } from '@kestfog/core/planning';
import { isMistimed, type Mistimed, OF_THE_HAND, type Spoilt, type Verdict } from '@kestfog/core/rehearsal';
import { defectById, techniqueById } from '@kestfog/core/steps';
import { reasonOf } from '@kestfog/core/wording';
import { msg, plural, word } from '@kestfog/core/words';
import { type ReactNode, useMemo } from 'react';
import { Link } from 'react-router';
import { percent } from '../../text/amounts.js';
import { dayClock, span } from '../../text/time.js';
import { capital } from '../../text/words.js';
import { Cookie } from '../../ui/Cookie.js';
import { Facts } from '../../ui/Facts.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Wiping } from '../../ui/wiping.js';
import { DEFECT_FLAWS } from '../bench/defect-flaws.js';

interface Props {
  readonly index: RunIndex;
  readonly verdict: Verdict;
  readonly home: { readonly to: string; readonly label: string };
  readonly lesson?: ReactNode;
  readonly onBackTo: (ms: number) => void;
  readonly onAgain: () => void;
}
/** So long before what came wrong one is put back, s. */
const BEFORE_S = 60;

/** How far from right it came, s, or how likely it had become; what never comes is furthest. */
const far = (s: Spoilt): number => (!isMistimed(s) ? s.risk : s.rightS === null ? Number.POSITIVE_INFINITY : Math.abs(s.rightS - s.atS));

/** How it went: the score in the trade's terms, and of all that came wrong why, when, and what would have saved it. */
export function VerdictView({ index, verdict: v, home, lesson, onBackTo, onAgain }: Props) {
  const groups = useMemo(() => {
    const by = new Map<string, Spoilt[]>();
    for (const s of v.spoilt) {
      const key = `${s.taskId} ${s.seen} ${s.when}`;
      by.set(key, [...(by.get(key) ?? []), s]);
    }
    return [...by.values()].sort((a, b) => (a[0]?.atS ?? 0) - (b[0]?.atS ?? 0));
  }, [v]);
  const facts: readonly (readonly [string, string, string])[] = [
    ['score', `${v.score}`, msg`of 100: cookies 70, windows 20, no needless waiting 10`],
    [
      'cookies',
      msg`${v.saved} of ${v.cookies}`,
      v.lacking === 0 ? msg`came out right` : msg`came out right; ${v.lacking} lack what was given up`,
    ],
    ['windows', v.windows.held + v.windows.lost === 0 ? msg`none` : msg`${v.windows.held} of ${v.windows.held + v.windows.lost}`, 'held'],
    [msg`waited needlessly`, span(v.needlessS), msg`beside ${span(v.handsOnS)} of work`],
    [msg`looks`, msg`${v.telling} of ${v.looks}`, msg`showed something nobody could have known`],
  ];
  return (
    <Wiping value={index.state.plan.order.school.wiping}>
      <main className="px-6 md:px-10 pb-12 text-xl">
        <h1 className="text-[44px] leading-tight font-semibold mt-4">
          {v.saved === v.cookies ? msg`Everything came out right` : msg`${v.cookies - v.saved} of ${v.cookies} came wrong`}
        </h1>
        {lesson}
        <Facts facts={facts} className="grid-cols-2 lg:grid-cols-5 gap-x-8 mt-4" />
        <div className="flex flex-wrap gap-3 mt-6">
          <button type="button" className="btn btn-primary min-h-16 text-xl" onClick={onAgain}>
            {msg`The same evening again`}
          </button>
          <Link to={home.to} className="btn min-h-16 text-xl">
            {home.label}
          </Link>
        </div>
        <ul className="grid gap-6 mt-8">
          {groups.map((g) => {
            const [first] = g as [Spoilt];
            // Shown for the one that was furthest from right: it would have saved them all.
            const s = g.reduce((worst, x) => (far(x) > far(worst) ? x : worst), first);
            const cookies = new Set(g.map((x) => x.cookie)).size;
            const task = index.plan.task(s.taskId);
            const design = index.plan.designOf(s.lotId)?.drawing;
            const part = task && index.plan.step(task, s.stepId)?.parts[0];
            const kind = DEFECT_FLAWS[s.seen];
            const atMs = index.plan.msOf(s.atS);
            return (
              <li key={`${s.taskId} ${s.seen} ${s.when}`} className="grid md:grid-cols-[18rem_1fr] gap-6 items-start">
                {design && (
                  <Cookie
                    design={design}
                    look={finishedLook(design)}
                    lit={part && !kind ? [part] : []}
                    flaws={part && kind ? flawsOn(design, part, kind) : []}
                    className="w-full max-h-64"
                    label={`${design.name}: ${defectById(s.seen).seen}`}
                  />
                )}
                <div>
                  <h2 className="text-2xl font-semibold">
                    {msgNodes`${defectById(s.seen).seen}: ${cookies} ${plural(cookies, 'cookie', 'cookies')} on tray ${task?.trayId},
                      ${task?.title}`}
                  </h2>
                  {isMistimed(s) ? (
                    <Timing s={s} atMs={atMs} rightMs={s.rightS === null ? null : index.plan.msOf(s.rightS)} />
                  ) : (
                    <>
                      <p>
                        {dayClock(atMs)}: {s.reasons}.
                      </p>
                      <p>
                        {msgNodes`How likely that was: ${percent(s.risk)}; as planned, ${percent(s.plannedRisk)}.${
                          s.change &&
                          msg` What
                          would have helped: ${s.change}.`
                        }`}
                      </p>
                    </>
                  )}
                  <button
                    type="button"
                    className="btn min-h-16 text-xl mt-2"
                    onClick={() => onBackTo((task ? (index.begunMs(task.id) ?? atMs) : atMs) - BEFORE_S * 1000)}
                  >
                    {msg`Go back to before it`}
                  </button>
                </div>
              </li>
            );
          })}
        </ul>
        <p className="mt-10 text-base opacity-85 max-w-4xl">
          {msgNodes`Not judged, since it is in the hand and no bench can tell: ${OF_THE_HAND.map((id) => defectById(id).seen).join('; ')}.`}
        </p>
      </main>
    </Wiping>
  );
}

/** A step that came too early or too late: what was found, the rule, and when it would have been right. */
function Timing({ s, atMs, rightMs }: { readonly s: Mistimed; readonly atMs: number; readonly rightMs: number | null }) {
  const technique = techniqueById(s.technique);
  return (
    <>
      <p>
        {dayClock(atMs)}: {s.when === 'too-early' ? msg`too early` : msg`too late`}
        {s.state && (s.when === 'too-early' ? msg`, it was only ${word(s.state)}` : msg`, it was ${word(s.state)} already`)}.{' '}
        {capital(s.when === 'too-early' ? technique.tooEarly : technique.tooLate)}.
      </p>
      <p className="opacity-85">{msgNodes`The rule: ${reasonOf(s.why)}.`}</p>
      <p>
        {rightMs === null
          ? msg`In this air it would never have come.`
          : s.when === 'too-early'
            ? msg`Right from ${dayClock(rightMs, atMs)}, ${span((rightMs - atMs) / 1000)} later${
                s.state
                  ? msg`; a finger would have found
              out`
                  : ''
              }.`
            : msg`Open until ${dayClock(rightMs, atMs)}, ${span((atMs - rightMs) / 1000)} before.`}
      </p>
    </>
  );
}
