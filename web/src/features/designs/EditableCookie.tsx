import { type Design, footprintOf, linesOf, marksOf, type PipedLine, type Section, sectionsOf, type WetMark } from '@kestfog/core/design';
import { type Point, pathData, polylineData } from '@kestfog/core/geometry';
import type { Flaw, WetMotion } from '@kestfog/core/picture';
import type { CookieLook } from '@kestfog/core/planning';
import { msg } from '@kestfog/core/words';
import { memo, useMemo, useRef } from 'react';
import { Cookie } from '../../ui/Cookie.js';
import { cookieFrame } from '../../ui/cookie-frame.js';
import { placeIn } from '../../ui/place-in.js';
import { useSteady } from '../../ui/use-steady.js';

interface Props {
  readonly design: Design;
  /** the design as it is painted: that of a moment ago, until what follows from the last edit is worked out */
  readonly shown?: Design;
  readonly look: CookieLook;
  /** everything is on it; what is new is shown before it is painted */
  readonly isWhole?: boolean;
  readonly lit: readonly string[];
  /** what goes along when those are dragged: all layers of a pattern, whichever is lit */
  readonly taken?: readonly string[];
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

/** Where a part is touched; wider than a fine line, so that a finger finds it. */
const Touched = memo(function Touched({
  part,
  isHeld,
  onPress,
}: {
  readonly part: Section | WetMark | PipedLine;
  readonly isHeld: boolean;
  readonly onPress: (e: React.PointerEvent, id: string) => void;
}) {
  const isArea = part.role === 'section' || (part.role === 'mark' ? part.closed : part.area === true);
  const reachMm = part.role === 'section' ? undefined : Math.max(part.role === 'mark' ? 2.5 : 3, part.widthMm);
  const way = part.role === 'section' ? pathData(part.shape) : polylineData(part.points) + (part.closed ? 'Z' : '');
  return (
    <path
      d={way}
      fill={isArea ? 'transparent' : 'none'}
      {...(reachMm === undefined ? {} : { stroke: 'transparent', strokeWidth: reachMm })}
      className={isHeld ? 'cursor-move touch-none' : 'cursor-pointer'}
      onPointerDown={(e) => onPress(e, part.id)}
      {...(part.role === 'section' ? { 'data-part-id': part.id } : {})}
    />
  );
});

/** The cookie at true proportions; touching a part selects it, or a place is picked for its size. */
export const EditableCookie = memo(function EditableCookie({
  design,
  shown = design,
  look,
  isWhole = true,
  lit,
  taken = lit,
  motion,
  flaws = NO_FLAWS,
  picked,
  onPart,
  onPoint,
  onDrag,
  children,
}: Props) {
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
  const onPress = useSteady(press);
  // Floods lie lowest, what is piped on them above, whatever the order of the stack.
  const touched = useMemo(() => [...sectionsOf(design), ...marksOf(design), ...linesOf(design)], [design]);
  return (
    <div className="relative layer-of-its-own">
      <Cookie
        design={shown}
        now={isWhole ? design : null}
        look={look}
        motion={motion}
        flaws={flaws}
        lit={lit}
        className="w-full max-h-[25rem]"
        label={msg`${design.name}, ${(box.maxX - box.minX).toFixed(0)} mm wide`}
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
        {!onPoint && touched.map((p) => <Touched key={p.id} part={p} isHeld={onDrag !== null && lit.includes(p.id)} onPress={onPress} />)}
        {onDrag && (
          <g ref={ghost} visibility="hidden" fill="var(--color-primary)" fillOpacity="0.2" stroke="var(--color-primary)" strokeWidth="0.5">
            {design.parts
              .filter((p) => taken.includes(p.id))
              .map((p) => (
                <path key={p.id} d={pathData(footprintOf(p))} />
              ))}
          </g>
        )}
        {picked.map((p) => (
          <circle
            key={`${p.x} ${p.y}`}
            cx={p.x}
            cy={p.y}
            r="1.4"
            fill="var(--color-primary)"
            stroke="var(--color-base-content)"
            strokeWidth="0.4"
          />
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
