import { acrossStripes, belongs, bordersOf, type Design, type DesignEdit, footprintOf, middleOf, sectionsOf } from '@kestfog/core/design';
import { boundingBox, type Point } from '@kestfog/core/geometry';
import { msg } from '@kestfog/core/words';
import { useRef, useState } from 'react';
import { cookieFrame } from '../../ui/cookie-frame.js';
import { placeIn } from '../../ui/place-in.js';

type Divide = Extract<DesignEdit, { type: 'divide' }>;
interface Props {
  readonly design: Design;
  /** the division whose pieces are chosen, as it stands */
  readonly divided: Divide;
  readonly onEdit: (edit: DesignEdit) => void;
}

/** A piece keeps at least this share of the whole. */
const LEAST_SHARE = 0.02;
const KEY_STEP = 0.01;
/** A divider is taken hold of from so far to both its sides, mm. */
const HOLD_MM = 2.5;

/** The dividers of a striped flood, to be dragged: pieces take what is given them, and keep their names and colours. */
export function Dividers({ design, divided, onEdit }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<{ readonly i: number; readonly at: number } | null>(null);
  const { viewBox } = cookieFrame(design);
  const { division } = divided;
  const pieces = sectionsOf(design).filter((s) => belongs(s.id, divided.sectionId));
  if (division.way !== 'stripes' || pieces.length === 0) return null;
  const whole = pieces.flatMap((s) => footprintOf(s));
  const [from, to] = acrossStripes(whole, division.angleDeg);
  const a = (division.angleDeg * Math.PI) / 180;
  const [along, across] = [
    { x: Math.cos(a), y: Math.sin(a) },
    { x: -Math.sin(a), y: Math.cos(a) },
  ];
  const box = boundingBox(whole.flat());
  const middle = middleOf(box);
  const half = Math.hypot(box.maxX - box.minX, box.maxY - box.minY) / 2;
  const atMiddle = middle.x * along.x + middle.y * along.y;
  const borders = bordersOf(division);
  const placeOf = (share: number, t: number): Point => {
    const n = from + (to - from) * share;
    return { x: across.x * n + along.x * (atMiddle + t), y: across.y * n + along.y * (atMiddle + t) };
  };
  const within = (i: number, share: number) =>
    Math.max((borders[i - 1] as number) + LEAST_SHARE, Math.min((borders[i + 1] as number) - LEAST_SHARE, share));
  const give = (i: number, share: number) => {
    const next = borders.map((b, k) => (k === i ? within(i, share) : b));
    onEdit({
      type: 'divide-again',
      sectionId: divided.sectionId,
      division: { ...division, shares: next.slice(1).map((b, k) => b - (next[k] as number)) },
    });
  };
  const shareAt = (e: React.PointerEvent): number | null => {
    const p = placeIn(svg.current, e);
    return p && (p.x * across.x + p.y * across.y - from) / (to - from);
  };
  return (
    <svg ref={svg} viewBox={viewBox} className="absolute inset-0 w-full h-full pointer-events-none" aria-label={msg`Dividers`}>
      {borders.slice(1, -1).map((border, k) => {
        const i = k + 1;
        const share = dragged?.i === i ? dragged.at : border;
        const [p, q] = [placeOf(share, -half), placeOf(share, half)];
        return (
          <g key={i}>
            <line x1={p.x} y1={p.y} x2={q.x} y2={q.y} stroke="var(--color-base-content)" strokeWidth="0.4" strokeDasharray="2 1.2" />
            <circle
              cx={(p.x + q.x) / 2}
              cy={(p.y + q.y) / 2}
              r="1.8"
              fill="var(--color-base-100)"
              stroke="var(--color-base-content)"
              strokeWidth="0.5"
            />
            <polygon
              points={[
                [p, 1],
                [q, 1],
                [q, -1],
                [p, -1],
              ]
                .map(
                  ([end, side]) =>
                    `${(end as Point).x + across.x * (side as number) * HOLD_MM},${(end as Point).y + across.y * (side as number) * HOLD_MM}`,
                )
                .join(' ')}
              fill="transparent"
              className="cursor-move touch-none pointer-events-auto"
              role="slider"
              tabIndex={0}
              aria-label={msg`divider ${i} of ${borders.length - 2}`}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(share * 100)}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                setDragged({ i, at: border });
              }}
              onPointerMove={(e) => {
                const at = dragged?.i === i ? shareAt(e) : null;
                if (at !== null) setDragged({ i, at: within(i, at) });
              }}
              onPointerUp={() => {
                if (dragged && Math.abs(dragged.at - border) > 1e-3) give(i, dragged.at);
                setDragged(null);
              }}
              onPointerCancel={() => setDragged(null)}
              onKeyDown={(e) => {
                const by = { ArrowUp: -KEY_STEP, ArrowLeft: -KEY_STEP, ArrowDown: KEY_STEP, ArrowRight: KEY_STEP }[e.key];
                if (by === undefined) return;
                e.preventDefault();
                give(i, border + by);
              }}
            />
          </g>
        );
      })}
    </svg>
  );
}
