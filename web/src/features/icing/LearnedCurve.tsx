import { THINNING_PRIOR, type ThinningCurve } from '@kestfog/core/calibration';
import { REFERENCE_WATER_FRAC } from '@kestfog/core/icing';
import { msg } from '@kestfog/core/words';
import { scaleLinear, scaleLog } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useCounting } from '../../app/counting.js';
import { msgNodes } from '../../ui/msg-nodes.js';

const [W, H] = [520, 240];
const PAD = { left: 56, right: 90, top: 12, bottom: 36 };
const WATER = [0.18, 0.19, 0.2, 0.21, 0.22, 0.23, 0.24, 0.25, 0.26];
const Z_90 = 1.2816;

/** The book's thinning line with its doubt, and the recipe's own beside it. */
export function LearnedCurve({ curve, tests }: { readonly curve: ThinningCurve; readonly tests: number }) {
  const counting = useCounting();
  const x = scaleLinear([0.18, 0.26], [PAD.left, W - PAD.right]);
  const y = scaleLog([1.5, 240], [H - PAD.bottom, PAD.top]).clamp(true);
  const at = (c: ThinningCurve, w: number, z = 0) =>
    Math.exp(c.offset - c.slope * (w - REFERENCE_WATER_FRAC) + z * c.sdSlope * Math.abs(w - REFERENCE_WATER_FRAC));
  const band = (c: ThinningCurve) =>
    area<number>()
      .x((w) => x(w))
      .y0((w) => y(at(c, w, -Z_90)))
      .y1((w) => y(at(c, w, Z_90)))(WATER) ?? '';
  const median = (c: ThinningCurve) =>
    line<number>()
      .x((w) => x(w))
      .y((w) => y(at(c, w)))(WATER) ?? '';
  return (
    <div className="mt-2">
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full max-w-xl"
        role="img"
        aria-label={msg`Count against water: the book’s line and the recipe’s own`}
      >
        {[2, 5, 15, 40, 120].map((s) => (
          <g key={s}>
            <line x1={PAD.left} x2={W - PAD.right} y1={y(s)} y2={y(s)} stroke="var(--color-base-300)" />
            <text x={PAD.left - 8} y={y(s) + 5} textAnchor="end" className="fill-base-content text-[14px]">
              {counting.text(s)}
            </text>
          </g>
        ))}
        {[0.18, 0.2, 0.22, 0.24, 0.26].map((w) => (
          <text key={w} x={x(w)} y={H - PAD.bottom + 22} textAnchor="middle" className="fill-base-content text-[14px]">
            {msgNodes`${Math.round(w * 100)} % water`}
          </text>
        ))}
        <path d={band(THINNING_PRIOR)} fill="var(--color-secondary)" fillOpacity="0.16" />
        <path d={median(THINNING_PRIOR)} fill="none" stroke="var(--color-secondary)" strokeWidth="2" strokeDasharray="6 5" />
        <text x={W - PAD.right + 6} y={y(at(THINNING_PRIOR, 0.26)) + (tests > 0 ? 20 : 5)} className="fill-base-content text-[14px]">
          {msg`book`}
        </text>
        {tests > 0 && (
          <>
            <path d={band(curve)} fill="var(--color-primary)" fillOpacity="0.3" />
            <path d={median(curve)} fill="none" stroke="var(--color-base-content)" strokeWidth="2.5" />
            <text x={W - PAD.right + 6} y={y(at(curve, 0.26)) + 2} className="fill-base-content text-[14px] font-semibold">
              {msg`yours`}
            </text>
          </>
        )}
      </svg>
      <p className="mt-1">
        {msg`The logarithm of the count falls in a straight line with the share of water: ln s = ln 15 − k (w − 0.225). The book’s k of 55
          ± 15 is assumed; every weighed step of your own recipe (so much water, counted before and after) moves it and narrows the doubt.
            Until then an amount may be a third off, so count again before the rest goes in.`}
      </p>
    </div>
  );
}
