import { type Design, type Guide, linesOf, marksOf, type PipedLine, type Section, sectionsOf, type WetMark } from '@kestfog/core/design';
import type { SurfaceState } from '@kestfog/core/drying';
import { boundingBox, pathData, polylineData } from '@kestfog/core/geometry';
import type { CookieLook, LaidFlood } from '@kestfog/core/planning';
import { damOf, USUAL_TIPS } from '@kestfog/core/steps';
import { memo, useId, useMemo } from 'react';
import { useFloodShape } from './flood-shape.js';

interface Props {
  readonly design: Design;
  readonly look: CookieLook;
  /** parts of the step at hand, drawn with an apricot edge */
  readonly lit?: readonly string[];
  readonly className?: string;
  /** px for each millimetre, so that cookies side by side keep their true proportions */
  readonly pxPerMm?: number;
  /** as tall as a thumb or less: shapes and shine, without the shades nobody sees at that size */
  readonly small?: boolean;
  readonly label: string;
}

const RIM_MM = 1.2;
/** Depth of a plump flood; the picture's lights are drawn for it. */
const USUAL_DEPTH_MM = 2.5;
/** Opacity of the highlight on each finish that has one. */
const SHINE: Readonly<Partial<Record<SurfaceState, number>>> = { wet: 0.85, thickening: 0.7, skinned: 0.6 };

/** A cookie drawn from its own geometry; the finish of each surface tells its state. Drawn anew only where it looks different. */
export const Cookie = memo(Drawn, (was, is) =>
  (Object.keys({ ...was, ...is }) as (keyof Props)[]).every(
    (k) => was[k] === is[k] || ((k === 'look' || k === 'lit') && JSON.stringify(was[k]) === JSON.stringify(is[k])),
  ),
);

function Drawn({ design, look, lit = [], className, pxPerMm, label, small = false }: Props) {
  const id = useId();
  const shapes = useMemo(
    () => ({
      box: boundingBox(design.cookie.flat()),
      cookie: pathData(design.cookie),
    }),
    [design],
  );
  const { box } = shapes;
  const marks = new Set(look.marks);
  const pad = 2;
  return (
    <svg
      className={className}
      viewBox={`${box.minX - pad} ${box.minY - pad} ${box.maxX - box.minX + 2 * pad} ${box.maxY - box.minY + 2 * pad}`}
      {...(pxPerMm === undefined ? {} : { width: (box.maxX - box.minX + 2 * pad) * pxPerMm, height: (box.maxY - box.minY + 2 * pad) * pxPerMm })}
      role="img"
      aria-label={label}
    >
      <path d={shapes.cookie} fill="var(--biscuit)" stroke="var(--biscuit-rim)" strokeWidth={RIM_MM} />
      {design.parts.map((part) => {
        switch (part.role) {
          case 'section':
            return (
              <Flood
                key={part.id}
                section={part}
                laid={look.laid?.[part.id]}
                state={look.sections[part.id]}
                isLit={lit.includes(part.id)}
                clipId={`${id}-${part.id}`}
                thumb={small}
              />
            );
          case 'mark':
            return marks.has(part.id) ? <Mark key={part.id} mark={part} /> : null;
          case 'guide':
            return look.lines[part.id] ? <GuideLine key={part.id} guide={part} isLit={lit.includes(part.id)} /> : null;
          default:
            return look.lines[part.id] ? <Detail key={part.id} line={part} state={look.lines[part.id] as SurfaceState} isLit={lit.includes(part.id)} /> : null;
        }
      })}
    </svg>
  );
}

interface FloodProps {
  readonly section: Section;
  readonly laid: LaidFlood | undefined;
  readonly state: SurfaceState | undefined;
  readonly isLit: boolean;
  readonly clipId: string;
  readonly thumb: boolean;
}

/** A flood with the finish of its state; one that is next but not there yet is dashed. */
function Flood({ section, laid, state, isLit, clipId, thumb }: FloodProps) {
  const { d, box: b } = useFloodShape(section, laid?.edgeMm ?? 0);
  if (!state) return isLit ? <path d={d} fill="none" stroke="var(--color-primary)" strokeWidth="1.2" strokeDasharray="2 1.4" /> : null;
  const clip = clipId.replace(/[^\w-]/g, '_');
  const [w, h] = [b.maxX - b.minX, b.maxY - b.minY];
  const shine = `M${b.minX + 0.14 * w} ${b.minY + 0.55 * h}Q${b.minX + 0.17 * w} ${b.minY + 0.2 * h} ${b.minX + 0.6 * w} ${b.minY + 0.17 * h}`;
  const small = Math.min(w, h);
  const dam = laid?.damColour != null && laid.damColour !== section.colour ? laid.damColour : undefined;
  // The fuller it is, the broader the light and the shade along its edge.
  const full = (laid?.depthMm ?? USUAL_DEPTH_MM) / USUAL_DEPTH_MM;
  if (thumb)
    return (
      <g className={`finish-${state}`}>
        <path d={d} fill={section.colour} stroke={isLit ? 'var(--color-primary)' : (dam ?? '#000')} strokeOpacity={isLit || dam ? 1 : 0.2} strokeWidth="1.2" />
        {state !== 'dry' && SHINE[state] !== undefined && (
          <path d={shine} fill="none" stroke="#fff" strokeLinecap="round" strokeOpacity={SHINE[state]} strokeWidth={small * 0.1} />
        )}
      </g>
    );
  return (
    <g className={`finish-${state}`}>
      <clipPath id={clip}>
        <path d={d} />
      </clipPath>
      <path d={d} fill={section.colour} />
      <g clipPath={`url(#${clip})`}>
        <path d={d} fill="none" stroke="#000" strokeOpacity={state === 'dry' ? 0.12 : 0.22} strokeWidth={1.1 * full} />
        {state !== 'dry' && <path d={d} fill="none" stroke="#fff" strokeOpacity="0.28" strokeWidth={1.2 * full} transform="translate(0.7 0.7)" />}
        {SHINE[state] !== undefined && (
          <path
            className="finish-shine"
            d={shine}
            strokeOpacity={SHINE[state]}
            strokeWidth={small * (state === 'wet' ? 0.13 : 0.09)}
            strokeDasharray={state === 'skinned' ? `${small * 0.12} ${small * 0.22}` : undefined}
          />
        )}
        {state === 'crusted' && <path className="finish-shine" d={shine} strokeOpacity="0.26" strokeWidth={small * 0.4} />}
        {state === 'set' && <path d={d} fill="url(#finish-matte)" />}
        {state === 'firm' && <path d={d} fill="url(#finish-grain)" />}
      </g>
      {dam && <path d={d} fill="none" stroke={dam} strokeWidth={laid?.damMm} strokeLinejoin="round" />}
      {isLit && <path d={d} fill="none" stroke="var(--color-primary)" strokeWidth="1.4" />}
    </g>
  );
}

/** A wet mark; a drag is shown by its way, since only the wet preview knows what it does. */
function Mark({ mark: m }: { readonly mark: WetMark }) {
  const d = m.closed ? pathData([m.points]) : polylineData(m.points);
  switch (m.technique) {
    case 'wet-line':
      return <path d={d} fill="none" stroke={m.colour} strokeWidth={m.widthMm} strokeLinecap="round" strokeLinejoin="round" />;
    case 'drag':
      return <path d={d} fill="none" stroke={m.colour} strokeOpacity="0.55" strokeWidth={m.widthMm} strokeDasharray="4 1.5" />;
    case 'sprinkle':
      return (
        <g>
          <path d={d} fill={m.colour} fillOpacity="0.35" />
          <path d={d} fill="url(#finish-sugar)" />
        </g>
      );
    case 'lay-in':
      return <path d={d} fill={m.colour} stroke="#000" strokeOpacity="0.3" strokeWidth="0.5" />;
    default:
      return <path d={d} fill={m.colour} />;
  }
}

/** What the hands follow: a thin line that is there to be covered. */
function GuideLine({ guide, isLit }: { readonly guide: Guide; readonly isLit: boolean }) {
  const d = polylineData(guide.points) + (guide.closed ? 'Z' : '');
  return (
    <path
      d={d}
      fill="none"
      stroke={isLit ? 'var(--color-primary)' : guide.colour}
      strokeWidth={isLit ? 1 : 0.5}
      strokeDasharray={guide.kind === 'projected' ? '0.6 1.2' : '2 1'}
      strokeLinecap="round"
    />
  );
}

interface DetailProps {
  readonly line: PipedLine;
  readonly state: SurfaceState;
  readonly isLit: boolean;
}

/** What is done on the icing: beads with their shine, pen lines flat, areas each in its own texture. */
function Detail({ line: l, state, isLit }: DetailProps) {
  const d = l.area ? pathData([l.points, ...(l.holes ?? [])]) : polylineData(l.points) + (l.closed ? 'Z' : '');
  const edge = isLit && (
    <path
      d={d}
      fill="none"
      stroke="var(--color-primary)"
      strokeOpacity="0.9"
      strokeWidth={l.area ? 1.4 : l.widthMm + 1.6}
      className={l.area ? '' : 'mix-blend-multiply'}
    />
  );
  if (l.technique === 'crackle') {
    return (
      <g>
        <path d={d} fill="url(#finish-crackle)" fillRule="evenodd" />
        {edge}
      </g>
    );
  }
  if (l.area) {
    const soft = l.technique === 'airbrush' || l.technique === 'dust' || l.technique === 'paint';
    const raised = !soft && l.technique !== 'wafer';
    return (
      <g>
        <path d={d} fill={l.colour} fillOpacity={soft ? 0.42 : 1} fillRule="evenodd" />
        {raised && <path d={d} fill="none" stroke="#000" strokeOpacity="0.28" strokeWidth="0.6" />}
        {edge}
      </g>
    );
  }
  const bead = l.technique !== 'pen' && l.technique !== 'trace';
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      <path d={d} stroke={l.colour} strokeWidth={l.widthMm} strokeOpacity={l.technique === 'airbrush' || l.technique === 'dust' ? 0.45 : 1} />
      {l.technique === 'dipped-bead' && <path d={d} stroke="#fff" strokeWidth={l.widthMm} strokeDasharray="0.3 0.7" strokeOpacity="0.8" />}
      {bead && state !== 'dry' && (
        <path d={d} stroke="#fff" strokeOpacity="0.35" strokeWidth={l.widthMm * 0.25} transform={`translate(0 ${-l.widthMm * 0.18})`} />
      )}
      {edge}
    </g>
  );
}

/** Everything on and dry: how the design looks in the box. */
export function finishedLook(design: Design): CookieLook {
  return {
    sections: Object.fromEntries(sectionsOf(design).map((s) => [s.id, 'dry' as const])),
    lines: Object.fromEntries(linesOf(design).map((l) => [l.id, 'dry' as const])),
    marks: marksOf(design).map((m) => m.id),
    laid: Object.fromEntries(
      sectionsOf(design).map((s): [string, LaidFlood] => {
        const dam = damOf(s, USUAL_TIPS);
        return [
          s.id,
          { depthMm: s.depthMm, edgeMm: s.words?.edgeMm ?? 0, damMm: dam.opening.openingMm * dam.rings, damColour: dam.rings > 0 ? dam.colour : null },
        ];
      }),
    ),
  };
}
