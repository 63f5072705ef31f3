import type { Design } from '@kestfog/core/design';
import { type WetPool, wetPools } from '@kestfog/core/marbling';
import type { WetMotion } from '@kestfog/core/picture';
import { MOST_TOGETHER, type WetTiming } from '@kestfog/core/planning';
import type { School } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { Pause, Play, SkipBack, StepBack, StepForward } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { useUnits } from '../../app/units.js';
import { fineLength, smallVolume } from '../../text/amounts.js';
import { stopwatch } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { flowOf } from '../../ui/pictures.js';

interface Props {
  readonly design: Design;
  readonly pool: WetPool;
  readonly timing: WetTiming;
  readonly wiping: School['wiping'];
  readonly after: number | null;
  readonly together: number;
  readonly onAfter: (after: number | null) => void;
  readonly onTogether: (cookies: number) => void;
}

/** Less than this nobody sees, and no bag can be held back by. */
const LEAST_RISE_MM = 0.01;
const MOTIONS = {
  'wet-line': msg`a line`,
  'wet-drop': msg`a drop`,
  drag: msg`a pull`,
  sprinkle: msg`grains`,
  'lay-in': msg`a piece laid in`,
} as const;
const TROUBLES = {
  torn: msg`The first cookie would be thickening by then: pulls tear. Work fewer at a time, or flood looser.`,
  stiff: msg`Some marks are much stiffer than the flood and do not follow the pull: mix them to its count.`,
  full: msg`There is more laid than the flood has room for: everything is squeezed. Lay fewer or smaller marks.`,
  edge: msg`Some marks reach over the edge: what has no room there spreads along it.`,
} as const;

/** The pool of wet icing a section belongs to; undefined where nothing is done in it while it is wet. */
export const poolOf = (design: Design, sectionId: string | null): WetPool | undefined =>
  sectionId === null ? undefined : wetPools(design).find((p) => p.sections.some((s) => s.id === sectionId));

/** The motions in wet icing, one by one: scrubbed, stepped, or played at the pace of the hands. */
export function WetMotions({ design, pool, timing, wiping, after, together, onAfter, onTogether }: Props) {
  const [units] = useUnits();
  const [playing, setPlaying] = useState(false);
  const most = pool.marks.length;
  const at = Math.min(after ?? most, most);
  const dried = useMemo(() => (together > 1 ? timing.dried(together) : undefined), [timing, together]);
  const [flow, setFlow] = useState<Awaited<ReturnType<typeof flowOf>>>(null);
  useEffect(() => {
    if (playing) return;
    let isStale = false;
    const motion: WetMotion = { pool: pool.id, after: most, wiping, ...(dried ? { dried } : {}) };
    flowOf(design, motion).then(
      (found) => !isStale && setFlow(found),
      () => undefined,
    );
    return () => {
      isStale = true;
    };
  }, [design, pool, wiping, dried, most, playing]);
  useEffect(() => {
    if (!playing) return;
    // On the hands' own clock: each motion takes what it takes them.
    let frame = 0;
    let last = performance.now();
    let now = at >= most ? 0 : at;
    const step = (time: number) => {
      const i = Math.min(most - 1, Math.floor(now));
      now = Math.min(most, now + (time - last) / 1000 / Math.max(0.3, timing.seconds[i] ?? 1));
      last = time;
      onAfter(now >= most ? null : Math.round(now * 50) / 50);
      if (now >= most) setPlaying(false);
      else frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing]);
  const mark = pool.marks[Math.min(most - 1, Math.max(0, Math.ceil(at) - 1))];
  const troubles = flow?.troubles ?? [];
  const doneS = timing.seconds.slice(0, Math.floor(at)).reduce((a, b) => a + b, 0);
  const name = pool.sections.map((s) => s.name).join(msg` and `);
  return (
    <section aria-label={msg`Motions in the wet ${name}`} className="grid gap-2 text-lg">
      <p>
        {at <= 0
          ? msg`The wet ${name}, untouched.`
          : msg`${Math.ceil(at)} of ${most} in the wet ${name}: ${mark ? MOTIONS[mark.technique] : ''}`}
        <span className="clock opacity-80 ml-2">{stopwatch(doneS * 1000)}</span>
      </p>
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="btn btn-square"
          aria-label={msg`back to the untouched flood`}
          disabled={at <= 0}
          onClick={() => onAfter(0)}
        >
          <SkipBack aria-hidden />
        </button>
        <button
          type="button"
          className="btn btn-square"
          aria-label={msg`one motion back`}
          disabled={at <= 0}
          onClick={() => onAfter(Math.ceil(at) - 1)}
        >
          <StepBack aria-hidden />
        </button>
        <button
          type="button"
          className="btn btn-square btn-neutral"
          aria-label={playing ? msg`pause` : msg`play the motions`}
          onClick={() => setPlaying(!playing)}
        >
          {playing ? <Pause aria-hidden /> : <Play aria-hidden />}
        </button>
        <button
          type="button"
          className="btn btn-square"
          aria-label={msg`one motion on`}
          disabled={at >= most}
          onClick={() => onAfter(Math.floor(at) + 1 >= most ? null : Math.floor(at) + 1)}
        >
          <StepForward aria-hidden />
        </button>
        <input
          type="range"
          className="range grow"
          aria-label={msg`motions made`}
          min={0}
          max={most}
          step={0.1}
          value={at}
          onChange={(e) => {
            setPlaying(false);
            onAfter(Number(e.target.value) >= most ? null : Number(e.target.value));
          }}
        />
      </div>
      <label className="flex flex-wrap items-center gap-2">
        {msg`cookies worked together`}
        <input
          type="number"
          className="input w-20"
          min={1}
          max={MOST_TOGETHER}
          value={together}
          onChange={(e) => onTogether(Math.max(1, Math.min(MOST_TOGETHER, Math.round(Number(e.target.value)) || 1)))}
        />
        <span className="opacity-85">
          {timing.most >= MOST_TOGETHER
            ? msg`the flood stays wet long enough for a dozen`
            : timing.most === 0
              ? msg`even one alone would be thickening before the last motion`
              : msg`up to ${timing.most} before the first is thickening`}
        </span>
      </label>
      {flow && flow.addedMl > 0 && (
        <p className="text-base opacity-85">
          {msgNodes`The marks add ${smallVolume(flow.addedMl, units)}${
            flow.raisedMm >= LEAST_RISE_MM &&
            msg` and raise the flood by
            ${fineLength(flow.raisedMm, units)}: flood it that much lower`
          }.`}
        </p>
      )}
      {troubles.map((t) => (
        <p key={t.kind} role="status" className="border-l-4 border-secondary pl-3">
          {TROUBLES[t.kind]}
        </p>
      ))}
    </section>
  );
}
