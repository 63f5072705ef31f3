import { benchView, runIndex } from '@kestfog/core/bench';
import type { Point } from '@kestfog/core/geometry';
import { IN_THE_MIDDLE, type OnTable } from '@kestfog/core/light';
import { msg } from '@kestfog/core/words';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useBenchSettings } from '../features/bench/bench-settings.js';
import { NoRun } from '../features/bench/NoRun.js';
import { stepsOfRun } from '../features/bench/steps-of-run.js';
import { useHands } from '../features/bench/use-hands.js';
import { useOneAction } from '../features/bench/use-one-action.js';
import { useRun } from '../features/bench/use-run.js';
import { Beam, FIRST_CORNERS } from '../features/light/Beam.js';
import { useKept } from '../features/light/use-kept.js';
import { dayClock } from '../text/time.js';
import { capital } from '../text/words.js';
import { arrowStep } from '../ui/arrow-step.js';
import { Choice } from '../ui/Choice.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { useTitle } from '../ui/use-title.js';

const isPoint = (v: unknown): v is Point =>
  typeof v === 'object' && v !== null && Number.isFinite((v as Point).x) && Number.isFinite((v as Point).y);
const isCorners = (v: unknown): v is readonly Point[] => Array.isArray(v) && v.length === 4 && v.every(isPoint);
const isOnTable = (v: unknown): v is OnTable =>
  typeof v === 'object' && v !== null && ['xMm', 'yMm', 'turnDeg'].every((k) => Number.isFinite((v as Record<string, unknown>)[k]));
const isTrue = (v: unknown): v is boolean => typeof v === 'boolean';

/** Steps of a nudge, mm, and of a turn, degrees. */
const NUDGE_MM = 0.5;
const FAR_NUDGE_MM = 5;
const TURN_DEG = 1;

/**
 * The bench's step as lines of light on the table, in a window of its own on the projector's screen. It follows the run from any device.
 */
export function LightPage() {
  const { runId = '' } = useParams();
  const bench = useRun(runId);
  const { run, state, nowMs, failure, retry } = bench;
  useTitle(run ? msg`Light for ${run.orderName}` : null);
  const index = useMemo(() => state && runIndex(state), [state]);
  const [settings] = useBenchSettings();
  const [who] = useHands(runId, state?.plan.order.decorators.map((d) => d.id) ?? []);
  const view = index && benchView(index, nowMs, who);
  const [early, setEarly] = useState<number | null>(null);
  // The pedal under the table goes on from here as it does at the bench; what is too early is asked there.
  useOneAction(stepsOfRun(bench, index, view, settings.byCookie, ({ untilMs }) => setEarly(untilMs)));
  const task = view?.now?.task;
  const design = index && task ? (index.plan.designOf(task)?.drawing ?? null) : null;
  const asked = index && task ? task.motions.flatMap((m) => index.plan.step(task, m.stepId)?.parts ?? []) : [];
  const [corners, keepCorners] = useKept('kestfog.light.corners', FIRST_CORNERS, isCorners);
  const [isSetUp, keepSetUp] = useKept('kestfog.light.set-up', false, isTrue);
  const [simulated, keepSimulated] = useKept('kestfog.light.simulated', false, isTrue);
  const [at, keepAt] = useKept(`kestfog.light.${runId}.${task?.trayId ?? ''}`, IN_THE_MIDDLE, isOnTable);
  const [setting, setSetting] = useState(!isSetUp);
  const [shows, setShows] = useState<'asked' | 'all'>('asked');
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        setting ||
        (e.target instanceof HTMLElement && e.target.closest('[role=radiogroup], input'))
      )
        return;
      const by = arrowStep(e, NUDGE_MM, FAR_NUDGE_MM);
      const turned = { ',': -TURN_DEG, '.': TURN_DEG }[e.key];
      const to = by
        ? { xMm: at.xMm + by.x, yMm: at.yMm + by.y }
        : turned !== undefined
          ? { turnDeg: at.turnDeg + turned }
          : e.key === 'Home'
            ? IN_THE_MIDDLE
            : null;
      if (!to) return;
      e.preventDefault();
      keepAt({ ...at, ...to });
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  });
  if (!run || !index)
    return <NoRun title={msg`There is no run to follow`} failure={failure} waiting={msg`looking for the bench`} onRetry={retry} />;
  return (
    <main className="fixed inset-0 bg-black text-[#e8edf0]">
      <Beam
        design={design}
        parts={shows === 'all' ? null : asked}
        at={at}
        corners={corners}
        onCorners={setting ? keepCorners : null}
        simulated={simulated}
      />
      {/* Once it is set up, nothing but the light is thrown on the table: the bar comes when the pointer or the keys come to it. */}
      <div
        className={`absolute inset-x-0 bottom-0 p-4 flex flex-wrap items-center gap-3 bg-black/80 ${setting || simulated ? '' : 'opacity-0 hover:opacity-100 focus-within:opacity-100'}`}
      >
        <h1 className="text-xl font-semibold w-full" aria-live="polite">
          {task ? msg`${capital(task.title)}, tray ${task.trayId}` : msg`Nothing to do`}
        </h1>
        {early !== null && early > nowMs && (
          <p role="status" className="w-full text-lg">
            {msgNodes`Too early: it is time for it ${dayClock(early, nowMs)}. Who will not wait says so at the bench.`}
          </p>
        )}
        <Choice
          label={msg`light`}
          size="btn-sm min-h-11"
          value={shows}
          options={[
            { id: 'asked', label: msg`what is asked now` },
            { id: 'all', label: msg`all of it` },
          ]}
          onChange={setShows}
        />
        <button
          type="button"
          className="btn btn-sm min-h-11"
          aria-pressed={setting}
          onClick={() => {
            setSetting(!setting);
            if (setting) keepSetUp(true);
          }}
        >
          {setting ? msg`The corners are right` : msg`Set up the corners`}
        </button>
        <label className="flex items-center gap-2 min-h-11">
          <input
            type="checkbox"
            className="checkbox bg-white border-white text-black"
            checked={simulated}
            onChange={(e) => keepSimulated(e.target.checked)}
          />
          {msg`simulated table`}
        </label>
        <button
          type="button"
          className="btn btn-sm min-h-11"
          onClick={() => void document.documentElement.requestFullscreen?.().catch(() => undefined)}
        >
          {msg`Full screen`}
        </button>
        <Link to={`/runs/${runId}`} className="btn btn-sm min-h-11">
          {msg`To the bench`}
        </Link>
        <p className="w-full text-base">
          {setting
            ? msg`Put this window on the projector’s screen, full screen. Lay the square that is printed with the gauges under it, and
              drag the four lights onto its crosses.`
            : msg`Arrows move the light, Shift farther; comma and full stop turn it; Home puts it back; space or a pedal goes on, Page Up
              takes back. Tray ${task?.trayId ?? ''}: ${at.xMm} mm, ${at.yMm} mm, ${at.turnDeg}°.`}
        </p>
      </div>
    </main>
  );
}
