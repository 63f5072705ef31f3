import type { SurfaceState } from '@kestfog/core/drying';
import type { Pin, Plan, PlanTask, Stay } from '@kestfog/core/formats';
import { criticalChain, lookAfter, slacks } from '@kestfog/core/planning';
import { useMemo, useState } from 'react';
import { clockTime, dayDate, span } from '../../text/time.js';
import { inkOn } from '../../text/words.js';
import { Cookie, finishedLook } from '../../ui/Cookie.js';
import { useNow } from '../../ui/use-now.js';
import { useWidth } from '../../ui/use-width.js';
import { type LotRow, type Shelf, shelvesOf } from './shelves.js';
import { TaskDetail } from './TaskDetail.js';
import { foldedAxis, type TimeAxis } from './time-axis.js';

const LABEL_PX = 132;
const BLOCK_PX = 46;
const STRIP_PX = 20;
const HANDS_PX = 54;
const ZOOMS = [1, 2, 4] as const;

/** The plan as a rack of trays: time runs to the right along each shelf, the icing's finish changing along it. */
export function Rack({ plan, serverNowMs, onPin }: { readonly plan: Plan; readonly serverNowMs: number; readonly onPin: ((pin: Pin) => void) | null }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const [zoom, setZoom] = useState<(typeof ZOOMS)[number]>(1);
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [showsChain, setShowsChain] = useState(false);
  const chain = useMemo(() => new Set(showsChain ? criticalChain(plan) : []), [plan, showsChain]);
  const slack = useMemo(() => slacks(plan), [plan]);
  const nowMs = useNow(serverNowMs);
  const shelves = useMemo(() => shelvesOf(plan), [plan]);
  const axis = useMemo(() => foldedAxis(plan, Math.max(320, width - LABEL_PX - 4), zoom), [plan, width, zoom]);
  const epochMs = Date.parse(plan.epoch as string);
  const chosen = plan.tasks.find((t) => t.id === chosenId) ?? plan.tasks[0];
  const nowS = (nowMs - epochMs) / 1000;
  const move = (by: number) => {
    const i = plan.tasks.findIndex((t) => t.id === chosen?.id);
    const next = plan.tasks[Math.max(0, Math.min(plan.tasks.length - 1, i + by))];
    if (next) setChosenId(next.id);
  };
  return (
    <div>
      <div ref={ref} className="relative">
        <div className="no-print flex items-center gap-2 mb-2">
          <span className="text-base opacity-80 mr-1">width of an hour</span>
          {ZOOMS.map((z) => (
            <button key={z} type="button" className={`btn btn-sm ${z === zoom ? 'btn-neutral' : ''}`} aria-pressed={z === zoom} onClick={() => setZoom(z)}>
              {z === 1 ? 'fit' : `×${z}`}
            </button>
          ))}
          <button
            type="button"
            className={`btn btn-sm ml-3 ${showsChain ? 'btn-neutral' : ''}`}
            aria-pressed={showsChain}
            onClick={() => setShowsChain(!showsChain)}
          >
            what sets the end
          </button>
          <span className="grow" />
          <Finishes />
        </div>
        {width > 0 && (
          <section
            className="overflow-x-auto"
            tabIndex={0}
            aria-label="The rack. Left and right arrows walk through the steps."
            onKeyDown={(e) => {
              if (e.key === 'ArrowRight') move(1);
              else if (e.key === 'ArrowLeft') move(-1);
              else if (e.key === '+') setZoom(ZOOMS[Math.min(ZOOMS.length - 1, ZOOMS.indexOf(zoom) + 1)] ?? zoom);
              else if (e.key === '-') setZoom(ZOOMS[Math.max(0, ZOOMS.indexOf(zoom) - 1)] ?? zoom);
              else return;
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
                  nowS={nowS}
                  chain={chain}
                  chosenId={chosen?.id ?? null}
                  onChoose={setChosenId}
                />
              ))}
              {shelves.map((s) => (
                <ShelfView key={s.trayId} shelf={s} plan={plan} axis={axis} nowS={nowS} chain={chain} chosenId={chosen?.id ?? null} onChoose={setChosenId} />
              ))}
            </div>
          </section>
        )}
      </div>
      {chosen && (
        <TaskDetail
          plan={plan}
          task={chosen}
          epochMs={epochMs}
          slackS={slack.get(chosen.id) ?? 0}
          isOnChain={chain.has(chosen.id)}
          onChoose={setChosenId}
          onPin={onPin}
        />
      )}
    </div>
  );
}

function Finishes() {
  const shown: readonly SurfaceState[] = ['wet', 'thickening', 'skinned', 'crusted', 'set', 'firm', 'dry'];
  return (
    <ul className="flex flex-wrap gap-3 text-sm" aria-label="Finishes">
      {shown.map((s) => (
        <li key={s} className="flex items-center gap-1">
          <svg width="26" height="14" aria-hidden="true">
            <rect width="26" height="14" rx="3" fill="#4f8f96" />
            {s !== 'dry' && <rect width="26" height="14" rx="3" fill={`url(#strip-${s})`} />}
          </svg>
          {s}
        </li>
      ))}
    </ul>
  );
}

interface Choosing {
  readonly chosenId: string | null;
  readonly onChoose: (id: string) => void;
  /** tasks that set the end, where that is shown; all others step back */
  readonly chain: ReadonlySet<string>;
  readonly nowS: number;
}

/** Off the chain that is shown, a task steps back. */
const opacityOf = (chain: ReadonlySet<string>, id: string) => (chain.size > 0 && !chain.has(id) ? 0.25 : 1);

function NowLine({ axis, nowS, height }: { readonly axis: TimeAxis; readonly nowS: number; readonly height: number }) {
  const domain = axis.scale.domain();
  if (nowS < (domain[0] as number) || nowS > (domain.at(-1) as number)) return null;
  return <line x1={axis.scale(nowS)} x2={axis.scale(nowS)} y1={0} y2={height} stroke="var(--color-primary)" strokeWidth="3" />;
}

/** What one pair of hands does when, folds and clock times. */
function Hands({
  who,
  tasks,
  pins,
  clocks,
  axis,
  epochMs,
  chosenId,
  onChoose,
  chain,
  nowS,
}: {
  readonly who: string | null;
  readonly tasks: readonly PlanTask[];
  readonly pins: readonly Pin[];
  /** whether the hours are shown above, once for all hands */
  readonly clocks: boolean;
  readonly axis: TimeAxis;
  readonly epochMs: number;
} & Choosing) {
  const { scale } = axis;
  const top = clocks ? 26 : 6;
  const height = HANDS_PX + top + 4;
  const away = pins.flatMap((p) => (p.kind === 'away' && (p.who === null || who === null || p.who === who) ? [p] : []));
  return (
    <div className="flex">
      <div className={`sticky left-0 z-10 bg-base-100 shrink-0 text-lg font-semibold ${clocks ? 'pt-7' : 'pt-2'}`} style={{ width: LABEL_PX }}>
        {who ?? 'hands'}
      </div>
      <svg width={axis.width} height={height} className="block">
        {axis.folds.map((f) => (
          <g key={f.fromS}>
            <rect x={scale(f.fromS)} width={scale(f.toS) - scale(f.fromS)} y={0} height={height} fill={f.night ? 'var(--night)' : 'var(--color-base-200)'} />
            {clocks && (
              <>
                <text x={(scale(f.fromS) + scale(f.toS)) / 2} y={46} textAnchor="middle" className="fill-base-content text-[15px]">
                  {f.night ? 'night' : 'drying'}
                </text>
                <text x={(scale(f.fromS) + scale(f.toS)) / 2} y={66} textAnchor="middle" className="fill-base-content text-[15px]">
                  {span(f.toS - f.fromS)}
                </text>
              </>
            )}
          </g>
        ))}
        {axis.ticks.map((t) => (
          <g key={t}>
            <line x1={scale(t)} x2={scale(t)} y1={clocks ? 20 : 0} y2={height} stroke="var(--color-base-300)" />
            {clocks && (
              <text x={scale(t) + 2} y={15} className="fill-base-content text-[15px]">
                {clockTime(epochMs + t * 1000)}
              </text>
            )}
          </g>
        ))}
        {away.map((p) => (
          <g key={`${p.from} ${p.label}`}>
            <rect
              x={scale(p.from)}
              width={Math.max(4, scale(p.to) - scale(p.from))}
              y={top}
              height={HANDS_PX - 8}
              fill="var(--color-base-200)"
              stroke="var(--color-base-content)"
              strokeDasharray="3 3"
            />
            <title>{p.label}</title>
            {scale(p.to) - scale(p.from) > 50 && (
              <text x={scale(p.from) + 5} y={top + 28} className="fill-base-content text-[14px]">
                {p.label}
              </text>
            )}
          </g>
        ))}
        {tasks.map((t) => {
          const x = scale(t.startS);
          const w = Math.max(3, scale(t.endS) - x - 1);
          const colour = t.bags[0]?.colour;
          return (
            <g
              key={t.id}
              role="button"
              tabIndex={-1}
              aria-label={`tray ${t.trayId}: ${t.title}`}
              onClick={() => onChoose(t.id)}
              className="cursor-pointer"
              opacity={opacityOf(chain, t.id)}
            >
              <rect
                x={x}
                y={top}
                width={w}
                height={HANDS_PX - 8}
                rx={3}
                fill={colour ?? 'var(--color-base-300)'}
                stroke={t.id === chosenId || chain.has(t.id) ? 'var(--color-base-content)' : 'var(--enamel-edge)'}
                strokeWidth={t.id === chosenId ? 3 : chain.has(t.id) ? 2 : 0.75}
              />
              {w > 16 && (
                <text x={x + w / 2} y={top + 30} textAnchor="middle" className="text-[17px] font-semibold" fill={colour ? inkOn(colour) : 'currentColor'}>
                  {t.trayId}
                </text>
              )}
            </g>
          );
        })}
        <NowLine axis={axis} nowS={nowS} height={height} />
      </svg>
    </div>
  );
}

function ShelfView({ shelf, plan, axis, chosenId, onChoose, chain, nowS }: { readonly shelf: Shelf; readonly plan: Plan; readonly axis: TimeAxis } & Choosing) {
  const { scale } = axis;
  const heights = shelf.rows.map((r) => BLOCK_PX + r.strips.length * STRIP_PX + 14);
  const height = heights.reduce((a, b) => a + b, 0) + (shelf.stays.length > 0 ? 34 : 18);
  let y = 6;
  return (
    <div className="flex">
      <div className="sticky left-0 z-10 bg-base-100 shrink-0 pr-2 pt-1" style={{ width: LABEL_PX, height }}>
        <p className="text-2xl font-semibold leading-none">
          {shelf.trayId}
          <span className="text-base font-normal opacity-80 ml-2">
            {shelf.rows.reduce((s, r) => s + r.lot.cookies, 0)}
            {shelf.places === null ? ' cookies' : ` of ${shelf.places}`}
          </span>
        </p>
        {shelf.rows.map((r, i) => (
          <div key={r.lot.id} className="flex items-center gap-2 mt-1" style={{ height: (heights[i] as number) - 16 }}>
            <Cookie design={r.design} look={finishedLook(r.design)} className="h-14 w-16" label={r.design.name} />
            <span className="text-lg">× {r.lot.cookies}</span>
          </div>
        ))}
      </div>
      <svg width={axis.width} height={height} className="block">
        {axis.folds.map((f) => (
          <rect
            key={f.fromS}
            x={scale(f.fromS)}
            width={scale(f.toS) - scale(f.fromS)}
            y={0}
            height={height - 8}
            fill={f.night ? 'var(--night)' : 'var(--color-base-200)'}
          />
        ))}
        {axis.ticks.map((t) => (
          <line key={t} x1={scale(t)} x2={scale(t)} y1={0} y2={height - 10} stroke="var(--color-base-300)" strokeOpacity="0.6" />
        ))}
        {shelf.rows.map((r, i) => {
          const top = y;
          y += heights[i] as number;
          return <Row key={r.lot.id} row={r} plan={plan} axis={axis} top={top} nowS={nowS} chain={chain} chosenId={chosenId} onChoose={onChoose} />;
        })}
        {shelf.stays.map((s) => (
          <g key={s.id}>
            <rect
              x={scale(s.startS)}
              y={height - 29}
              width={scale(s.endS) - scale(s.startS)}
              height={17}
              fill="none"
              stroke="var(--enamel-edge)"
              strokeDasharray="7 4"
            />
            <text x={scale(s.startS) + 5} y={height - 16} className="fill-base-content text-[14px]">
              {stayLabel(s, roomAfter(s, shelf.stays, axis))}
            </text>
            <title>
              tray {s.trayId} {s.where === 'fan' ? 'before the fan' : 'in the dehydrator'}, {span(s.endS - s.startS)}
              {STAY_WHY[s.why]}
            </title>
          </g>
        ))}
        <NowLine axis={axis} nowS={nowS} height={height - 8} />
        {/* the tray itself: an enamelled edge */}
        <rect x={0} y={height - 10} width={axis.width} height={5} rx={2.5} fill="var(--enamel-edge)" />
      </svg>
    </div>
  );
}

/** Width of a letter of a label, px; as near as a label needs it. */
const LETTER_PX = 7.4;
/** Room for a label until the next stay begins, px. */
const roomAfter = (s: Stay, stays: readonly Stay[], { scale, width }: TimeAxis): number =>
  Math.min(width, ...stays.filter((o) => o.startS > s.startS).map((o) => scale(o.startS))) - scale(s.startS);

/** What a stay is, as far as there is room for it before the next one. */
function stayLabel(s: Stay, roomPx: number): string {
  const [where, long] = [s.where === 'fan' ? 'fan' : 'dehydrator', span(s.endS - s.startS)];
  return [`${where} ${long}${STAY_WHY[s.why]}`, `${where} ${long}`, long].find((t) => t.length * LETTER_PX + 10 <= roomPx) ?? '';
}

/** What a stay is there for, where not only to save time. */
const STAY_WHY = { time: '', pools: ', sets small pools', asked: ', as you asked', dries: ', dries only there' } as const;

function Row({
  row,
  plan,
  axis,
  top,
  chosenId,
  onChoose,
  chain,
}: { readonly row: LotRow; readonly plan: Plan; readonly axis: TimeAxis; readonly top: number } & Choosing) {
  const { scale } = axis;
  return (
    <g transform={`translate(0 ${top})`}>
      {row.strips.map((strip, i) => (
        <g key={strip.round} transform={`translate(0 ${BLOCK_PX + 4 + i * STRIP_PX})`}>
          {strip.segments.map((s) => {
            const x = scale(s.fromS);
            const w = Math.max(0.5, scale(s.toS) - x);
            return (
              <g key={`${s.state}${s.fromS}`}>
                <rect x={x} width={w} height={STRIP_PX - 5} fill={strip.colour} stroke="var(--enamel-edge)" strokeWidth="0.4" />
                {s.state !== 'dry' && <rect x={x} width={w} height={STRIP_PX - 5} fill={`url(#strip-${s.state})`} />}
                {w > 74 && (
                  <text x={x + 6} y={12} className="text-[13px]" fill={inkOn(strip.colour)} stroke={strip.colour} strokeWidth="3" paintOrder="stroke">
                    {s.state}
                  </text>
                )}
                <title>
                  {strip.names}: {s.state}
                </title>
              </g>
            );
          })}
        </g>
      ))}
      {row.tasks.map((t) => (
        <Block key={t.id} task={t} row={row} plan={plan} axis={axis} chosen={t.id === chosenId} chain={chain} onChoose={onChoose} />
      ))}
    </g>
  );
}

function Block({
  task,
  row,
  plan,
  axis,
  chosen,
  chain,
  onChoose,
}: {
  readonly task: PlanTask;
  readonly row: LotRow;
  readonly plan: Plan;
  readonly axis: TimeAxis;
  readonly chosen: boolean;
  readonly chain: ReadonlySet<string>;
  readonly onChoose: (id: string) => void;
}) {
  const { scale } = axis;
  const x = scale(task.startS);
  const w = Math.max(4, scale(task.endS) - x - 1);
  const window = windowOf(task);
  const parts = task.motions.flatMap((m) => plan.designs.find((d) => d.drawing === row.design)?.graph.steps.find((s) => s.id === m.stepId)?.parts ?? []);
  return (
    <g
      role="button"
      tabIndex={-1}
      aria-label={`tray ${task.trayId}: ${task.title}`}
      onClick={() => onChoose(task.id)}
      className="cursor-pointer"
      opacity={opacityOf(chain, task.id)}
    >
      <rect
        x={x}
        y={2}
        width={w}
        height={BLOCK_PX - 4}
        rx={4}
        fill="var(--enamel)"
        stroke={chosen || chain.has(task.id) ? 'var(--color-base-content)' : 'var(--enamel-edge)'}
        strokeWidth={chosen ? 3 : chain.has(task.id) ? 2 : 1}
      />
      {w > 40 ? (
        <svg x={x + 3} y={5} width={Math.min(w - 6, 56)} height={BLOCK_PX - 10} aria-hidden="true">
          <Cookie design={row.design} look={lookAfter(plan, task, row.design)} lit={parts} className="w-full h-full" label="" />
        </svg>
      ) : (
        task.bags.length > 0 && <rect x={x + 1.5} y={BLOCK_PX - 16} width={Math.max(2, w - 3)} height={11} rx={2} fill={task.bags[0]?.colour} />
      )}
      {w > 128 && (
        <text x={x + 64} y={28} className="fill-base-content text-[15px]">
          {task.title.length > (w - 68) / 7 ? `${task.title.slice(0, Math.floor((w - 68) / 7) - 1)}…` : task.title}
        </text>
      )}
      {window && (
        // The window narrows toward the moment it shuts.
        <path
          d={`M${scale(task.startS + window.openS)} 0L${scale(task.startS + window.shutS)} ${BLOCK_PX / 2}L${scale(task.startS + window.openS)} ${BLOCK_PX}`}
          fill="var(--color-error)"
          fillOpacity="0.14"
          stroke="var(--color-error)"
          strokeWidth="1.4"
        />
      )}
    </g>
  );
}

/** The first wet window of a visit, seconds from its start. */
function windowOf(task: PlanTask): { openS: number; shutS: number } | null {
  for (const m of task.motions) {
    const from = m.windowS === null ? undefined : task.motions.find((x) => x.stepId === m.windowFrom);
    if (from && m.windowS !== null) return { openS: from.endS[0] as number, shutS: (from.endS[0] as number) + m.windowS };
  }
  return null;
}

export const rackDates = (plan: Plan): string => {
  const epochMs = Date.parse(plan.epoch as string);
  return plan.openingHours.map(([from]) => dayDate(epochMs + from * 1000)).join(', then ');
};
