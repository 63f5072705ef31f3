import type { Design } from '@kestfog/core/design';
import { homography, type Point } from '@kestfog/core/geometry';
import { beamOf, type Light, lightsOf, type OnTable, SQUARE_MM } from '@kestfog/core/light';
import { msg } from '@kestfog/core/words';
import { useRef, useState } from 'react';
import { DragHandle } from '../../ui/DragHandle.js';
import { placeIn } from '../../ui/place-in.js';

/** The projector's picture is so many lights wide and high, whatever the window: corners are kept in it. */
export const PICTURE = { width: 1920, height: 1080 } as const;
/** Where the corners lie before anybody dragged them: a square in the middle of the picture. */
export const FIRST_CORNERS: readonly Point[] = [
  { x: 660, y: 240 },
  { x: 1260, y: 240 },
  { x: 1260, y: 840 },
  { x: 660, y: 840 },
];
const NAMES = [msg`upper left`, msg`upper right`, msg`lower right`, msg`lower left`] as const;

/** Where the simulated projector's picture falls on its table, mm: it stands askew, as they do. */
const FALLS: readonly Point[] = [
  { x: -150, y: -78 },
  { x: 138, y: -96 },
  { x: 162, y: 88 },
  { x: -132, y: 72 },
];
const CORNERS_OF_PICTURE: readonly Point[] = [
  { x: 0, y: 0 },
  { x: PICTURE.width, y: 0 },
  { x: PICTURE.width, y: PICTURE.height },
  { x: 0, y: PICTURE.height },
];
const TABLE = { x: -150, y: -100, width: 300, height: 200 } as const;

interface Props {
  readonly design: Design | null;
  /** the parts that are asked for; null for all of them */
  readonly parts: readonly string[] | null;
  readonly at: OnTable;
  readonly corners: readonly Point[];
  /** the corners can be dragged; null where they stay */
  readonly onCorners: ((corners: readonly Point[]) => void) | null;
  /** shown as it falls on a table, instead of as the projector's own picture */
  readonly simulated: boolean;
}

/** Lines of light on black; on the simulated table, what of them falls where. */
export function Beam({ design, parts, at, corners, onCorners, simulated }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const falls = homography(CORNERS_OF_PICTURE, FALLS);
  const seen = homography(FALLS, CORNERS_OF_PICTURE);
  const beam = beamOf(corners);
  // The projector's own picture is shown as it is; on the table each light is where it falls.
  const shown = (p: Point): Point => (simulated && falls ? falls(p) : p);
  const unit = simulated ? 0.4 : 3;
  const lights = design ? lightsOf(design, parts, at) : [];
  const dataOf = ({ ring, closed }: Light): string =>
    beam ? `M${ring.map((p) => pair(shown(beam(p)))).join('L')}${closed ? 'Z' : ''}` : '';
  const put = (i: number, p: Point) =>
    onCorners?.(corners.map((c, k) => (k === i ? { x: clamp(p.x, PICTURE.width), y: clamp(p.y, PICTURE.height) } : c)));
  const view = simulated ? `${TABLE.x} ${TABLE.y} ${TABLE.width} ${TABLE.height}` : `0 0 ${PICTURE.width} ${PICTURE.height}`;
  return (
    <svg
      ref={svg}
      viewBox={view}
      preserveAspectRatio="xMidYMid meet"
      className="absolute inset-0 w-full h-full bg-black touch-none"
      role="group"
      aria-label={simulated ? msg`The simulated table under the beam` : msg`What the projector throws`}
      onPointerMove={(e) => {
        const p = held === null ? null : placeIn(svg.current, e);
        if (held !== null && p) put(held, simulated && seen ? seen(p) : p);
      }}
      onPointerUp={() => setHeld(null)}
      onPointerCancel={() => setHeld(null)}
    >
      {simulated && (
        <g>
          <rect x={TABLE.x} y={TABLE.y} width={TABLE.width} height={TABLE.height} fill="#3b3127" />
          {falls && <path d={`M${CORNERS_OF_PICTURE.map((p) => pair(falls(p))).join('L')}Z`} fill="#4a4036" />}
          {/* The printed square lies where it lies: the lights are dragged onto it. */}
          <rect
            x={-SQUARE_MM / 2}
            y={-SQUARE_MM / 2}
            width={SQUARE_MM}
            height={SQUARE_MM}
            fill="#f4f1ea"
            stroke="#22343c"
            strokeWidth="0.4"
            data-printed="square"
          />
          {design && (
            <path
              d={lightsOf(design, [], at)
                .map((l) => `M${l.ring.map(pair).join('L')}Z`)
                .join('')}
              fill="#d9a566"
              fillOpacity="0.85"
            />
          )}
        </g>
      )}
      <g fill="none" strokeLinejoin="round" strokeLinecap="round">
        {lights.map((l, i) => (
          <path
            // Lights have no names of their own.
            key={`${l.of} ${i}`}
            d={dataOf(l)}
            stroke={l.of === 'cookie' ? '#8fb3c9' : '#ffffff'}
            strokeWidth={l.of === 'cookie' ? unit * 0.7 : unit}
            data-light={l.of}
          />
        ))}
        {onCorners && <path d={`M${corners.map((c) => pair(shown(c))).join('L')}Z`} stroke="#ffcf8a" strokeWidth={unit * 0.8} />}
      </g>
      {onCorners &&
        corners.map((c, i) => {
          const p = shown(c);
          return (
            <DragHandle
              key={NAMES[i]}
              at={p}
              radius={unit * 9}
              label={msg`${NAMES[i]} corner`}
              value={c}
              colour="#ffcf8a"
              fill="#ffcf8a"
              onHold={(e) => {
                svg.current?.setPointerCapture(e.pointerId);
                setHeld(i);
              }}
              onNudge={(by) => put(i, { x: c.x + by.x, y: c.y + by.y })}
            />
          );
        })}
    </svg>
  );
}

const pair = (p: Point): string => `${p.x.toFixed(3)} ${p.y.toFixed(3)}`;
const clamp = (v: number, most: number): number => Math.max(0, Math.min(most, v));
