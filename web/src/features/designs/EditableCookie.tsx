import { type Design, linesOf, marksOf, sectionsOf } from '@kestfog/core/design';
import { type Point, pathData, polylineData } from '@kestfog/core/geometry';
import type { CookieLook } from '@kestfog/core/planning';
import { memo, useRef } from 'react';
import { Cookie } from '../../ui/Cookie.js';
import { cookieFrame } from '../../ui/cookie-frame.js';
import type { WetMotion } from '../../workers/picture.worker.js';

interface Props {
  readonly design: Design;
  readonly look: CookieLook;
  readonly lit: readonly string[];
  /** its wet pool so many motions on */
  readonly motion: WetMotion | null;
  /** points picked on the cookie so far, for the size */
  readonly picked: readonly Point[];
  readonly onPart: (part: string) => void;
  readonly onPoint: ((p: Point) => void) | null;
  /** what lies over it while something is piped */
  readonly children?: React.ReactNode;
}

/** The cookie at true proportions; touching a part selects it, or a place is picked for its size. */
export const EditableCookie = memo(function EditableCookie({ design, look, lit, motion, picked, onPart, onPoint, children }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { box, viewBox } = cookieFrame(design);
  const place = (clientX: number, clientY: number) => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return;
    const p = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse());
    onPoint?.({ x: p.x, y: p.y });
  };
  return (
    <div className="relative layer-of-its-own">
      <Cookie
        design={design}
        look={look}
        motion={motion}
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
        onPointerDown={(e) => onPoint && place(e.clientX, e.clientY)}
      >
        {!onPoint &&
          sectionsOf(design).map((s) => (
            <path key={s.id} d={pathData(s.shape)} fill="transparent" className="cursor-pointer" onPointerDown={() => onPart(s.id)} data-part-id={s.id} />
          ))}
        {!onPoint &&
          marksOf(design).map((m) => (
            <path
              key={m.id}
              d={m.closed ? pathData([m.points]) : polylineData(m.points)}
              fill={m.closed ? 'transparent' : 'none'}
              stroke="transparent"
              strokeWidth={Math.max(2.5, m.widthMm)}
              className="cursor-pointer"
              onPointerDown={() => onPart(m.id)}
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
              className="cursor-pointer"
              onPointerDown={() => onPart(l.id)}
            />
          ))}
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
