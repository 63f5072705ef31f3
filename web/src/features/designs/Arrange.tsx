import {
  type Alignment,
  aligned,
  alignments,
  belongs,
  boxOfPart,
  type Design,
  type DesignEdit,
  distributed,
  type Matrix,
  middleOf,
  mirrorAbout,
  scaleAbout,
  shift,
  turnAbout,
  wholeOf,
} from '@kestfog/core/design';
import { msg, plural, word } from '@kestfog/core/words';
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, FlipVertical2, Minus, Plus, RotateCcw, RotateCw } from 'lucide-react';
import { useUnits } from '../../app/units.js';
import { millimetres } from '../../text/amounts.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField } from '../../ui/NumberField.js';
import { useLength } from '../../ui/use-length.js';
import { freshId } from './fresh-id.js';
import type { StackRow } from './parts.js';

interface Props {
  readonly design: Design;
  /** what is chosen, by name of the whole part; at least one */
  readonly rows: readonly StackRow[];
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

/** A nudge, a step in size and one of a turn. */
const NUDGE_MM = 0.5;
const FAR_MM = 4;
const LARGER = 1.05;
const TURN_DEG = 5;
/** A copy lies so far beside what it is of, mm: near enough to be seen as one. */
const BESIDE_MM = 3;
/** Usual gap round what is cut out, mm: *assumed*, none. */
const NO_GAP_MM = 0;

const NUDGES = [
  { name: 'left', key: 'ArrowLeft', Icon: ArrowLeft, by: [-1, 0] },
  { name: 'right', key: 'ArrowRight', Icon: ArrowRight, by: [1, 0] },
  { name: 'up', key: 'ArrowUp', Icon: ArrowUp, by: [0, -1] },
  { name: 'down', key: 'ArrowDown', Icon: ArrowDown, by: [0, 1] },
] as const;

/** Parts moved, sized, turned, brought in line, copied, joined and cut out of one another. */
export function Arrange({ design, rows, onEdit }: Props) {
  const [units] = useUnits();
  const gap = useLength(NO_GAP_MM, [0, 20], msg`The gap`);
  const ids = [...new Set(rows.map((r) => r.whole))];
  const boxes = ids.flatMap((id) => boxOfPart(design, id) ?? []);
  if (boxes.length === 0) return null;
  const middle = middleOf(wholeOf(boxes));
  const all = (matrix: Matrix) => onEdit({ type: 'arrange', moves: ids.map((part) => ({ part, matrix })) });
  const isArea = (id: string) => design.parts.some((p) => p.id === id && (p.role === 'section' || (p.role === 'line' && p.area === true)));
  const areas = ids.filter(isArea);
  const groups = new Set(ids.map((id) => design.parts.find((p) => belongs(p.id, id))?.group));
  const isGroup = groups.size === 1 && !groups.has(undefined);
  const together = (group: string) => onEdit(...ids.map((part): DesignEdit => ({ type: 'say', part, said: { group } })));
  const spread = (way: 'across' | 'down') => onEdit({ type: 'arrange', moves: distributed(design, ids, way) });
  const copy = () =>
    onEdit(...ids.map((part): DesignEdit => ({ type: 'copy', part, id: freshId('copy'), matrix: shift(BESIDE_MM, BESIDE_MM) })));
  const [first, ...others] = areas;
  return (
    <fieldset className="grid gap-2" aria-label={msg`Arrange`}>
      <legend className="text-lg pb-1">{rows.length === 1 ? msg`arrange ${rows[0]?.name}` : msg`arrange ${rows.length} parts`}</legend>
      <div
        role="toolbar"
        aria-label={msg`Move, size and turn; the arrow keys nudge by ${millimetres(NUDGE_MM, units)}, with Shift by
          ${millimetres(FAR_MM, units)}`}
        className="flex flex-wrap gap-1.5"
        onKeyDown={(e) => {
          const nudge = NUDGES.find((n) => n.key === e.key);
          if (!nudge) return;
          e.preventDefault();
          const mm = e.shiftKey ? FAR_MM : NUDGE_MM;
          all(shift(nudge.by[0] * mm, nudge.by[1] * mm));
        }}
      >
        {NUDGES.map(({ name, Icon, by }) => (
          <button
            key={name}
            type="button"
            className="btn btn-square"
            aria-label={msg`nudge ${word(name)}`}
            onClick={() => all(shift(by[0] * NUDGE_MM, by[1] * NUDGE_MM))}
          >
            <Icon aria-hidden size={18} />
          </button>
        ))}
        <button
          type="button"
          className="btn btn-square"
          aria-label={msg`smaller by 5 %`}
          onClick={() => all(scaleAbout(middle, 1 / LARGER))}
        >
          <Minus aria-hidden size={18} />
        </button>
        <button type="button" className="btn btn-square" aria-label={msg`larger by 5 %`} onClick={() => all(scaleAbout(middle, LARGER))}>
          <Plus aria-hidden size={18} />
        </button>
        <button
          type="button"
          className="btn btn-square"
          aria-label={msg`turn back by 5°`}
          onClick={() => all(turnAbout(middle, -TURN_DEG))}
        >
          <RotateCcw aria-hidden size={18} />
        </button>
        <button type="button" className="btn btn-square" aria-label={msg`turn on by 5°`} onClick={() => all(turnAbout(middle, TURN_DEG))}>
          <RotateCw aria-hidden size={18} />
        </button>
        <button type="button" className="btn btn-square" aria-label={msg`mirror left and right`} onClick={() => all(mirrorAbout(middle))}>
          <FlipVertical2 aria-hidden size={18} />
        </button>
      </div>
      <div className="flex flex-wrap gap-2 items-end text-lg">
        <label className="grid gap-1">
          {plural(rows.length, 'to the cookie’s', 'all to their')}
          <select
            className="select w-44"
            value=""
            onChange={(e) => onEdit({ type: 'arrange', moves: aligned(design, ids, e.target.value as Alignment) })}
          >
            <option value="" disabled>
              {msg`line up …`}
            </option>
            {alignments.map((to) => (
              <option key={to} value={to}>
                {word(to)}
              </option>
            ))}
          </select>
        </label>
        {rows.length >= 3 && (
          <>
            <button type="button" className="btn" onClick={() => spread('across')}>
              {msg`Even gaps across`}
            </button>
            <button type="button" className="btn" onClick={() => spread('down')}>
              {msg`Even gaps down`}
            </button>
          </>
        )}
        <button type="button" className="btn" onClick={copy}>
          {msg`Once more`}
        </button>
        {isGroup ? (
          <button type="button" className="btn" onClick={() => together('')}>
            {msg`Part the group`}
          </button>
        ) : (
          rows.length > 1 && (
            <button type="button" className="btn" onClick={() => together(freshId('group'))}>
              {msg`Keep together`}
            </button>
          )
        )}
        {first !== undefined && others.length > 0 && areas.length === rows.length && (
          <>
            <button type="button" className="btn" onClick={() => onEdit({ type: 'unite', parts: areas })}>
              {msg`Make one of them`}
            </button>
            <NumberField small label={msg`gap, ${word(gap.unit)}`} text={gap.text} typed={gap.typed} onText={(v) => void gap.onText(v)} />
            <button
              type="button"
              className="btn"
              disabled={gap.mm === null}
              onClick={() => gap.mm !== null && onEdit({ type: 'cut-out', part: first, by: others, gapMm: gap.mm })}
            >
              {msgNodes`Cut ${others.length === 1 ? rows.find((r) => r.whole === others[0])?.name : msg`the others`} out of
                ${rows.find((r) => r.whole === first)?.name}`}
            </button>
          </>
        )}
      </div>
    </fieldset>
  );
}
