import { boundingBox, type CookieLook, type Design, pathData, polylineData, type SurfaceState } from '@kestfog/core';
import { useId, useMemo } from 'react';

interface Props {
  readonly design: Design;
  readonly look: CookieLook;
  /** parts of the step at hand, drawn with an apricot edge */
  readonly lit?: readonly string[];
  readonly className?: string;
  /** px for each millimetre, so that cookies side by side keep their true proportions */
  readonly pxPerMm?: number;
  readonly label: string;
}

const RIM_MM = 1.2;
/** Opacity of the highlight on each finish that has one. */
const SHINE: Readonly<Partial<Record<SurfaceState, number>>> = { wet: 0.85, thickening: 0.7, skinned: 0.6 };

/** A cookie drawn from its own geometry; the finish of each surface tells its state. */
export function Cookie({ design, look, lit = [], className, pxPerMm, label }: Props) {
  const id = useId();
  const shapes = useMemo(
    () => ({
      box: boundingBox(design.cookie.flat()),
      cookie: pathData(design.cookie),
      sections: design.sections.map((s) => ({ section: s, d: pathData(s.shape), box: boundingBox(s.shape.flat()) })),
    }),
    [design],
  );
  const { box } = shapes;
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
      {shapes.sections.map(({ section, d, box: b }, i) => {
        const state = look.sections[section.id];
        const isLit = lit.includes(section.id);
        if (!state) return isLit ? <path key={section.id} d={d} fill="none" stroke="var(--color-primary)" strokeWidth="1.2" strokeDasharray="2 1.4" /> : null;
        const clip = `${id}-${i}`;
        const [w, h] = [b.maxX - b.minX, b.maxY - b.minY];
        const shine = `M${b.minX + 0.14 * w} ${b.minY + 0.55 * h}Q${b.minX + 0.17 * w} ${b.minY + 0.2 * h} ${b.minX + 0.6 * w} ${b.minY + 0.17 * h}`;
        const small = Math.min(w, h);
        return (
          <g key={section.id} className={`finish-${state}`}>
            <clipPath id={clip}>
              <path d={d} />
            </clipPath>
            <path d={d} fill={section.colour} />
            <g clipPath={`url(#${clip})`}>
              <path d={d} fill="none" stroke="#000" strokeOpacity={state === 'dry' ? 0.12 : 0.22} strokeWidth="1.1" />
              {state !== 'dry' && <path d={d} fill="none" stroke="#fff" strokeOpacity="0.28" strokeWidth="1.2" transform="translate(0.7 0.7)" />}
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
            {isLit && <path d={d} fill="none" stroke="var(--color-primary)" strokeWidth="1.4" />}
          </g>
        );
      })}
      <Marks design={design} shown={look.marks} />
      <Details design={design} look={look} lit={lit} />
    </svg>
  );
}

/** Wet marks, the last on top; a drag is shown by its way, since only the wet preview knows what it does. */
function Marks({ design, shown }: { readonly design: Design; readonly shown: readonly string[] }) {
  const marks = design.marks.filter((m) => shown.includes(m.id));
  return (
    <>
      {marks.map((m) => {
        const d = m.closed ? pathData([m.points]) : polylineData(m.points);
        switch (m.technique) {
          case 'wet-line':
            return <path key={m.id} d={d} fill="none" stroke={m.colour} strokeWidth={m.widthMm} strokeLinecap="round" strokeLinejoin="round" />;
          case 'drag':
            return <path key={m.id} d={d} fill="none" stroke={m.colour} strokeOpacity="0.55" strokeWidth={m.widthMm} strokeDasharray="4 1.5" />;
          case 'sprinkle':
            return (
              <g key={m.id}>
                <path d={d} fill={m.colour} fillOpacity="0.35" />
                <path d={d} fill="url(#finish-sugar)" />
              </g>
            );
          case 'lay-in':
            return <path key={m.id} d={d} fill={m.colour} stroke="#000" strokeOpacity="0.3" strokeWidth="0.5" />;
          default:
            return <path key={m.id} d={d} fill={m.colour} />;
        }
      })}
    </>
  );
}

interface DetailsProps {
  readonly design: Design;
  readonly look: CookieLook;
  readonly lit: readonly string[];
}

/** What is done on the icing: beads with their shine, pen lines flat, areas each in its own texture. */
function Details({ design, look, lit }: DetailsProps) {
  return (
    <>
      {design.lines
        .filter((l) => look.lines[l.id])
        .map((l) => {
          const d = polylineData(l.points) + (l.closed ? 'Z' : '');
          const edge = lit.includes(l.id) && (
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
              <g key={l.id}>
                <path d={d} fill="url(#finish-crackle)" />
                {edge}
              </g>
            );
          }
          if (l.area) {
            const soft = l.technique === 'airbrush' || l.technique === 'dust' || l.technique === 'paint';
            const raised = l.technique === 'glued-transfer' || l.technique === 'assembly' || l.technique === 'stencil';
            return (
              <g key={l.id}>
                <path d={d} fill={l.colour} fillOpacity={soft ? 0.42 : 1} />
                {raised && <path d={d} fill="none" stroke="#000" strokeOpacity="0.28" strokeWidth="0.6" />}
                {edge}
              </g>
            );
          }
          const bead = l.technique !== 'pen' && l.technique !== 'trace';
          return (
            <g key={l.id} fill="none" strokeLinecap="round" strokeLinejoin="round">
              <path d={d} stroke={l.colour} strokeWidth={l.widthMm} strokeOpacity={l.technique === 'airbrush' || l.technique === 'dust' ? 0.45 : 1} />
              {l.technique === 'dipped-bead' && <path d={d} stroke="#fff" strokeWidth={l.widthMm} strokeDasharray="0.3 0.7" strokeOpacity="0.8" />}
              {bead && look.lines[l.id] !== 'dry' && (
                <path d={d} stroke="#fff" strokeOpacity="0.35" strokeWidth={l.widthMm * 0.25} transform={`translate(0 ${-l.widthMm * 0.18})`} />
              )}
              {edge}
            </g>
          );
        })}
    </>
  );
}

/** Everything on and dry: how the design looks in the box. */
export function finishedLook(design: Design): CookieLook {
  return {
    sections: Object.fromEntries(design.sections.map((s) => [s.id, 'dry' as const])),
    lines: Object.fromEntries(design.lines.map((l) => [l.id, 'dry' as const])),
    marks: design.marks.map((m) => m.id),
  };
}
