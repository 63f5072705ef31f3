import {
  type BorderId,
  borderAlong,
  borders,
  circleAt,
  type Design,
  type DesignEdit,
  dividedShape,
  type PipedLine,
  type Section,
  type Symmetry,
  sectionsOf,
  weave,
} from '@kestfog/core/design';
import { offset, type Point, polylineLengthMm, strokeInside } from '@kestfog/core/geometry';
import { msg } from '@kestfog/core/words';
import { useMemo, useState } from 'react';
import { msgNodes } from '../../../ui/msg-nodes.js';
import { NumberField } from '../../../ui/NumberField.js';
import { useLength } from '../../../ui/use-length.js';
import { freshId } from '../fresh-id.js';
import { paletteOf } from '../parts.js';
import { LayDesign } from './LayDesign.js';
import { Letters } from './Letters.js';
import { nextByLetter, reach } from './reach.js';
import { type StrokeWords, useStrokeWords } from './stroke-words.js';
import { isLed, KNIFE, MOST_STROKES, type PickedTool, type Piping, type Tool, toolById, tools } from './tools.js';

const HOW_TO = {
  cut: msg`Draw right across a flood: it is cut there.`,
  woven: msg`Draw round the place it fills.`,
  fill: msg`Draw round it on the cookie, or tap a place to fill it up to its edges.`,
  area: msg`Draw round it on the cookie, or tap for a round one.`,
  dots: msg`Tap for each, or draw a row.`,
  pull: msg`Press where the scribe goes in, lift where it leaves.`,
  line: msg`Draw it on the cookie.`,
} as const;

function howToOf(tool: Tool, { tap }: Piping): keyof typeof HOW_TO {
  if (tool === KNIFE) return 'cut';
  if (tool.woven) return 'woven';
  if (tool.lead === 'area') return tap === 'fill' ? 'fill' : 'area';
  return tool.lead === 'dots' || tool.lead === 'pull' ? tool.lead : 'line';
}

/** What the stroke in hand costs, or how one is drawn while there is none. */
function StrokeLine({ words, otherwise }: { readonly words: StrokeWords; readonly otherwise: string }) {
  return (
    <p className="text-base opacity-85 min-h-6" role="status">
      {useStrokeWords(words) || otherwise}
    </p>
  );
}

interface Props {
  readonly design: Design;
  readonly designId: string;
  readonly piping: Piping;
  readonly palette: readonly string[];
  /** the flood chosen in the stack, for what goes round its edge or all over it */
  readonly sectionId: string | null;
  /** the part chosen in the stack, where words can follow it */
  readonly followed: Section | PipedLine | null;
  /** what the stroke in hand costs */
  readonly words: StrokeWords;
  readonly onPiping: (piping: Piping) => void;
  readonly onEdit: (...edits: DesignEdit[]) => void;
  readonly onSay: (text: string) => void;
  readonly children?: React.ReactNode;
}

/** The edit that makes a part of what a tool has drawn, or why there is none. */
export function drawEdit(
  { toolId, widthMm, colour }: Piping,
  strokes: readonly (readonly Point[])[],
  closed: boolean,
): DesignEdit | string {
  if (!isLed(toolId)) return msg`Choose what is piped first.`;
  const tool = toolById(toolId);
  // A dot is a small area that is filled, by one touch.
  const isArea = (tool.lead === 'area' && !tool.woven) || tool.lead === 'dots';
  const made = tool.woven
    ? weave(strokes, widthMm).strokes
    : strokes.map((s) => (tool.lead === 'dots' ? { points: circleAt(s[0] as Point, widthMm), closed: true } : { points: [...s], closed }));
  if (made.length === 0)
    return tool.woven ? msg`There is no room for a weave: draw round a larger place, or choose a finer bar.` : msg`Nothing was drawn.`;
  if (made.length > MOST_STROKES)
    return msg`That would be ${made.length} strokes, and one part holds ${MOST_STROKES}: make them larger, or draw it in two parts.`;
  return {
    type: 'draw',
    id: freshId(tool.id),
    name: tool.label,
    technique: tool.technique,
    strokes: made,
    area: isArea,
    layer: tool.layer === true,
    colour,
    widthMm,
  };
}

/** The edit that parts the flood a cut goes through farthest, or why there is none. */
export function cutEdit(design: Design, stroke: readonly Point[]): DesignEdit | string {
  const through = sectionsOf(design)
    .map((s) => ({ s, mm: strokeInside(stroke, false, s.shape).reduce((sum, piece) => sum + polylineLengthMm(piece), 0) }))
    .sort((a, b) => b.mm - a.mm)[0];
  const division = { way: 'line', points: stroke } as const;
  if (!through || through.mm === 0 || dividedShape(through.s.shape, division).length < 2)
    return msg`That cuts nothing in two: draw it right across a flood.`;
  const { s } = through;
  const other = paletteOf(design).find((c) => c !== s.colour) ?? '#2e3a46';
  return { type: 'divide', sectionId: s.id, division, colours: [s.colour, other] };
}

const LETTERS = { id: 'letters', label: msg`letters` } as const;
const DESIGN = { id: 'design', label: msg`another design` } as const;
/** What letters begin with, and their least and most, mm. */
const LETTER_MM = 1;
const LETTER_WIDTHS = [0.5, 6] as const;
/** A line round an edge keeps so far off it, mm. */
const KEEP_OFF_MM = 0.4;
/** The bead of a border that swings to and fro, as a share of its breadth: *assumed*. */
const BEAD_SHARE = 0.45;

const SYMMETRIES = [
  { id: 'none', label: msg`once`, symmetry: { way: 'none' } },
  { id: 'mirror', label: msg`left and right`, symmetry: { way: 'mirror' } },
  ...[2, 3, 4, 5, 6, 8, 10, 12].map((times) => ({
    id: `turn-${times}`,
    label: msg`${times} times around`,
    symmetry: { way: 'turn', times } as Symmetry,
  })),
] as const satisfies readonly { id: string; label: string; symmetry: Symmetry }[];

const ALL_TOOLS = [...tools, LETTERS, DESIGN, KNIFE];

/**
 * What can be done to the cookie, by what is done. By keys: a letter goes to the next that begins with it, the arrows to its neighbours.
 */
export function Tools({ piping, onPiping }: Pick<Props, 'piping' | 'onPiping'>) {
  const pick = (toolId: PickedTool, byKey: boolean) => {
    const widthMm = isLed(toolId) ? toolById(toolId).widthMm : LETTER_MM;
    // Letters are not mirrored: nobody could read them.
    const symmetry: Symmetry = toolId === 'letters' && piping.symmetry.way === 'mirror' ? { way: 'none' } : piping.symmetry;
    const picked = piping.toolId === toolId ? null : toolId;
    onPiping({ ...piping, toolId: picked, widthMm, symmetry });
    // Whoever works by keys goes on where the tool is used, once that is there.
    if (byKey && picked !== null) setTimeout(() => reach(picked === 'letters' ? 'words' : picked === 'design' ? 'design' : 'surface'), 0);
  };
  const key = (e: React.KeyboardEvent<HTMLElement>) => {
    const buttons = [...e.currentTarget.querySelectorAll('button')];
    const at = buttons.indexOf(e.target as HTMLButtonElement);
    if (at < 0 || e.ctrlKey || e.metaKey || e.altKey) return;
    const to =
      e.key === 'ArrowRight'
        ? (at + 1) % buttons.length
        : e.key === 'ArrowLeft'
          ? (at + buttons.length - 1) % buttons.length
          : /^[a-z]$/i.test(e.key)
            ? nextByLetter(
                ALL_TOOLS.map((t) => t.label),
                at,
                e.key,
              )
            : -1;
    if (to < 0) return;
    buttons[to]?.focus();
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <fieldset className="flex flex-wrap gap-1.5" aria-label={msg`Pipe on it`} data-piping="tools" onKeyDown={key}>
      {ALL_TOOLS.map((t) => (
        <button
          key={t.id}
          type="button"
          className={`btn btn-sm min-h-11 px-2.5 ${piping.toolId === t.id ? 'btn-neutral' : ''}`}
          aria-pressed={piping.toolId === t.id}
          onClick={(e) => pick(t.id, e.detail === 0)}
        >
          {t.label}
        </button>
      ))}
    </fieldset>
  );
}

/** How the chosen tool pipes: how broad, in which icing, how often repeated, and what it costs. Made anew for each tool. */
export function PipingBar({ design, designId, piping, palette, sectionId, followed, words, onPiping, onEdit, onSay, children }: Props) {
  const [borderId, setBorderId] = useState<BorderId | 'line'>(piping.toolId === 'dots' ? 'dots' : 'line');
  const tool = isLed(piping.toolId) ? toolById(piping.toolId) : null;
  const breadth = useLength(piping.widthMm, tool?.widths ?? LETTER_WIDTHS, msg`The breadth`);
  const section = design.parts.find((p) => p.role === 'section' && p.id === sectionId);
  const isAlong = tool !== null && tool !== KNIFE && section?.role === 'section' && (tool.lead === 'stroke' || tool.id === 'dots');
  // Where a border would run, so that its pieces can be counted before it is piped.
  const edge = useMemo(
    () => (isAlong && section?.role === 'section' ? offset(section.shape, -(piping.widthMm / 2 + KEEP_OFF_MM)) : []),
    [isAlong, section, piping.widthMm],
  );
  const border = isAlong && borderId !== 'line' ? edge.map((ring) => borderAlong(ring, borderId, piping.widthMm)) : null;
  const pieces = border?.reduce((sum, b) => sum + b.pieces, 0) ?? 0;
  const give = (edit: DesignEdit | string) => (typeof edit === 'string' ? onSay(edit) : onEdit(edit));
  const alongEdge = () => {
    if (!tool) return;
    if (edge.length === 0) return onSay(msg`That part has no room for a line of this breadth round its edge: choose a finer one.`);
    if (!border) return give(drawEdit(piping, edge, true));
    const strokes = border.flatMap((b) => b.strokes);
    if (strokes.length > MOST_STROKES)
      return onSay(msg`That would be ${strokes.length} pieces, and one part holds ${MOST_STROKES}: make them larger.`);
    onEdit({
      type: 'draw',
      id: freshId('border'),
      name: borders.find((b) => b.id === borderId)?.label ?? 'border',
      technique: tool.technique,
      strokes,
      area: border.some((b) => b.filled),
      layer: false,
      colour: piping.colour,
      // A scallop, a zigzag or a rope is piped with a bead finer than it is broad; a teardrop is as broad as its bead.
      widthMm: borderId === 'teardrops' ? piping.widthMm : piping.widthMm * BEAD_SHARE,
    });
  };
  const symmetryId = SYMMETRIES.find((s) => JSON.stringify(s.symmetry) === JSON.stringify(piping.symmetry))?.id ?? 'none';
  return (
    <fieldset
      className="grid gap-2 border-b border-base-300 pb-4"
      aria-label={msg`How it is piped`}
      onKeyDown={(e) => e.key === 'Escape' && (reach('surface') || reach('tools')) && e.stopPropagation()}
    >
      {piping.toolId !== 'design' && tool !== KNIFE && (
        <div className="flex flex-wrap gap-3 items-end text-lg">
          <div data-piping="breadth">
            <NumberField
              small
              label={`${
                tool?.lead === 'dots'
                  ? msg`dot`
                  : tool?.lead === 'area' && !tool.woven
                    ? msg`round, by a
                tap`
                    : msg`breadth`
              }, ${breadth.unit}`}
              text={breadth.text}
              typed={breadth.typed}
              onText={(v) => {
                const mm = breadth.onText(v);
                if (mm !== null) onPiping({ ...piping, widthMm: mm });
              }}
            />
          </div>
          <label className="grid gap-1">
            {msg`colour`}
            <input
              type="color"
              data-piping="colour"
              aria-label={msg`colour to pipe`}
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
            {msg`repeated`}
            <select
              className="select"
              value={symmetryId}
              onChange={(e) =>
                onPiping({ ...piping, symmetry: SYMMETRIES.find((s) => s.id === e.target.value)?.symmetry ?? { way: 'none' } })
              }
            >
              {SYMMETRIES.filter((s) => piping.toolId !== 'letters' || s.id !== 'mirror').map((s) => (
                <option key={s.id} value={s.id}>
                  {s.label}
                </option>
              ))}
            </select>
          </label>
          {tool && (tool.lead === 'area' || tool.lead === 'stroke') && !tool.woven && (
            <label className="flex items-center gap-2 min-h-11">
              <input
                type="checkbox"
                className="checkbox"
                checked={piping.meets}
                onChange={(e) => onPiping({ ...piping, meets: e.target.checked })}
              />
              {tool.lead === 'area' ? msg`meets its neighbours` : msg`ends on edges`}
            </label>
          )}
          {tool?.lead === 'area' && !tool.woven && (
            <label className="grid gap-1">
              {msg`a tap makes`}
              <select className="select" value={piping.tap} onChange={(e) => onPiping({ ...piping, tap: e.target.value as Piping['tap'] })}>
                <option value="round">{msg`a round one`}</option>
                <option value="fill">{msg`all of the place it is in`}</option>
              </select>
            </label>
          )}
          {isAlong && section && (
            <label className="grid gap-1">
              {msg`round an edge`}
              <select className="select" value={borderId} onChange={(e) => setBorderId(e.target.value as typeof borderId)}>
                {tool?.lead === 'stroke' && <option value="line">{msg`a plain line`}</option>}
                {borders.map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.label}
                  </option>
                ))}
              </select>
            </label>
          )}
          {isAlong && section && (
            <button type="button" className="btn" data-piping="edge" onClick={alongEdge}>
              {msgNodes`Round the edge of ${section.name}${pieces > 0 && msg`: ${pieces} pieces`}`}
            </button>
          )}
          {tool && section && tool.lead === 'area' && !tool.layer && tool.technique !== 'flood' && (
            <button type="button" className="btn" onClick={() => section.role === 'section' && give(drawEdit(piping, section.shape, true))}>
              {msgNodes`All over ${section.name}`}
            </button>
          )}
        </div>
      )}
      {piping.toolId === 'letters' && <Letters design={design} piping={piping} chosen={followed} onEdit={onEdit} />}
      {piping.toolId === 'design' && <LayDesign design={design} designId={designId} onEdit={onEdit} />}
      {tool && <StrokeLine words={words} otherwise={HOW_TO[howToOf(tool, piping)]} />}
      {tool !== KNIFE && children}
    </fieldset>
  );
}
