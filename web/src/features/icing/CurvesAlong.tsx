import type { Belief } from '@kestfog/core/drying';
import type { Kitchen } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { scaleLinear, scaleLog } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useMemo } from 'react';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { millimetres } from '../../text/amounts.js';
import { span } from '../../text/time.js';
import { useWidth } from '../../ui/use-width.js';
import { type Along, type CurvePoint, curvesAlong, type Question, RANGES, spread } from './curves.js';

const HEIGHT = 380;
const PAD = { left: 74, right: 92, top: 14, bottom: 46 };
const TICKS_MIN = [1, 2, 5, 10, 20, 60, 120, 240, 480, 1440, 4320];

interface Props {
  readonly question: Question;
  readonly along: Exclude<Along, 'time'>;
  readonly kitchen: Kitchen;
  readonly belief: Belief;
}

/** Time to each state along one quantity, with its band, everything else held. */
export function CurvesAlong({ question: q, along, kitchen, belief }: Props) {
  const [units] = useUnits();
  const counting = useCounting();
  const [ref, width] = useWidth<HTMLDivElement>();
  const curves = useMemo(() => curvesAlong(q, along, kitchen, belief), [q, along, kitchen, belief]);
  const x = scaleLinear([RANGES[along].from, RANGES[along].to], [PAD.left, Math.max(PAD.left + 100, width - PAD.right)]);
  const y = scaleLog([1, 4320], [HEIGHT - PAD.bottom, PAD.top]).clamp(true);
  const median = line<CurvePoint>(
    (p) => x(p.x),
    (p) => y(p.p50),
  );
  const band = area<CurvePoint>(
    (p) => x(p.x),
    (p) => y(p.p10),
    (p) => y(p.p90),
  );
  const labelYs = spread(
    curves.map((c) => y(c.points.at(-1)?.p50 ?? 1)),
    17,
  );
  const tick = (t: number) => (along === 'humidityPct' ? `${t} %` : along === 'depthMm' ? millimetres(t, units) : counting.text(t));
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          className="block"
          role="img"
          aria-label={msg`Time to each state along one quantity; the table below has the numbers`}
        >
          {TICKS_MIN.map((t) => (
            <g key={t}>
              <line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} stroke="var(--color-base-300)" />
              <text x={PAD.left - 8} y={y(t) + 5} textAnchor="end" className="fill-base-content text-[15px]">
                {t === 1 ? msg`1 min` : span(t * 60)}
              </text>
            </g>
          ))}
          {x.ticks(8).map((t) => (
            <text key={t} x={x(t)} y={HEIGHT - PAD.bottom + 24} textAnchor="middle" className="fill-base-content text-[15px]">
              {tick(t)}
            </text>
          ))}
          <line x1={x(q[along])} x2={x(q[along])} y1={PAD.top} y2={HEIGHT - PAD.bottom} stroke="var(--color-primary)" strokeWidth="3" />
          {curves.map((c, i) => {
            const end = c.points.at(-1);
            return (
              <g key={c.state}>
                <path d={band([...c.points]) ?? ''} fill="var(--color-secondary)" fillOpacity="0.16" />
                <path d={median([...c.points]) ?? ''} fill="none" stroke="var(--color-base-content)" strokeWidth="2" />
                {end && (
                  <text x={x(end.x) + 6} y={(labelYs[i] ?? 0) + 5} className="fill-base-content text-[15px]">
                    {word(c.state)}
                  </text>
                )}
              </g>
            );
          })}
        </svg>
      )}
    </div>
  );
}
