import type { VisitAccount } from '@kestfog/core/notebook';
import { msg } from '@kestfog/core/words';
import { useMemo } from 'react';
import { clockTime, dayClock } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { useWidth } from '../../ui/use-width.js';
import { foldedAxisOf } from '../rack/time-axis.js';

const ROW = 46;
const BAR = 14;
const TOP = 26;
const NAME_PX = 34;
/** An idle stretch of so long goes over a night, s. */
const NIGHT_S = 6 * 3600;

/** Two bars a visit, tray by tray: above as planned, below as it was. */
export function RunChart({ visits }: { readonly visits: readonly VisitAccount[] }) {
  const [box, width] = useWidth<HTMLDivElement>();
  const trays = useMemo(() => [...new Set(visits.map((v) => v.trayId))].sort(), [visits]);
  const axis = useMemo(() => {
    const spans = visits.flatMap((v) => [
      { startS: v.plannedStartS, endS: v.plannedEndS },
      ...(v.begunS !== null && v.doneS !== null ? [{ startS: v.begunS, endS: v.doneS }] : []),
    ]);
    return foldedAxisOf(spans, (a, b) => b - a > NIGHT_S, Math.max(320, width - NAME_PX));
  }, [visits, width]);
  const x = (s: number) => NAME_PX + axis.scale(s);
  const height = TOP + trays.length * ROW;
  return (
    <div ref={box} className="overflow-x-auto">
      <svg
        width={axis.width + NAME_PX}
        height={height}
        role="img"
        aria-label={msg`Every visit as planned and as it was, tray by tray; in words in the table of visits`}
        className="block"
      >
        {axis.ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={TOP - 4} y2={height} stroke="currentColor" strokeOpacity="0.15" />
            <text x={x(t) + 2} y={14} fontSize="13" fill="currentColor" className="clock">
              {clockTime(t * 1000)}
            </text>
          </g>
        ))}
        {axis.folds.map((f) => (
          <g key={f.fromS}>
            <rect
              x={x(f.fromS)}
              width={x(f.toS) - x(f.fromS)}
              y={TOP - 4}
              height={height - TOP + 4}
              fill="currentColor"
              fillOpacity="0.06"
            />
            <text x={(x(f.fromS) + x(f.toS)) / 2} y={height - 4} fontSize="12" textAnchor="middle" fill="currentColor" fillOpacity="0.75">
              {f.night ? msg`night` : msg`drying`}
            </text>
          </g>
        ))}
        {trays.map((id, i) => (
          <g key={id}>
            <text x={4} y={TOP + i * ROW + 24} fontSize="20" fontWeight="600" fill="currentColor">
              {id}
            </text>
            {visits
              .filter((v) => v.trayId === id)
              .map((v) => (
                <Visit key={v.taskId} v={v} x={x} y={TOP + i * ROW + 3} />
              ))}
          </g>
        ))}
      </svg>
      <p className="text-base opacity-85 flex flex-wrap gap-x-6 gap-y-1 mt-1">
        <span className="flex items-center gap-2">
          {msgNodes`${<span className="inline-block w-8 h-3 border-2 border-current" />} as planned`}
        </span>
        <span className="flex items-center gap-2">{msgNodes`${<span className="inline-block w-8 h-3 bg-current" />} as it was`}</span>
        <span className="flex items-center gap-2">
          {msgNodes`${<span className="inline-block w-8 h-3 bg-current opacity-35" />} nobody saw it begin`}
        </span>
      </p>
    </div>
  );
}

function Visit({ v, x, y }: { readonly v: VisitAccount; readonly x: (s: number) => number; readonly y: number }) {
  const wide = (from: number, to: number) => Math.max(3, x(to) - x(from));
  const realFrom = v.begunS ?? (v.doneS === null ? null : v.doneS - (v.plannedEndS - v.plannedStartS));
  return (
    <g>
      <title>{msg`${v.title}: planned ${dayClock(v.plannedStartS * 1000)}${
        v.doneS === null
          ? msg`, not done`
          : msg`, done
        ${dayClock(v.doneS * 1000)}`
      }`}</title>
      <rect
        x={x(v.plannedStartS)}
        y={y}
        width={wide(v.plannedStartS, v.plannedEndS)}
        height={BAR}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.5"
      />
      {realFrom !== null && v.doneS !== null && (
        <rect
          x={x(realFrom)}
          y={y + BAR + 3}
          width={wide(realFrom, v.doneS)}
          height={BAR}
          fill="currentColor"
          fillOpacity={v.begunS === null ? 0.35 : 0.85}
        />
      )}
    </g>
  );
}
