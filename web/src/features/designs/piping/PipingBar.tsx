import {
  type BorderId,
  borderAlong,
  borders,
  type Design,
  type DesignEdit,
  LEAST_HEIGHT_PER_BEAD,
  lettered,
  repeated,
  type Symmetry,
  weave,
} from '@kestfog/core/design';
import { boundingBox, type Point } from '@kestfog/core/geometry';
import { BadInput } from '@kestfog/core/units';
import { useEffect, useState } from 'react';
import { useUnits } from '../../../app/units.js';
import { millimetres } from '../../../text/amounts.js';
import { NumberField, readNumber } from '../../../ui/NumberField.js';
import { insetRings } from './edge.js';
import { faceNamed, faceNames } from './faces.js';
import { circle } from './PipingSurface.js';
import { type ToolId, toolById, tools } from './tools.js';

export interface Piping {
  readonly toolId: ToolId | 'letters' | null;
  readonly widthMm: number;
  readonly colour: string;
  readonly symmetry: Symmetry;
}

interface Props {
  readonly design: Design;
  readonly piping: Piping;
  readonly palette: readonly string[];
  /** the flood chosen in the stack, for what goes round its edge or all over it */
  readonly sectionId: string | null;
  readonly cost: string;
  readonly onPiping: (piping: Piping) => void;
  readonly onEdit: (...edits: DesignEdit[]) => void;
  readonly onSay: (text: string) => void;
}

/** One operation holds so many strokes. */
const MOST_STROKES = 600;

let made = 0;
export const freshId = (what: string) => `${what}-${Date.now().toString(36)}${(made++).toString(36)}`;

/** The edit that makes a part of strokes a tool has drawn. */
export function drawEdit({ toolId, widthMm, colour }: Piping, strokes: readonly (readonly Point[])[], closed: boolean): DesignEdit | null {
  if (toolId === null || toolId === 'letters') return null;
  const tool = toolById(toolId);
  const isDots = tool.lead === 'dots';
  if (tool.woven) {
    const woven = weave(strokes, widthMm).strokes;
    if (woven.length === 0) return null;
    return {
      type: 'draw',
      id: freshId(tool.id),
      name: tool.label,
      technique: tool.technique,
      strokes: woven.slice(0, MOST_STROKES),
      area: false,
      layer: false,
      colour,
      widthMm,
    };
  }
  return {
    type: 'draw',
    id: freshId(tool.id),
    name: tool.label,
    technique: tool.technique,
    // A dot of piping is a bead with no length; a wet drop has an edge of its own.
    strokes: strokes.map((s) =>
      isDots && tool.technique === 'wet-drop'
        ? { points: circle(s[0] as Point, widthMm), closed: true }
        : isDots
          ? { points: [s[0] as Point, { x: (s[0] as Point).x + 0.02, y: (s[0] as Point).y }], closed: false }
          : { points: [...s], closed },
    ),
    area: tool.lead === 'area',
    layer: tool.layer === true,
    colour,
    widthMm,
  };
}

const SYMMETRIES = [
  { id: 'none', label: 'once', symmetry: { way: 'none' } },
  { id: 'mirror', label: 'left and right', symmetry: { way: 'mirror' } },
  ...[2, 3, 4, 5, 6, 8, 10, 12].map((times) => ({ id: `turn-${times}`, label: `${times} times around`, symmetry: { way: 'turn', times } as Symmetry })),
] as const satisfies readonly { id: string; label: string; symmetry: Symmetry }[];

/** What is piped next: the tool by what it does, how broad, in which icing, and how often it is repeated. */
export function PipingBar({ design, piping, palette, sectionId, cost, onPiping, onEdit, onSay }: Props) {
  const [units] = useUnits();
  const us = units === 'us';
  const perMm = us ? 1 / 25.4 : 1;
  const show = (mm: number) => (us ? (mm * perMm).toFixed(3) : String(mm));
  const [text, setText] = useState(show(piping.widthMm));
  const [borderId, setBorderId] = useState<BorderId | 'line'>('line');
  const tool = piping.toolId === null || piping.toolId === 'letters' ? null : toolById(piping.toolId);
  const [least, most] = tool?.widths ?? [0.5, 6];
  const typed = readNumber(text, least * perMm, most * perMm, 'The breadth', us ? 'in' : 'mm');
  const section = design.parts.find((p) => p.role === 'section' && p.id === sectionId);
  const pick = (toolId: Piping['toolId']) => {
    const widthMm = toolId === null ? piping.widthMm : toolId === 'letters' ? 1 : toolById(toolId).widthMm;
    setText(show(widthMm));
    setBorderId(toolId === 'dots' ? 'dots' : 'line');
    onPiping({ ...piping, toolId: piping.toolId === toolId ? null : toolId, widthMm });
  };
  // Where a border would run, so that its pieces can be told before it is piped.
  const [edge, setEdge] = useState<readonly (readonly Point[])[]>([]);
  const isAlong = tool !== null && section?.role === 'section' && (tool.lead === 'stroke' || tool.id === 'dots');
  useEffect(() => {
    if (!isAlong || section?.role !== 'section') return setEdge([]);
    let isStale = false;
    void insetRings(section.shape, piping.widthMm / 2 + 0.4).then((rings) => !isStale && setEdge(rings));
    return () => {
      isStale = true;
    };
  }, [section, isAlong, piping.widthMm]);
  const border = isAlong && borderId !== 'line' ? edge.map((ring) => borderAlong(ring, borderId, piping.widthMm)) : null;
  const pieces = border?.reduce((sum, b) => sum + b.pieces, 0) ?? 0;
  const overAll = (way: 'edge' | 'whole') => {
    if (!tool || section?.role !== 'section') return;
    if (way === 'edge' && border && pieces > 0)
      return onEdit({
        type: 'draw',
        id: freshId('border'),
        name: borders.find((b) => b.id === borderId)?.label ?? 'border',
        technique: tool.technique,
        strokes: border.flatMap((b) => b.strokes).slice(0, MOST_STROKES),
        area: false,
        layer: false,
        colour: piping.colour,
        // A scallop, a zigzag or a rope is piped with a bead finer than it is broad.
        widthMm: borderId === 'dots' || borderId === 'pearls' || borderId === 'teardrops' ? piping.widthMm : piping.widthMm * 0.45,
      });
    const rings = way === 'whole' ? section.shape : edge;
    const edit = rings.length > 0 ? drawEdit(piping, rings, true) : null;
    if (edit) onEdit(edit);
    else onSay('That part has no room for a line of this breadth round its edge: choose a finer one.');
  };
  const symmetryId = SYMMETRIES.find((s) => JSON.stringify(s.symmetry) === JSON.stringify(piping.symmetry))?.id ?? 'none';
  return (
    <fieldset className="grid gap-2" aria-label="Pipe on it">
      <div className="flex flex-wrap gap-1.5">
        {[...tools.map((t) => ({ id: t.id as Piping['toolId'], label: t.label })), { id: 'letters' as const, label: 'letters' }].map((t) => (
          <button
            key={t.id}
            type="button"
            className={`btn btn-sm min-h-11 ${piping.toolId === t.id ? 'btn-neutral' : ''}`}
            aria-pressed={piping.toolId === t.id}
            onClick={() => pick(t.id)}
          >
            {t.label}
          </button>
        ))}
      </div>
      {piping.toolId !== null && (
        <div className="flex flex-wrap gap-3 items-end text-lg">
          <NumberField
            small
            label={`${tool?.lead === 'dots' ? 'dot' : tool?.lead === 'area' ? 'round, by a tap' : 'breadth'}, ${us ? 'in' : 'mm'}`}
            text={text}
            typed={typed}
            onText={(v) => {
              setText(v);
              const read = readNumber(v, least * perMm, most * perMm, 'The breadth', us ? 'in' : 'mm');
              if ('value' in read) onPiping({ ...piping, widthMm: read.value / perMm });
            }}
          />
          <label className="grid gap-1">
            colour
            <input
              type="color"
              aria-label="colour to pipe"
              list="piping-colours"
              className="w-12 h-11 rounded-field border border-base-300"
              value={piping.colour}
              onChange={(e) => onPiping({ ...piping, colour: e.target.value })}
            />
          </label>
          <datalist id="piping-colours">
            {palette.map((c) => (
              <option key={c} value={c} />
            ))}
          </datalist>
          <label className="grid gap-1">
            repeated
            <select
              className="select"
              value={symmetryId}
              onChange={(e) => onPiping({ ...piping, symmetry: SYMMETRIES.find((s) => s.id === e.target.value)?.symmetry ?? { way: 'none' } })}
            >
              {SYMMETRIES.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.label}
                </option>
              ))}
            </select>
          </label>
          {isAlong && section && (
            <label className="grid gap-1">
              round an edge
              <select className="select" value={borderId} onChange={(e) => setBorderId(e.target.value as typeof borderId)}>
                {tool?.lead === 'stroke' && <option value="line">a plain line</option>}
                {borders.map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.label}
                  </option>
                ))}
              </select>
            </label>
          )}
          {isAlong && section && (
            <button type="button" className="btn" onClick={() => overAll('edge')}>
              Round the edge of {section.name}
              {pieces > 0 && `: ${pieces} pieces`}
            </button>
          )}
          {tool && section && tool.lead === 'area' && !tool.layer && tool.technique !== 'flood' && (
            <button type="button" className="btn" onClick={() => overAll('whole')}>
              All over {section.name}
            </button>
          )}
        </div>
      )}
      {piping.toolId === 'letters' && <Letters design={design} piping={piping} onEdit={onEdit} />}
      {piping.toolId !== null && piping.toolId !== 'letters' && (
        <p className="text-base opacity-85 min-h-6" role="status">
          {cost ||
            (tool?.lead === 'area'
              ? 'Draw round it on the cookie, or tap for a round one.'
              : tool?.lead === 'dots'
                ? 'Tap for each, or draw a row.'
                : tool?.lead === 'pull'
                  ? 'Press where the scribe goes in, lift where it leaves.'
                  : 'Draw it on the cookie.')}
        </p>
      )}
    </fieldset>
  );
}

/** Words typed, in a face whose letters are single beads, straight or on an arc. */
function Letters({ design, piping, onEdit }: { readonly design: Design; readonly piping: Piping; readonly onEdit: (...edits: DesignEdit[]) => void }) {
  const [units] = useUnits();
  const us = units === 'us';
  const perMm = us ? 1 / 25.4 : 1;
  const box = boundingBox(design.cookie.flat());
  const [words, setWords] = useState('');
  const [face, setFace] = useState<string>(faceNames[0]);
  const [height, setHeight] = useState(us ? '0.32' : '8');
  const [bend, setBend] = useState('0');
  const [below, setBelow] = useState('50');
  const [problem, setProblem] = useState<string | null>(null);
  const typedHeight = readNumber(height, 2 * perMm, 60 * perMm, 'The height', us ? 'in' : 'mm');
  const heightMm = 'value' in typedHeight ? typedHeight.value / perMm : null;
  const bendDeg = readNumber(bend, -180, 180, 'The arc', 'degrees');
  const downPct = readNumber(below, 0, 100, 'The place', '%');
  const least = LEAST_HEIGHT_PER_BEAD * piping.widthMm;
  const put = async () => {
    if (heightMm === null || !('value' in bendDeg) || !('value' in downPct)) return;
    try {
      const middle = { x: (box.minX + box.maxX) / 2, y: box.minY + ((box.maxY - box.minY) * downPct.value) / 100 };
      const read = await faceNamed(face);
      const straight = lettered(read, { text: words, heightMm, middle, arcMm: null });
      const xs = straight.flat().map((p) => p.x);
      const lengthMm = Math.max(...xs) - Math.min(...xs);
      const strokes = bendDeg.value === 0 ? straight : lettered(read, { text: words, heightMm, middle, arcMm: lengthMm / ((bendDeg.value * Math.PI) / 180) });
      setProblem(null);
      const all = strokes.flatMap((s) =>
        piping.symmetry.way === 'turn' ? repeated(s, piping.symmetry, { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 }) : [s],
      );
      onEdit({
        type: 'draw',
        id: freshId('letters'),
        name: words.trim().slice(0, 60),
        technique: 'lettering',
        strokes: all.map((points) => ({ points, closed: false })),
        area: false,
        layer: false,
        colour: piping.colour,
        widthMm: piping.widthMm,
        spells: words.trim().slice(0, 60),
      });
    } catch (error) {
      setProblem(error instanceof BadInput ? error.message : 'The face could not be fetched: try again when the network is back.');
    }
  };
  return (
    <div className="flex flex-wrap gap-3 items-end text-lg">
      <label className="grid gap-1">
        words
        <input className="input w-48" maxLength={60} value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <label className="grid gap-1">
        face
        <select className="select" value={face} onChange={(e) => setFace(e.target.value)}>
          {faceNames.map((f) => (
            <option key={f} value={f}>
              {f}
            </option>
          ))}
        </select>
      </label>
      <NumberField small label={`capitals, ${us ? 'in' : 'mm'}`} text={height} typed={typedHeight} onText={setHeight} />
      <NumberField small label="arc, °" text={bend} typed={bendDeg} onText={setBend} />
      <NumberField small label="down, %" text={below} typed={downPct} onText={setBelow} />
      <button
        type="button"
        className="btn"
        disabled={words.trim() === '' || heightMm === null || !('value' in bendDeg && 'value' in downPct)}
        onClick={() => void put()}
      >
        Pipe the words
      </button>
      {heightMm !== null && heightMm < least && (
        <p role="status" className="w-full text-base">
          {millimetres(least, units)} is the least for a bead of {millimetres(piping.widthMm, units)}: smaller letters run into themselves.
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
