import type { SurfaceState } from '@kestfog/core/drying';
import type { Pin, Plan } from '@kestfog/core/formats';
import { criticalChain, slacks } from '@kestfog/core/planning';
import { msg, word } from '@kestfog/core/words';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { dayDate } from '../../text/time.js';
import { useNow } from '../../ui/use-now.js';
import { useWidth } from '../../ui/use-width.js';
import { Wiping } from '../../ui/wiping.js';
import { LABEL_PX } from './choosing.js';
import { Hands } from './Hands.js';
import { RackOnPaper } from './RackOnPaper.js';
import { ShelfView } from './Shelf.js';
import { shelvesOf } from './shelves.js';
import { TaskDetail } from './TaskDetail.js';
import { foldedAxis } from './time-axis.js';
import { useHourZoom } from './use-hour-zoom.js';

/** Widths of an hour that have a button; wheel, pinch and keys reach all between. */
const ZOOMS = [1, 2, 4] as const;
const RESTS_MS = 400;

interface Props {
  readonly plan: Plan;
  readonly serverNowMs: number;
  readonly onPin: ((pin: Pin) => void) | null;
  /** the step looked at when the rack is opened; the first where it is not there any more */
  readonly first?: string;
  readonly onChosen?: (taskId: string) => void;
  /** stands at the beginning of the line of buttons */
  readonly children: ReactNode;
}

/** The plan as a rack of trays: time runs to the right along each shelf, the icing's finish changing along it. */
export function Rack({ plan, serverNowMs, onPin, first, onChosen, children }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const [chosenId, setChosenId] = useState<string | null>(first || null);
  // Keys walk quickly: the address follows when they rest.
  useEffect(() => {
    const later = setTimeout(() => chosenId !== null && onChosen?.(chosenId), RESTS_MS);
    return () => clearTimeout(later);
  }, [chosenId, onChosen]);
  const [hoverId, setHoverId] = useState<string | null>(null);
  const [whole, setWhole] = useState(false);
  const [openTrays, setOpenTrays] = useState<ReadonlySet<string>>(new Set());
  const [showsChain, setShowsChain] = useState(false);
  const { zoom, zoomTo, scroller, useInPlace } = useHourZoom();
  const chain = useMemo(() => new Set(showsChain ? criticalChain(plan) : []), [plan, showsChain]);
  const slack = useMemo(() => slacks(plan), [plan]);
  const nowMs = useNow(serverNowMs);
  const shelves = useMemo(() => shelvesOf(plan), [plan]);
  const axis = useMemo(() => foldedAxis(plan, Math.max(320, width - LABEL_PX - 4), zoom), [plan, width, zoom]);
  useInPlace(axis);
  const epochMs = Date.parse(plan.epoch as string);
  const chosen = plan.tasks.find((t) => t.id === chosenId) ?? plan.tasks[0];
  // What a pointer rests on is shown, what was chosen comes back when it leaves.
  const told = plan.tasks.find((t) => t.id === hoverId) ?? chosen;
  const nowS = (nowMs - epochMs) / 1000;
  const choose = (id: string) => {
    setChosenId(id);
    setWhole(true);
  };
  const step = (by: number) => {
    const i = plan.tasks.findIndex((t) => t.id === chosen?.id);
    const next = plan.tasks[Math.max(0, Math.min(plan.tasks.length - 1, i + by))];
    if (next) setChosenId(next.id);
  };
  /** To the step of the tray above or below that is nearest in time. */
  const tray = (by: number) => {
    const i = shelves.findIndex((s) => s.trayId === chosen?.trayId);
    const to = shelves[Math.max(0, Math.min(shelves.length - 1, i + by))];
    if (!to || !chosen || to.trayId === chosen.trayId) return;
    const there = plan.tasks.filter((t) => t.trayId === to.trayId);
    const nearest = there.reduce((a, b) => (Math.abs(b.startS - chosen.startS) < Math.abs(a.startS - chosen.startS) ? b : a));
    setChosenId(nearest.id);
  };
  const openTray = (trayId: string, open: boolean) =>
    setOpenTrays(new Set(open ? [...openTrays, trayId] : [...openTrays].filter((t) => t !== trayId)));
  const KEYS: Readonly<Record<string, () => void>> = {
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1),
    ArrowDown: () => tray(1),
    ArrowUp: () => tray(-1),
    Home: () => step(-plan.tasks.length),
    End: () => step(plan.tasks.length),
    Enter: () => setWhole(!whole),
    ' ': () => chosen && openTray(chosen.trayId, !openTrays.has(chosen.trayId)),
    '+': () => zoomTo(zoom * 1.5),
    '-': () => zoomTo(zoom / 1.5),
    '0': () => zoomTo(1),
  };
  const choosing = { chosenId: chosen?.id ?? null, onChoose: choose, onHover: setHoverId, chain, nowS };
  return (
    <Wiping value={plan.order.school.wiping}>
      <div>
        <div ref={ref} className="relative no-print">
          <div className="flex flex-wrap items-center gap-x-2 gap-y-1 mb-1">
            {children}
            <span className="grow" />
            <span className="text-base opacity-80">{msg`an hour`}</span>
            {ZOOMS.map((z) => (
              <button
                key={z}
                type="button"
                className={`btn btn-sm ${z === zoom ? 'btn-neutral' : ''}`}
                aria-pressed={z === zoom}
                onClick={() => zoomTo(z)}
              >
                {z === 1 ? msg`fit` : `×${z}`}
              </button>
            ))}
            <button
              type="button"
              className={`btn btn-sm ${showsChain ? 'btn-neutral' : ''}`}
              aria-pressed={showsChain}
              onClick={() => setShowsChain(!showsChain)}
            >
              {msg`what sets the end`}
            </button>
            <button
              type="button"
              className="btn btn-sm"
              aria-pressed={openTrays.size > 0}
              onClick={() => setOpenTrays(new Set(openTrays.size > 0 ? [] : shelves.map((s) => s.trayId)))}
            >
              {openTrays.size > 0 ? msg`one line a lot` : msg`every round`}
            </button>
          </div>
          {width > 0 && (
            <section
              ref={scroller}
              className="overflow-x-auto overscroll-x-contain"
              tabIndex={0}
              aria-label={msg`The rack. Left and right arrows walk through the steps, up and down to the next tray; Enter tells all of a
                step, Space shows every round of a tray.`}
              onKeyDown={(e) => {
                const act = e.target === e.currentTarget && !e.ctrlKey && !e.metaKey && !e.altKey ? KEYS[e.key] : undefined;
                if (!act) return;
                act();
                e.preventDefault();
              }}
            >
              <div style={{ width: axis.width + LABEL_PX }}>
                {plan.order.decorators.map((d, i) => (
                  <Hands
                    key={d.id}
                    who={plan.order.decorators.length > 1 ? d.id : null}
                    tasks={plan.tasks.filter((t) => t.by === d.id)}
                    pins={plan.order.pins}
                    clocks={i === 0}
                    axis={axis}
                    epochMs={epochMs}
                    {...choosing}
                  />
                ))}
                {shelves.map((s) => (
                  <ShelfView
                    key={s.trayId}
                    shelf={s}
                    plan={plan}
                    axis={axis}
                    open={openTrays.has(s.trayId)}
                    onOpen={(open) => openTray(s.trayId, open)}
                    {...choosing}
                  />
                ))}
              </div>
            </section>
          )}
        </div>
        {told && (
          <TaskDetail
            plan={plan}
            task={told}
            epochMs={epochMs}
            slackS={slack.get(told.id) ?? 0}
            isOnChain={chain.has(told.id)}
            whole={whole}
            onWhole={setWhole}
            onChoose={choose}
            onPin={onPin}
          />
        )}
        <div className="no-print mt-2">
          <Finishes />
        </div>
        <RackOnPaper plan={plan} epochMs={epochMs} />
      </div>
    </Wiping>
  );
}

function Finishes() {
  const shown: readonly SurfaceState[] = ['wet', 'thickening', 'skinned', 'crusted', 'set', 'firm', 'dry'];
  return (
    <ul className="flex flex-wrap gap-3 text-sm" aria-label={msg`Finishes`}>
      {shown.map((s) => (
        <li key={s} className="flex items-center gap-1">
          <svg width="26" height="14" aria-hidden="true">
            <rect width="26" height="14" rx="3" fill="#4f8f96" />
            {s !== 'dry' && <rect width="26" height="14" rx="3" fill={`url(#strip-${s})`} />}
          </svg>
          {word(s)}
        </li>
      ))}
    </ul>
  );
}

export const rackDates = (plan: Plan): string => {
  const epochMs = Date.parse(plan.epoch as string);
  return plan.openingHours.map(([from]) => dayDate(epochMs + from * 1000)).join(msg`, then `);
};
