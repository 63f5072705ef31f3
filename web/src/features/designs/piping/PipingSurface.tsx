import {
  alongWay,
  circleAt,
  type Design,
  handStroke,
  leastSpacingMm,
  meetingEnds,
  meetingNeighbours,
  placeAround,
  repeated,
  straightened,
  woveMm,
} from '@kestfog/core/design';
import { areaMm2, type Point, polylineData, polylineLengthMm } from '@kestfog/core/geometry';
import { gramsOf } from '@kestfog/core/icing';
import { ASSUMED_PACE, type School, type StrokeMeasure, strokeCost } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { useRef, useState } from 'react';
import type { Units } from '../../../app/units.js';
import { grams } from '../../../text/amounts.js';
import { span } from '../../../text/time.js';
import { arrowStep } from '../../../ui/arrow-step.js';
import { cookieFrame } from '../../../ui/cookie-frame.js';
import { placeIn } from '../../../ui/place-in.js';
import { press, reach } from './reach.js';
import { KNIFE, type Piping, type Tool } from './tools.js';

interface Props {
  readonly design: Design;
  readonly tool: Tool;
  readonly piping: Piping;
  readonly units: Units;
  readonly school: School;
  /** a finished stroke, or the middles of dots */
  readonly onDone: (strokes: readonly (readonly Point[])[], closed: boolean) => void;
  readonly onCost: (text: string) => void;
  /** makes what the stroke would be if it were lifted now; null once nothing is drawn */
  readonly onTrial: (strokes: (() => readonly (readonly Point[])[]) | null, closed: boolean) => void;
  /** left and right alike, or once */
  readonly onMirror: () => void;
  /** why nothing was drawn */
  readonly onSay: (text: string) => void;
}

/** A tap is no longer than this, mm. */
const TAP_MM = 1.2;
/** Steps of the cursor by the arrow keys, mm. */
const STEP_MM = 0.5;
const FAR_STEP_MM = 4;
/** Dots' count where nobody said: piped details stand, wet drops run. */
const DOT_S = 15;
/** Dots of a row stand so far apart, in their diameters: *assumed*. */
const DOTS_APART = 1.25;
/** Less icing than this is not shown, g. */
const LEAST_G = 0.05;
const NEVER = { way: 'none' } as const;

/** The cookie under the hand: a stroke follows the pointer in the same frame, its copies with it, and becomes a part when it is lifted. */
export function PipingSurface({ design, tool, piping, units, school, onDone, onCost, onTrial, onMirror, onSay }: Props) {
  const { widthMm, meets, tap } = piping;
  // A cut is not repeated: its second half would cut something else.
  const symmetry = tool === KNIFE ? NEVER : piping.symmetry;
  const svg = useRef<SVGSVGElement>(null);
  const lines = useRef<SVGGElement>(null);
  const drawn = useRef<Point[]>([]);
  const [placed, setPlaced] = useState<readonly Point[]>([]);
  const { box, middle, viewBox } = cookieFrame(design);
  const [cursor, setCursor] = useState<Point | null>(null);

  const at = (e: { clientX: number; clientY: number }) => placeIn(svg.current, e);
  /** Straight onto the page, without waiting for anything else: the pen must not lag. */
  const show = (points: readonly Point[]) => {
    const copies = repeated(
      tool.lead === 'pull' && points.length > 1 ? [points[0] as Point, points.at(-1) as Point] : points,
      symmetry,
      middle,
    );
    const paths = [...(lines.current?.children ?? [])];
    for (const [i, path] of paths.entries())
      path.setAttribute('d', copies[i] ? polylineData(copies[i] as Point[]) + (tool.lead === 'area' && points.length > 3 ? 'Z' : '') : '');
    if (points.length === 0) onTrial(null, false);
    if (points.length === 0 || tool === KNIFE || tool.technique === 'guide') return onCost('');
    const soFar = [...points];
    onTrial(() => {
      const would = strokesOf(soFar);
      return typeof would === 'string' ? [] : would;
    }, tool.lead === 'area');
    const { seconds, ml } = strokeCost(tool.technique, measured(points, copies.length), school, ASSUMED_PACE);
    onCost(msg`about ${span(seconds)} a cookie${gramsOf(ml) >= LEAST_G ? `, ${grams(gramsOf(ml), units)}` : ''}`);
  };
  /** What is drawn so far, with its copies: areas by what they cover, dots by how many. */
  const measured = (points: readonly Point[], copies: number): StrokeMeasure => {
    const area = Math.abs(areaMm2([points])) * copies;
    if (tool.woven) return { lengthMm: woveMm(area, widthMm), areaMm2: 0, count: 1, widthMm };
    if (tool.lead === 'dots') {
      const count = Math.max(1, alongWay(points, apartMm()).length) * copies;
      return { lengthMm: count * Math.PI * widthMm, areaMm2: (count * Math.PI * widthMm * widthMm) / 4, count, widthMm };
    }
    const lengthMm = polylineLengthMm(points, tool.lead === 'area') * copies;
    return { lengthMm, areaMm2: tool.lead === 'area' ? area : 0, count: copies, widthMm };
  };
  const apartMm = () => (tool.technique === 'wet-drop' ? leastSpacingMm(widthMm, DOT_S) : widthMm * DOTS_APART);

  /** What the hand drew, made what it meant, with its copies; in words why it is nothing. */
  const strokesOf = (points: readonly Point[]): Point[][] | string => {
    const first = points[0];
    if (!first) return [];
    const last = points.at(-1) as Point;
    const isTap = polylineLengthMm(points) < TAP_MM;
    let strokes: Point[][];
    if (tool.lead === 'dots') strokes = (isTap ? [first] : alongWay(handStroke(points), apartMm())).map((p) => [p]);
    else if (tool.lead === 'pull') strokes = isTap ? [] : [[first, last]];
    else if (tool.lead === 'area' && isTap && !tool.woven && tap === 'fill') {
      const place = placeAround(design, first);
      if (!place) return msg`Nothing bounds that place: tap inside an outline or between floods, or draw round it.`;
      strokes = place.map((ring) => [...ring]);
    } else if (tool.lead === 'area') {
      const area = isTap && !tool.woven ? circleAt(first, widthMm) : handStroke(points, true);
      strokes = [meets && !isTap && !tool.woven ? [...meetingNeighbours(area, design)] : area];
    } else if (isTap) strokes = [];
    else if (tool === KNIFE) strokes = [straightened(handStroke(points))];
    else strokes = [meets ? meetingEnds(handStroke(points), design) : handStroke(points)];
    return strokes.flatMap((s) => repeated(s, symmetry, middle));
  };

  const finish = (points: readonly Point[]) => {
    drawn.current = [];
    setPlaced([]);
    show([]);
    const strokes = strokesOf(points);
    if (typeof strokes === 'string') onSay(strokes);
    else if (strokes.length > 0) onDone(strokes, tool.lead === 'area');
  };

  const key = (e: React.KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    const by = arrowStep(e, STEP_MM, FAR_STEP_MM);
    const here = cursor ?? middle;
    if (by)
      setCursor({
        x: Math.max(box.minX, Math.min(box.maxX, here.x + by.x)),
        y: Math.max(box.minY, Math.min(box.maxY, here.y + by.y)),
      });
    else if (/^[1-9]$/.test(e.key)) {
      // As on the pad of numbers: 7 is at the upper left, 5 in the middle.
      const [column, row] = [(Number(e.key) - 1) % 3, 2 - Math.floor((Number(e.key) - 1) / 3)];
      setCursor({ x: box.minX + ((column + 1) * (box.maxX - box.minX)) / 4, y: box.minY + ((row + 1) * (box.maxY - box.minY)) / 4 });
    } else if (e.key === 'm' && tool !== KNIFE) onMirror();
    else if (e.key === 'b' || e.key === 'k') reach(e.key === 'b' ? 'breadth' : 'colour');
    else if (e.key === 'e') press('edge');
    else if (e.key === 'Enter' || e.key === ' ') {
      const next = [...placed, here];
      const isRound = tool.lead === 'area' && !tool.woven && e.key === 'Enter' && placed.length === 0;
      const done =
        isRound ||
        tool.lead === 'dots' ||
        (tool.lead === 'pull' && next.length === 2) ||
        (e.key === 'Enter' && placed.length > 0 && samePlace(placed.at(-1), here));
      if (done) finish(tool.lead === 'area' && placed.length <= 1 ? [here] : next);
      else {
        setPlaced(next);
        show(next);
      }
      if (cursor === null) setCursor(here);
    } else if (e.key === 'Backspace' && placed.length > 0) {
      setPlaced(placed.slice(0, -1));
      show(placed.slice(0, -1));
    } else if (e.key === 'Escape' && placed.length > 0) finish([]);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const copies = symmetry.way === 'turn' ? symmetry.times : 2;
  return (
    <svg
      ref={svg}
      viewBox={viewBox}
      className="absolute inset-0 w-full h-full cursor-crosshair touch-none"
      role="application"
      tabIndex={0}
      aria-label={msg`The cookie, to pipe on: ${tool.label}. Arrows move, digits jump as on the pad of numbers, Space puts a point, Enter
        twice ends. M: left and right; B: breadth; K: colour; E: round the edge.`}
      data-piping="surface"
      onKeyDown={key}
      onPointerDown={(e) => {
        const p = at(e);
        if (!p || e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drawn.current = [p];
        show(drawn.current);
      }}
      onPointerMove={(e) => {
        if (drawn.current.length === 0) return;
        for (const one of e.nativeEvent.getCoalescedEvents?.() ?? [e.nativeEvent]) {
          const p = at(one);
          if (p) drawn.current.push(p);
        }
        show(drawn.current);
      }}
      onPointerUp={() => finish(drawn.current)}
      onPointerCancel={() => finish([])}
    >
      <g
        ref={lines}
        fill={tool.lead === 'area' ? 'var(--color-primary)' : 'none'}
        fillOpacity="0.25"
        stroke="var(--color-primary)"
        strokeWidth={tool.lead === 'area' ? 0.8 : Math.max(0.6, widthMm)}
        strokeLinecap="round"
        strokeLinejoin="round"
      >
        {[...Array(copies).keys()].map((i) => (
          <path key={i} d="" />
        ))}
      </g>
      {cursor && (
        <g stroke="var(--color-base-content)" strokeWidth="0.4" pointerEvents="none">
          <path d={`M${cursor.x - 3} ${cursor.y}H${cursor.x + 3}M${cursor.x} ${cursor.y - 3}V${cursor.y + 3}`} />
          {placed.map((p) => (
            <circle key={`${p.x} ${p.y}`} cx={p.x} cy={p.y} r="0.8" fill="var(--color-base-100)" />
          ))}
        </g>
      )}
    </svg>
  );
}

const samePlace = (a: Point | undefined, b: Point) => a !== undefined && Math.hypot(a.x - b.x, a.y - b.y) < 0.01;
