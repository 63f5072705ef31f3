import { type Design, footprintOf, type Part, partById } from '@kestfog/core/design';
import type { SurfaceState } from '@kestfog/core/drying';
import { pathData } from '@kestfog/core/geometry';
import type { Flaw, Gleam, WetMotion } from '@kestfog/core/picture';
import type { CookieLook } from '@kestfog/core/planning';
import { memo, useContext, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { PictureAsk } from '../workers/picture.worker.js';
import { cookieFrame } from './cookie-frame.js';
import { usePicture } from './pictures.js';
import { Wiping } from './wiping.js';

interface Props {
  readonly design: Design;
  /** what is on it, or everything on in one state */
  readonly look: CookieLook | SurfaceState;
  /** parts of the step at hand, with a striped edge */
  readonly lit?: readonly string[];
  readonly className?: string;
  /** px for each millimetre, so that cookies side by side keep their true proportions */
  readonly pxPerMm?: number;
  /** a pool of wet icing so many motions on */
  readonly motion?: WetMotion | null;
  /** how far the highlights of what is wet lie aside */
  readonly gleam?: Gleam;
  /** what went wrong on it, or would */
  readonly flaws?: readonly Flaw[];
  /** the design as it is now, where that may be ahead of the picture: what is new is shown flat until it is painted */
  readonly now?: Design | null;
  readonly label: string;
}

/** A cookie painted from its heights; the finish of each surface tells its state. Painted anew only where it looks different. */
export const Cookie = memo(Drawn, (was, is) =>
  (Object.keys({ ...was, ...is }) as (keyof Props)[]).every(
    (k) =>
      was[k] === is[k] ||
      ((k === 'look' || k === 'lit' || k === 'motion' || k === 'flaws') && JSON.stringify(was[k]) === JSON.stringify(is[k])),
  ),
);

function Drawn({ design, look, lit = [], className, pxPerMm, label, motion = null, gleam = 0, flaws = [], now = null }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const {
    cookie,
    x,
    y,
    width: w,
    height: h,
    viewBox,
  } = useMemo(() => ({ ...cookieFrame(design), cookie: pathData(design.cookie) }), [design]);
  const cssPx = useShownWidth(svg, w / h);
  const wanted = useContext(Wiping);
  // Whether it shows on this cookie is found where it is painted; without a pull it never does.
  const wiping = wanted !== 'always' && design.parts.some((p) => p.role === 'mark' && p.technique === 'drag') ? wanted : undefined;
  const ask: PictureAsk = {
    look,
    // A motion that says how the scribe is wiped is shown so.
    ...(motion ? { motion: wiping && motion.wiping === undefined ? { ...motion, wiping } : motion } : {}),
    ...(flaws.length > 0 ? { flaws } : {}),
    ...(wiping ? { wiping } : {}),
    ...(gleam === 0 ? {} : { gleam }),
  };
  const { url, of, isCurrent } = usePicture(design, ask, cssPx);
  const fresh = now && of && now !== of ? notOn(of, now) : [];
  return (
    <svg
      ref={svg}
      className={className}
      viewBox={viewBox}
      {...(pxPerMm === undefined ? {} : { width: w * pxPerMm, height: h * pxPerMm })}
      role="img"
      aria-label={label}
      data-painted={isCurrent && (now === null || now === design)}
    >
      {url ? <image href={url} x={x} y={y} width={w} height={h} preserveAspectRatio="none" /> : <path d={cookie} fill="var(--biscuit)" />}
      {fresh.map((p) => (
        <path key={p.id} d={pathData(footprintOf(p))} fill={p.colour} fillRule="evenodd" data-fresh={p.id} />
      ))}
      {lit.length > 0 && <Edges design={design} lit={lit} isOn={(id) => typeof look === 'string' || look.sections[id] !== undefined} />}
    </svg>
  );
}

/** Parts that a picture of an earlier design does not have yet, or has in another colour. */
function notOn(of: Design, now: Design): readonly Part[] {
  return now.parts.filter((p) => p.role !== 'guide' && p.technique !== 'drag' && partById(of, p.id)?.colour !== p.colour);
}

/** Dark by day and by lamplight: icing keeps its colours in both. */
const SLATE = '#1d2a31';

/**
 * The edge of what is at hand: apricot dashes on slate, since a line of one colour could be a bead of that icing. With gaps
 * between where it is not there yet.
 */
function Edges({
  design,
  lit,
  isOn,
}: {
  readonly design: Design;
  readonly lit: readonly string[];
  readonly isOn: (section: string) => boolean;
}) {
  const own = new Set(lit);
  const edges = design.parts.flatMap((p) => {
    if (!own.has(p.id) || p.role === 'mark') return [];
    const way = pathData(p.role === 'section' ? p.shape : footprintOf(p));
    return [{ id: p.id, way, isThere: p.role === 'section' ? isOn(p.id) : p.role === 'line' }];
  });
  return (
    <g fill="none" strokeLinejoin="round">
      {edges.map(({ id, way, isThere }) => (
        <g key={id} data-lit={id}>
          <path d={way} stroke={SLATE} strokeWidth="1.1" strokeDasharray={isThere ? undefined : '3.2 1.6'} />
          <path d={way} stroke="var(--color-primary)" strokeWidth="0.65" strokeDasharray={isThere ? '1.6' : '1.6 3.2'} />
        </g>
      ))}
    </g>
  );
}

/** How wide the picture is on the screen, CSS pixels; 0 until it is laid out. */
function useShownWidth(svg: React.RefObject<SVGSVGElement | null>, ratio: number): number {
  const [px, setPx] = useState(0);
  useLayoutEffect(() => {
    const at = svg.current;
    if (!at || typeof ResizeObserver === 'undefined') return;
    const measure = () => {
      const box = at.getBoundingClientRect();
      // The cookie is fitted into its place: the narrower side says how wide it is.
      setPx(Math.min(box.width, box.height * ratio));
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(at);
    return () => watch.disconnect();
  }, [svg, ratio]);
  return px;
}
