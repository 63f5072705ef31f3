import type { DryingState, TimeToState } from '@kestfog/core/drying';
import { msg, word } from '@kestfog/core/words';
import { scaleLog } from 'd3-scale';
import { span } from '../../text/time.js';
import { useWidth } from '../../ui/use-width.js';
import { shownStates } from './curves.js';

const ROW = 44;
const PAD = { left: 112, right: 60, top: 8, bottom: 34 };
const TICKS_MIN = [1, 2, 5, 10, 20, 60, 120, 240, 480, 1440, 4320];

/** Each state's time on one clock that begins with the flooding: the bar holds eight in ten cookies, the stroke is the middle one. */
export function TimeStrip({ times }: { readonly times: Readonly<Record<DryingState, TimeToState>> }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const height = PAD.top + shownStates.length * ROW + PAD.bottom;
  const x = scaleLog([0.5, 4320], [PAD.left, Math.max(PAD.left + 100, width - PAD.right)]).clamp(true);
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={msg`Time from flooding to each state; the table below has the numbers`}
        >
          {TICKS_MIN.map((t) => (
            <g key={t}>
              <line x1={x(t)} x2={x(t)} y1={PAD.top} y2={height - PAD.bottom} stroke="var(--color-base-300)" />
              <text x={x(t)} y={height - 10} textAnchor="middle" className="fill-base-content text-[15px]">
                {t === 1 ? msg`1 min` : span(t * 60)}
              </text>
            </g>
          ))}
          {shownStates.map((s, i) => {
            const t = times[s];
            const y = PAD.top + i * ROW + ROW / 2;
            const at = (seconds: number | null) => x(seconds === null ? 4320 : seconds / 60);
            return (
              <g key={s}>
                <text x={PAD.left - 12} y={y + 5} textAnchor="end" className="fill-base-content text-[17px]">
                  {word(s)}
                </text>
                {t.p50 === null ? (
                  <text x={PAD.left + 8} y={y + 5} className="fill-base-content text-[17px]">
                    {msg`not in this air`}
                  </text>
                ) : (
                  <>
                    <rect
                      x={at(t.p10)}
                      width={Math.max(2, at(t.p90) - at(t.p10))}
                      y={y - 13}
                      height={26}
                      fill="var(--color-secondary)"
                      fillOpacity="0.22"
                    />
                    <line x1={at(t.p50)} x2={at(t.p50)} y1={y - 13} y2={y + 13} stroke="var(--color-base-content)" strokeWidth="3" />
                    {/* Wet work ends before thickening: a plan does not wait for it. */}
                    {s !== 'thickening' && (
                      <line x1={at(t.planned)} x2={at(t.planned)} y1={y - 17} y2={y + 17} stroke="var(--color-primary)" strokeWidth="4" />
                    )}
                  </>
                )}
              </g>
            );
          })}
        </svg>
      )}
      <p className="text-base opacity-85">{msg`Dark stroke: half of all cookies. Bar: eight in ten. Apricot: what a plan waits.`}</p>
    </div>
  );
}
