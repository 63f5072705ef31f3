import { type Design, footprintOf, linesOf, marksOf, sectionsOf } from '@kestfog/core/design';
import { type Point, pathData, polylineData } from '@kestfog/core/geometry';
import type { Flaw } from '@kestfog/core/picture';
import type { CookieLook } from '@kestfog/core/planning';
import { memo, useRef } from 'react';
import { Cookie } from '../../ui/Cookie.js';
import { cookieFrame } from '../../ui/cookie-frame.js';
import { placeIn } from '../../ui/place-in.js';
import type { WetMotion } from '../../workers/picture.worker.js';

interface Props {
  readonly design: Design;
  readonly look: CookieLook;
  readonly lit: readonly string[];
  /** its wet pool so many motions on */
  readonly motion: WetMotion | null;
  /** what went wrong on it, or would */
  readonly flaws?: readonly Flaw[];
  /** points picked on the cookie so far, for the size */
  readonly picked: readonly Point[];
  readonly onPart: (part: string) => void;
  readonly onPoint: ((p: Point) => void) | null;
  /** the parts that are lit were dragged so far, mm; null where they cannot be */
  readonly onDrag: ((xMm: number, yMm: number) => void) | null;
  /** what lies over it while something is piped */
  readonly children?: React.ReactNode;
}

const NO_FLAWS: readonly Flaw[] = [];
/** Less than this is a tremble of the finger, mm. */
const DRAG_FROM_MM = 1.2;

/** The cookie at true proportions; touching a part selects it, or a place is picked for its size. */
export const EditableCookie = memo(function EditableCookie({ design, look, lit, motion, flaws = NO_FLAWS, picked, onPart, onPoint, onDrag, children }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { box, viewBox } = cookieFrame(design);
  const drag = useRef<{ readonly from: Point; by: Point | null } | null>(null);
  const ghost = useRef<SVGGElement>(null);
  const at = (e: React.PointerEvent) => placeIn(svg.current, e);
  /** A part that is lit already is taken along; any other is chosen first. */
  const press = (e: React.PointerEvent, id: string) => {
    if (!onDrag || e.button !== 0 || !lit.includes(id)) return onPart(id);
    const from = at(e);
    if (from) drag.current = { from, by: null };
    svg.current?.setPointerCapture(e.pointerId);
  };
  const follow = (e: React.PointerEvent) => {
    const going = drag.current;
    const p = going && at(e);
    if (!going || !p) return;
    const by = { x: p.x - going.from.x, y: p.y - going.from.y };
    if (!going.by && Math.hypot(by.x, by.y) < DRAG_FROM_MM) return;
    going.by = by;
    // Straight onto the page: what is dragged must not lag behind the finger.
    ghost.current?.setAttribute('transform', `translate(${by.x} ${by.y})`);
    ghost.current?.removeAttribute('visibility');
  };
  const drop = (kept: boolean) => {
    const by = drag.current?.by;
    drag.current = null;
    ghost.current?.setAttribute('visibility', 'hidden');
    if (by && kept) onDrag?.(by.x, by.y);
  };
  const held = (id: string) => (onDrag && lit.includes(id) ? 'cursor-move touch-none' : 'cursor-pointer');
  return (
    <div className="relative layer-of-its-own">
      <Cookie
        design={design}
        look={look}
        motion={motion}
        flaws={flaws}
        lit={lit}
        className="w-full max-h-[25rem]"
        label={`${design.name}, ${(box.maxX - box.minX).toFixed(0)} mm wide`}
      />
      {/* Touching is for pointers; the stack beside it does the same by keyboard. */}
      <svg
        ref={svg}
        viewBox={viewBox}
        className={`absolute inset-0 w-full h-full ${onPoint ? 'cursor-crosshair' : ''}`}
        aria-hidden="true"
        onPointerDown={(e) => {
          const p = onPoint && at(e);
          if (p) onPoint(p);
        }}
        onPointerMove={follow}
        onPointerUp={() => drop(true)}
        onPointerCancel={() => drop(false)}
      >
        {!onPoint &&
          sectionsOf(design).map((s) => (
            <path key={s.id} d={pathData(s.shape)} fill="transparent" className={held(s.id)} onPointerDown={(e) => press(e, s.id)} data-part-id={s.id} />
          ))}
        {!onPoint &&
          marksOf(design).map((m) => (
            <path
              key={m.id}
              d={m.closed ? pathData([m.points]) : polylineData(m.points)}
              fill={m.closed ? 'transparent' : 'none'}
              stroke="transparent"
              strokeWidth={Math.max(2.5, m.widthMm)}
              className={held(m.id)}
              onPointerDown={(e) => press(e, m.id)}
            />
          ))}
        {!onPoint &&
          linesOf(design).map((l) => (
            <path
              key={l.id}
              d={polylineData(l.points) + (l.closed ? 'Z' : '')}
              fill={l.area ? 'transparent' : 'none'}
              stroke="transparent"
              strokeWidth={Math.max(3, l.widthMm)}
              className={held(l.id)}
              onPointerDown={(e) => press(e, l.id)}
            />
          ))}
        {onDrag && (
          <g ref={ghost} visibility="hidden" fill="var(--color-primary)" fillOpacity="0.2" stroke="var(--color-primary)" strokeWidth="0.5">
            {design.parts
              .filter((p) => lit.includes(p.id))
              .map((p) => (
                <path key={p.id} d={pathData(footprintOf(p))} />
              ))}
          </g>
        )}
        {picked.map((p) => (
          <circle key={`${p.x} ${p.y}`} cx={p.x} cy={p.y} r="1.4" fill="var(--color-primary)" stroke="var(--color-base-content)" strokeWidth="0.4" />
        ))}
        {picked.length === 2 && picked[0] && picked[1] && (
          <line
            x1={picked[0].x}
            y1={picked[0].y}
            x2={picked[1].x}
            y2={picked[1].y}
            stroke="var(--color-base-content)"
            strokeWidth="0.5"
            strokeDasharray="2 1"
          />
        )}
      </svg>
      {children}
    </div>
  );
});
