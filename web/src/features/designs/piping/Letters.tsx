import {
  type Design,
  type DesignEdit,
  type DetailTechnique,
  LEAST_HEIGHT_PER_BEAD,
  lettered,
  narrowestMm,
  type PipedLine,
  repeated,
  type Section,
  type SectionTechnique,
  type WritingPlace,
} from '@kestfog/core/design';
import { areaMm2, offset } from '@kestfog/core/geometry';
import { NARROWEST_MM } from '@kestfog/core/tracing';
import { BadInput } from '@kestfog/core/units';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useUnits } from '../../../app/units.js';
import { millimetres } from '../../../text/amounts.js';
import { cookieFrame } from '../../../ui/cookie-frame.js';
import { msgNodes } from '../../../ui/msg-nodes.js';
import { NumberField, readNumber } from '../../../ui/NumberField.js';
import { useLength } from '../../../ui/use-length.js';
import { freshId } from '../fresh-id.js';
import { type FaceName, faceNamed, faceNames, kindOfFace } from './faces.js';
import type { Piping } from './tools.js';

interface Props {
  readonly design: Design;
  readonly piping: Piping;
  /** what is chosen in the stack: words can follow its edge, or its line */
  readonly chosen: Section | PipedLine | null;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

/**
 * Ways of doing letters that are areas: the technique, whether it lies on top as a flood, and the narrowest that comes out, mm; for a
 * stencil and a raised letter *assumed*, half of a flood's and three quarters.
 */
const AS = {
  flooded: { technique: 'flood', layer: true, leastMm: NARROWEST_MM },
  stencilled: { technique: 'stencil', layer: false, leastMm: NARROWEST_MM / 2 },
  raised: { technique: 'relief', layer: false, leastMm: (NARROWEST_MM * 3) / 4 },
} as const satisfies Readonly<Record<string, { technique: SectionTechnique | DetailTechnique; layer: boolean; leastMm: number }>>;
type As = keyof typeof AS;
/** Between a word and the edge it follows, mm: *assumed*. */
const OFF_THE_EDGE_MM = 1.5;

/** Words typed: beads in a face of strokes, or areas flooded, stencilled or raised; straight, on an arc, or along an edge. */
export function Letters({ design, piping, chosen, onEdit }: Props) {
  const [units] = useUnits();
  const { box, middle } = cookieFrame(design);
  const [words, setWords] = useState('');
  const [face, setFace] = useState<FaceName>(faceNames[0] as FaceName);
  const [as, setAs] = useState<As>('flooded');
  const [follows, setFollows] = useState(false);
  const height = useLength(8, [2, 60], msg`The height`);
  const [bend, setBend] = useState('0');
  const [below, setBelow] = useState('50');
  const [problem, setProblem] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const isFollowing = follows && chosen !== null;
  const bendDeg = readNumber(bend, -180, 180, msg`The arc`, msg`degrees`);
  const sharePct = readNumber(below, 0, 100, msg`The place`, '%');
  const isAreas = kindOfFace(face) === 'areas';
  const least = LEAST_HEIGHT_PER_BEAD * piping.widthMm;
  const good = words.trim() !== '' && height.mm !== null && 'value' in sharePct && (isFollowing || 'value' in bendDeg);
  const put = async () => {
    if (height.mm === null || !('value' in sharePct)) return;
    try {
      const share = sharePct.value / 100;
      const place: WritingPlace | null = isFollowing
        ? wayOf(chosen, height.mm, share)
        : { middle: { x: middle.x, y: box.minY + (box.maxY - box.minY) * share }, arcDeg: 'value' in bendDeg ? bendDeg.value : 0 };
      if (!place) return setProblem(msg`There is no room along that edge for capitals so high: make them lower.`);
      const letters = await faceNamed(face);
      const strokes = lettered(letters, { text: words, heightMm: height.mm, place }).flatMap((s) => repeated(s, piping.symmetry, middle));
      const narrow = narrowestMm(letters, words, height.mm);
      setProblem(null);
      setNote(
        isAreas && narrow < AS[as].leastMm
          ? msg`The letters are ${millimetres(narrow, units)} at their narrowest; ${millimetres(AS[as].leastMm, units)} is the least that
            is ${word(as)} well: make the capitals ${millimetres((height.mm * AS[as].leastMm) / narrow, units)}.`
          : null,
      );
      onEdit({
        type: 'draw',
        id: freshId('letters'),
        name: words.trim(),
        technique: isAreas ? AS[as].technique : 'lettering',
        strokes: strokes.map((points) => ({ points, closed: isAreas })),
        area: isAreas,
        layer: isAreas && AS[as].layer,
        colour: piping.colour,
        widthMm: piping.widthMm,
        spells: words.trim(),
      });
    } catch (error) {
      setProblem(error instanceof BadInput ? error.message : msg`The face could not be fetched: try again when the network is back.`);
    }
  };
  return (
    <div
      className="flex flex-wrap gap-3 items-end text-lg"
      role="group"
      aria-label={msg`What is written`}
      onKeyDown={(e) => e.key === 'Enter' && e.target instanceof HTMLInputElement && e.target.type === 'text' && good && void put()}
    >
      <label className="grid gap-1">
        {msg`words`}
        <input className="input w-48" data-piping="words" maxLength={60} value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <label className="grid gap-1">
        {msg`face`}
        <select className="select" value={face} onChange={(e) => setFace(e.target.value as FaceName)}>
          <optgroup label={msg`beads`}>
            {faceNames.map(
              (f) =>
                kindOfFace(f) === 'strokes' && (
                  <option key={f} value={f}>
                    {word(f)}
                  </option>
                ),
            )}
          </optgroup>
          <optgroup label={msg`areas`}>
            {faceNames.map(
              (f) =>
                kindOfFace(f) === 'areas' && (
                  <option key={f} value={f}>
                    {word(f)}
                  </option>
                ),
            )}
          </optgroup>
        </select>
      </label>
      <NumberField small label={msg`capitals, ${word(height.unit)}`} text={height.text} typed={height.typed} onText={height.onText} />
      <NumberField small label={isFollowing ? msg`along it, %` : msg`down, %`} text={below} typed={sharePct} onText={setBelow} />
      {!isFollowing && <NumberField small label={msg`arc, °`} text={bend} typed={bendDeg} onText={setBend} />}
      {chosen && (
        <label className="flex items-center gap-2 min-h-11">
          <input type="checkbox" className="checkbox" checked={follows} onChange={(e) => setFollows(e.target.checked)} />
          {msgNodes`along ${chosen.role === 'section' ? msg`the edge of ` : ''}${chosen.name}`}
        </label>
      )}
      {isAreas && (
        <label className="grid gap-1">
          {msg`as`}
          <select className="select" value={as} onChange={(e) => setAs(e.target.value as As)}>
            {Object.keys(AS).map((a) => (
              <option key={a} value={a}>
                {word(a as As)}
              </option>
            ))}
          </select>
        </label>
      )}
      <button type="button" className="btn" disabled={!good} onClick={() => void put()}>
        {isAreas ? msg`Lay the words` : msg`Pipe the words`}
      </button>
      {!isAreas && height.mm !== null && height.mm < least && (
        <p role="status" className="w-full text-base">
          {msgNodes`${millimetres(least, units)} is the least for a bead of ${millimetres(piping.widthMm, units)}: smaller letters run
            into themselves.`}
        </p>
      )}
      {note && (
        <p role="status" className="w-full text-base">
          {note}
        </p>
      )}
      {problem && (
        <p role="alert" className="w-full text-error font-medium">
          {problem}
        </p>
      )}
    </div>
  );
}

/** Where the middle of the letters runs: along a line, or inside an edge with a little air. */
function wayOf(chosen: Section | PipedLine, heightMm: number, share: number): WritingPlace | null {
  if (chosen.role === 'line' && !chosen.area) return { along: chosen.points, closed: chosen.closed, share };
  const shape = chosen.role === 'section' ? chosen.shape : [chosen.points, ...(chosen.holes ?? [])];
  const ring = offset(shape, -(heightMm / 2 + OFF_THE_EDGE_MM))
    .filter((r) => areaMm2([r]) > 0)
    .sort((a, b) => areaMm2([b]) - areaMm2([a]))[0];
  return ring ? { along: startedAtTop(ring), closed: true, share } : null;
}

/** A ring that begins at its top, so that a share of it is the same place on every shape. */
function startedAtTop<P extends { readonly y: number }>(ring: readonly P[]): readonly P[] {
  const top = ring.reduce((best, p, i) => (p.y < (ring[best] as P).y ? i : best), 0);
  return [...ring.slice(top), ...ring.slice(0, top)];
}
