import type { Plan, PlanTask } from '@kestfog/core/formats';
import { lookAfter } from '@kestfog/core/planning';
import { msg, word } from '@kestfog/core/words';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { span } from '../../text/time.js';
import { Cookie } from '../../ui/Cookie.js';
import { inkOn } from '../../ui/ink.js';
import { type Choosing, LABEL_PX, NowLine, opacityOf } from './choosing.js';
import { bandOf, type LotRow, type Shelf, type Strip } from './shelves.js';
import { roomAfter, STAY_WHY, stayLabel } from './stay-labels.js';
import type { TimeAxis } from './time-axis.js';

/** A lot in one line: its steps over one band. */
const LINE_PX = 24;
const BAND_PX = 11;
/** A lot with every round: blocks with the cookie in them, and a strip for each round. */
const BLOCK_PX = 46;
const STRIP_PX = 20;
/** The tray's own edge, with its stays on it. */
const EDGE_PX = 18;

interface Props extends Choosing {
  readonly shelf: Shelf;
  readonly plan: Plan;
  readonly axis: TimeAxis;
  /** every round is shown, not only the one that lies on top */
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
}

/** A tray: its lots in a line each, or, opened, with all their rounds. */
export function ShelfView({ shelf, plan, axis, open, onOpen, chosenId, onChoose, onHover, chain, nowS }: Props) {
  const { scale } = axis;
  const heights = shelf.rows.map((r) => (open ? BLOCK_PX + r.strips.length * STRIP_PX + 14 : LINE_PX));
  const height = heights.reduce((a, b) => a + b, 0) + EDGE_PX + 2;
  const choosing = { chosenId, onChoose, onHover, chain, nowS };
  let y = 2;
  return (
    <div className="flex">
      <div className="sticky left-0 z-10 bg-base-100 shrink-0 flex" style={{ width: LABEL_PX, height }}>
        <button
          type="button"
          aria-expanded={open}
          aria-label={msg`tray ${shelf.trayId}: every round`}
          className="w-11 shrink-0 self-stretch text-2xl font-semibold leading-none flex flex-col items-start justify-start pt-1 hover:bg-base-200"
          onClick={() => onOpen(!open)}
        >
          {shelf.trayId}
          {open ? <ChevronDown aria-hidden size={16} /> : <ChevronRight aria-hidden size={16} />}
        </button>
        <div className="pt-0.5">
          {shelf.rows.map((r, i) => (
            <div key={r.lot.id} className="flex items-center gap-2" style={{ height: heights[i] as number }}>
              <Cookie design={r.design} look="dry" className={open ? 'h-12 w-12' : 'h-5 w-7'} label={r.design.name} />
              <span className="text-base leading-none whitespace-nowrap">× {r.lot.cookies}</span>
            </div>
          ))}
        </div>
      </div>
      <svg width={axis.width} height={height} className="block">
        {axis.folds.map((f) => (
          <rect
            key={f.fromS}
            x={scale(f.fromS)}
            width={scale(f.toS) - scale(f.fromS)}
            y={0}
            height={height}
            fill={f.night ? 'var(--night)' : 'var(--color-base-200)'}
          />
        ))}
        {axis.ticks.map((t) => (
          <line key={t} x1={scale(t)} x2={scale(t)} y1={0} y2={height} stroke="var(--color-base-300)" strokeOpacity="0.6" />
        ))}
        {shelf.rows.map((r, i) => {
          const top = y;
          y += heights[i] as number;
          return open ? (
            <WholeRow key={r.lot.id} row={r} plan={plan} axis={axis} top={top} {...choosing} />
          ) : (
            <Line key={r.lot.id} row={r} axis={axis} top={top} {...choosing} />
          );
        })}
        {shelf.stays.map((s) => (
          <g key={s.id}>
            <rect
              x={scale(s.startS)}
              y={height - EDGE_PX + 1}
              width={scale(s.endS) - scale(s.startS)}
              height={EDGE_PX - 4}
              fill="none"
              stroke="var(--enamel-edge)"
              strokeDasharray="7 4"
            />
            <text x={scale(s.startS) + 5} y={height - 6} className="fill-base-content text-[13px]">
              {stayLabel(s, roomAfter(s, shelf.stays, axis))}
            </text>
            <title>
              {msg`tray ${s.trayId} ${s.where === 'fan' ? msg`before the fan` : msg`in the dehydrator`},
                ${span(s.endS - s.startS)}${STAY_WHY[s.why]}`}
            </title>
          </g>
        ))}
        <NowLine axis={axis} nowS={nowS} height={height - 3} />
        {/* the tray itself: an enamelled edge */}
        <rect x={0} y={height - 3} width={axis.width} height={3} rx={1.5} fill="var(--enamel-edge)" />
      </svg>
    </div>
  );
}

/** A lot in one line: the finish of what was laid last along time, and over it what hands do. */
function Line({
  row,
  axis,
  top,
  chosenId,
  onChoose,
  onHover,
  chain,
}: { readonly row: LotRow; readonly axis: TimeAxis; readonly top: number } & Choosing) {
  const { scale } = axis;
  return (
    <g transform={`translate(0 ${top})`}>
      {bandOf(row.strips).map((s) => (
        <Segment key={`${s.round} ${s.state} ${s.fromS}`} segment={s} strip={s} axis={axis} y={(LINE_PX - BAND_PX) / 2} height={BAND_PX} />
      ))}
      {row.tasks.map((t) => {
        const x = scale(t.startS);
        const w = Math.max(4, scale(t.endS) - x - 1);
        const chosen = t.id === chosenId;
        const window = windowOf(t);
        return (
          <g
            key={t.id}
            role="button"
            tabIndex={-1}
            aria-label={msg`tray ${t.trayId}: ${t.title}`}
            onClick={() => onChoose(t.id)}
            onPointerEnter={() => onHover(t.id)}
            onPointerLeave={() => onHover(null)}
            className="cursor-pointer"
            opacity={opacityOf(chain, t.id)}
          >
            {/* as tall as the line, so that a finger finds it */}
            <rect x={x - 2} y={0} width={w + 4} height={LINE_PX} fill="transparent" />
            <rect
              x={x}
              y={2}
              width={w}
              height={LINE_PX - 4}
              rx={2.5}
              fill={t.bags[0]?.colour ?? 'var(--enamel)'}
              stroke={chosen || chain.has(t.id) ? 'var(--color-base-content)' : 'var(--enamel-edge)'}
              strokeWidth={chosen ? 3 : chain.has(t.id) ? 2 : 1}
            />
            {window && <WindowMark task={t} window={window} axis={axis} height={LINE_PX} />}
          </g>
        );
      })}
    </g>
  );
}

/** A stretch of one finish, with its word where there is room. */
function Segment({
  segment,
  strip,
  axis,
  y,
  height,
}: {
  readonly segment: Strip['segments'][number];
  readonly strip: Pick<Strip, 'colour' | 'names'>;
  readonly axis: TimeAxis;
  readonly y: number;
  readonly height: number;
}) {
  const x = axis.scale(segment.fromS);
  const w = Math.max(0.5, axis.scale(segment.toS) - x);
  return (
    <g transform={`translate(0 ${y})`}>
      <rect x={x} width={w} height={height} fill={strip.colour} stroke="var(--enamel-edge)" strokeWidth="0.4" />
      {segment.state !== 'dry' && <rect x={x} width={w} height={height} fill={`url(#strip-${segment.state})`} />}
      {w > 74 && (
        <text
          x={x + 6}
          y={height / 2 + 4.5}
          className="text-[13px]"
          fill={inkOn(strip.colour)}
          stroke={strip.colour}
          strokeWidth="3"
          paintOrder="stroke"
        >
          {word(segment.state)}
        </text>
      )}
      <title>
        {strip.names}: {word(segment.state)}
      </title>
    </g>
  );
}

/** Every round of a lot as a strip of its own, and its steps with the cookie after each. */
function WholeRow({
  row,
  plan,
  axis,
  top,
  chosenId,
  onChoose,
  onHover,
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
                  <text
                    x={x + 6}
                    y={12}
                    className="text-[13px]"
                    fill={inkOn(strip.colour)}
                    stroke={strip.colour}
                    strokeWidth="3"
                    paintOrder="stroke"
                  >
                    {word(s.state)}
                  </text>
                )}
                <title>
                  {strip.names}: {word(s.state)}
                </title>
              </g>
            );
          })}
        </g>
      ))}
      {row.tasks.map((t) => (
        <Block
          key={t.id}
          task={t}
          row={row}
          plan={plan}
          axis={axis}
          chosen={t.id === chosenId}
          chain={chain}
          onChoose={onChoose}
          onHover={onHover}
        />
      ))}
    </g>
  );
}

/** A step with the cookie after it. */
function Block({
  task,
  row,
  plan,
  axis,
  chosen,
  chain,
  onChoose,
  onHover,
}: {
  readonly task: PlanTask;
  readonly row: LotRow;
  readonly plan: Plan;
  readonly axis: TimeAxis;
  readonly chosen: boolean;
  readonly chain: ReadonlySet<string>;
} & Pick<Choosing, 'onChoose' | 'onHover'>) {
  const { scale } = axis;
  const x = scale(task.startS);
  const w = Math.max(4, scale(task.endS) - x - 1);
  const window = windowOf(task);
  const parts = task.motions.flatMap(
    (m) => plan.designs.find((d) => d.drawing === row.design)?.graph.steps.find((s) => s.id === m.stepId)?.parts ?? [],
  );
  return (
    <g
      role="button"
      tabIndex={-1}
      aria-label={msg`tray ${task.trayId}: ${task.title}`}
      onClick={() => onChoose(task.id)}
      onPointerEnter={() => onHover(task.id)}
      onPointerLeave={() => onHover(null)}
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
        task.bags.length > 0 && (
          <rect x={x + 1.5} y={BLOCK_PX - 16} width={Math.max(2, w - 3)} height={11} rx={2} fill={task.bags[0]?.colour} />
        )
      )}
      {w > 128 && (
        <text x={x + 64} y={28} className="fill-base-content text-[15px]">
          {task.title.length > (w - 68) / 7 ? `${task.title.slice(0, Math.floor((w - 68) / 7) - 1)}…` : task.title}
        </text>
      )}
      {window && <WindowMark task={task} window={window} axis={axis} height={BLOCK_PX} />}
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

/** A window that narrows toward the moment it shuts. */
function WindowMark({
  task,
  window,
  axis: { scale },
  height,
}: {
  readonly task: PlanTask;
  readonly window: { readonly openS: number; readonly shutS: number };
  readonly axis: TimeAxis;
  readonly height: number;
}) {
  const [openX, shutX] = [scale(task.startS + window.openS), scale(task.startS + window.shutS)];
  return (
    <path
      d={`M${openX} 0L${shutX} ${height / 2}L${openX} ${height}`}
      fill="var(--color-error)"
      fillOpacity="0.14"
      stroke="var(--color-error)"
      strokeWidth="1.4"
    />
  );
}
