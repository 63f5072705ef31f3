import type { Pin, PlanTask } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { axisTop } from 'd3-axis';
import { select } from 'd3-selection';
import { useEffect, useRef } from 'react';
import { clockTime, span } from '../../text/time.js';
import { inkOn } from '../../ui/ink.js';
import { type Choosing, LABEL_PX, NowLine, opacityOf } from './choosing.js';
import type { TimeAxis } from './time-axis.js';

const BLOCK_PX = 34;
const CLOCKS_PX = 22;

/** What one pair of hands does when, folds and clock times. */
export function Hands({
  who,
  tasks,
  pins,
  clocks,
  axis,
  epochMs,
  chosenId,
  onChoose,
  onHover,
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
  const top = clocks ? CLOCKS_PX + 2 : 4;
  const height = BLOCK_PX + top + 4;
  const away = pins.flatMap((p) => (p.kind === 'away' && (p.who === null || who === null || p.who === who) ? [p] : []));
  return (
    <div className="flex">
      <div
        className={`sticky left-0 z-10 bg-base-100 shrink-0 text-lg font-semibold ${clocks ? 'pt-7' : 'pt-1'}`}
        style={{ width: LABEL_PX }}
      >
        {who ?? msg`hands`}
      </div>
      <svg width={axis.width} height={height} className="block">
        {axis.folds.map((f) => (
          <g key={f.fromS}>
            <rect
              x={scale(f.fromS)}
              width={scale(f.toS) - scale(f.fromS)}
              y={0}
              height={height}
              fill={f.night ? 'var(--night)' : 'var(--color-base-200)'}
            />
            {clocks && (
              <>
                <text x={(scale(f.fromS) + scale(f.toS)) / 2} y={top + 12} textAnchor="middle" className="fill-base-content text-[15px]">
                  {f.night ? msg`night` : msg`drying`}
                </text>
                <text x={(scale(f.fromS) + scale(f.toS)) / 2} y={top + 30} textAnchor="middle" className="fill-base-content text-[15px]">
                  {span(f.toS - f.fromS)}
                </text>
              </>
            )}
          </g>
        ))}
        {axis.ticks.map((t) => (
          <line key={t} x1={scale(t)} x2={scale(t)} y1={clocks ? CLOCKS_PX : 0} y2={height} stroke="var(--color-base-300)" />
        ))}
        {clocks && <Clocks axis={axis} epochMs={epochMs} />}
        {away.map((p) => (
          <g key={`${p.from} ${p.label}`}>
            <rect
              x={scale(p.from)}
              width={Math.max(4, scale(p.to) - scale(p.from))}
              y={top}
              height={BLOCK_PX}
              fill="var(--color-base-200)"
              stroke="var(--color-base-content)"
              strokeDasharray="3 3"
            />
            <title>{p.label}</title>
            {scale(p.to) - scale(p.from) > 50 && (
              <text x={scale(p.from) + 5} y={top + 22} className="fill-base-content text-[14px]">
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
              aria-label={msg`tray ${t.trayId}: ${t.title}`}
              onClick={() => onChoose(t.id)}
              onPointerEnter={() => onHover(t.id)}
              onPointerLeave={() => onHover(null)}
              className="cursor-pointer"
              opacity={opacityOf(chain, t.id)}
            >
              <rect
                x={x}
                y={top}
                width={w}
                height={BLOCK_PX}
                rx={3}
                fill={colour ?? 'var(--color-base-300)'}
                stroke={t.id === chosenId || chain.has(t.id) ? 'var(--color-base-content)' : 'var(--enamel-edge)'}
                strokeWidth={t.id === chosenId ? 3 : chain.has(t.id) ? 2 : 0.75}
              />
              {w > 16 && (
                <text
                  x={x + w / 2}
                  y={top + 23}
                  textAnchor="middle"
                  className="text-[17px] font-semibold"
                  fill={colour ? inkOn(colour) : 'currentColor'}
                >
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

/** The hours along the top. */
function Clocks({ axis, epochMs }: { readonly axis: TimeAxis; readonly epochMs: number }) {
  const ref = useRef<SVGGElement>(null);
  useEffect(() => {
    if (!ref.current) return;
    const hours = axisTop<number>(axis.scale)
      .tickValues([...axis.ticks])
      .tickFormat((s) => clockTime(epochMs + Number(s) * 1000))
      .tickSize(0)
      .tickPadding(6);
    const g = select(ref.current).call(hours);
    g.select('.domain').remove();
    // Beside its line, as a clock is read along a ruler.
    g.selectAll('text').attr('text-anchor', 'start').attr('dx', 2);
    g.attr('font-family', null).attr('font-size', null);
  }, [axis, epochMs]);
  return <g ref={ref} transform={`translate(0 ${CLOCKS_PX})`} className="fill-base-content text-[15px]" />;
}
