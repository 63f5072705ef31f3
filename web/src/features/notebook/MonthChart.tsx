import { scaleLinear, scalePoint } from 'd3-scale';
import { format, parseISO } from 'date-fns';
import { useWidth } from '../../ui/use-width.js';

/** A month's value and the ends of what is believed of it, eight in ten. */
export interface MonthValue {
  readonly month: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly note: string;
}
interface Props {
  readonly label: string;
  readonly months: readonly MonthValue[];
  readonly text: (value: number) => string;
  /** what was assumed before anything was learned */
  readonly assumed: { readonly value: number; readonly label: string };
}
const HEIGHT = 260;
const LEFT = 70;
const BOTTOM = 34;
const TOP = 12;

/** Month after month: a dot for what is believed, a line for eight in ten. */
export function MonthChart({ label, months, text, assumed }: Props) {
  const [box, width] = useWidth<HTMLDivElement>();
  const right = Math.max(width, LEFT + 60);
  const x = scalePoint(
    months.map((m) => m.month),
    [LEFT, right - 20],
  ).padding(0.5);
  const y = scaleLinear(
    [Math.min(assumed.value, ...months.map((m) => m.least)), Math.max(assumed.value, ...months.map((m) => m.most))],
    [HEIGHT - BOTTOM, TOP],
  ).nice(5);
  return (
    <div ref={box} className="max-w-4xl">
      <svg width={right} height={HEIGHT} role="img" aria-label={`${label}: ${months.map((m) => `${m.month} ${text(m.value)}`).join(', ')}`}>
        {y.ticks(5).map((t) => (
          <g key={t}>
            <line x1={LEFT} x2={right} y1={y(t)} y2={y(t)} stroke="currentColor" strokeOpacity="0.15" />
            <text x={LEFT - 8} y={y(t) + 5} textAnchor="end" fontSize="14" fill="currentColor" className="clock">
              {text(t)}
            </text>
          </g>
        ))}
        <line
          x1={LEFT}
          x2={right}
          y1={y(assumed.value)}
          y2={y(assumed.value)}
          stroke="currentColor"
          strokeWidth="1.5"
          strokeDasharray="6 5"
        />
        <text x={right - 6} y={y(assumed.value) - 6} textAnchor="end" fontSize="14" fill="currentColor">
          {assumed.label}
        </text>
        {months.map((m) => (
          <g key={m.month}>
            <title>{m.note}</title>
            <line
              x1={x(m.month)}
              x2={x(m.month)}
              y1={y(m.least)}
              y2={y(m.most)}
              stroke="currentColor"
              strokeWidth="3"
              strokeLinecap="round"
            />
            <circle cx={x(m.month)} cy={y(m.value)} r="7" fill="currentColor" />
            <text x={x(m.month)} y={HEIGHT - 10} textAnchor="middle" fontSize="14" fill="currentColor">
              {format(parseISO(`${m.month}-01`), 'MMM yyyy')}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
