import {
  type Design,
  type DesignEdit,
  type PatternAsk,
  type PatternId,
  patternById,
  patterns,
  type Section,
  sectionById,
} from '@kestfog/core/design';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { NumberField, readNumber, type Typed } from '../../ui/NumberField.js';
import { useLength } from '../../ui/use-length.js';
import { freshId } from './fresh-id.js';
import { paletteOf } from './parts.js';

type Laid = Extract<DesignEdit, { type: 'pattern' }>;
interface Props {
  readonly design: Design;
  /** the flood a new one is laid in */
  readonly section?: Section;
  /** one that lies there already: it is changed */
  readonly laid?: Laid;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

const PATTERN_KINDS = [
  { kind: 'recipes', label: msg`laid and pulled` },
  { kind: 'drops', label: msg`drops` },
  { kind: 'lines', label: msg`lines` },
  { kind: 'drags', label: msg`pulls` },
] as const;
/** Size and spacing a kind begins with, mm. */
const USUAL = { recipes: [2, 8], drops: [3, 9], lines: [1.4, 5], drags: [1, 9] } as const;

/** Marks of the trade laid in a flood in one touch; laid, their numbers and colours can be changed, or they are set free. */
export function Pattern({ design, section, laid, onEdit }: Props) {
  const [pattern, setPattern] = useState<PatternId>(laid?.pattern ?? 'dots-staggered');
  const [text, setText] = useState({
    angleDeg: String(laid?.ask.angleDeg ?? 0),
    count: String(laid?.ask.count ?? 8),
    seed: String(laid?.ask.seed ?? 1),
  });
  const definition = patternById(pattern);
  const usual = definition.usual ?? USUAL[definition.kind];
  const size = useLength(laid?.ask.sizeMm ?? usual[0], [0.3, 40], msg`The size`);
  const spacing = useLength(laid?.ask.spacingMm ?? usual[1], [0.5, 100], msg`The spacing`);
  const flood = section ?? sectionById(design, laid?.sectionId ?? '');
  const others = paletteOf(design).filter((c) => c !== flood?.colour);
  const layers = definition.colours ?? (definition.kind === 'drags' ? [] : [msg`the marks`]);
  // One said stays with its layer; the others take what the design has, in its order.
  const [said, setSaid] = useState<readonly (string | undefined)[]>(laid?.colours ?? []);
  const colourOf = (layer: number) => said[layer] ?? others[layer % Math.max(1, others.length)] ?? '#2e3a46';
  const numbers: Readonly<Record<'angleDeg' | 'count' | 'seed', Typed>> = {
    angleDeg: readNumber(text.angleDeg, -360, 360, msg`The angle`, msg`degrees`),
    count: readNumber(text.count, 1, 60, msg`The count`, ''),
    seed: readNumber(text.seed, 0, 9999, msg`The throw`, ''),
  };
  const labels = {
    sizeMm: definition.kind === 'drags' ? msg`scribe` : msg`size`,
    spacingMm: msg`apart`,
    angleDeg: msg`angle, °`,
    count: msg`how many`,
    seed: msg`throw`,
  };
  const lengthOf = { sizeMm: size, spacingMm: spacing };
  const isLength = (k: keyof PatternAsk): k is 'sizeMm' | 'spacingMm' => k === 'sizeMm' || k === 'spacingMm';
  const good = definition.heeds.every((k) => (isLength(k) ? lengthOf[k].mm !== null : 'value' in numbers[k]));
  const numberOf = (k: keyof typeof numbers, otherwise: number) =>
    definition.heeds.includes(k) && 'value' in numbers[k] ? numbers[k].value : otherwise;
  const lay = () => {
    const ask: PatternAsk = {
      sizeMm: size.mm ?? usual[0],
      spacingMm: spacing.mm ?? usual[1],
      angleDeg: numberOf('angleDeg', 0),
      count: Math.round(numberOf('count', 8)),
      seed: Math.round(numberOf('seed', 1)),
    };
    const colours =
      layers.length > 1 ? layers.map((_, i) => colourOf(i)) : [colourOf(0), ...others.filter((c) => c !== colourOf(0)), colourOf(0)];
    if (laid) onEdit({ type: 'pattern-again', id: laid.id, pattern, ask, colours, seconds: laid.seconds });
    else if (flood)
      onEdit({
        type: 'pattern',
        id: freshId(definition.kind === 'drags' ? 'drag' : 'marks'),
        sectionId: flood.id,
        pattern,
        ask,
        colours,
        seconds: null,
      });
  };
  return (
    <fieldset className="border-t border-base-300 pt-3" aria-label={laid ? msg`The pattern they are` : msg`Wet in it`}>
      <div className="flex flex-wrap gap-3 items-end">
        <label className="grid gap-1">
          <span className="text-lg">{laid ? msg`the pattern` : msg`wet in it`}</span>
          <select
            className="select"
            value={pattern}
            onChange={(e) => {
              const next = patternById(e.target.value as PatternId);
              setPattern(next.id);
              const [sizeMm, spacingMm] = next.usual ?? USUAL[next.kind];
              size.setMm(sizeMm);
              spacing.setMm(spacingMm);
            }}
          >
            {PATTERN_KINDS.map(({ kind, label }) => (
              <optgroup key={kind} label={label}>
                {patterns
                  .filter((p) => p.kind === kind)
                  .map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.label}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </label>
        {definition.heeds.map((k) =>
          isLength(k) ? (
            <NumberField
              key={k}
              small
              label={`${labels[k]}, ${word(lengthOf[k].unit)}`}
              text={lengthOf[k].text}
              typed={lengthOf[k].typed}
              onText={(v) => void lengthOf[k].onText(v)}
            />
          ) : (
            <NumberField key={k} small label={labels[k]} text={text[k]} typed={numbers[k]} onText={(v) => setText({ ...text, [k]: v })} />
          ),
        )}
        {layers.map((layer, i) => (
          <label key={layer} className="grid gap-1 text-lg">
            {layers.length > 1 && layer}
            <input
              type="color"
              aria-label={layers.length > 1 ? msg`colour: ${layer}` : msg`colour of the marks`}
              className="w-12 h-11 rounded-field border border-base-300"
              value={colourOf(i)}
              onChange={(e) => setSaid(layers.map((_, k) => (k === i ? e.target.value : said[k])))}
            />
          </label>
        ))}
        <button type="button" className="btn" disabled={!good} onClick={lay}>
          {laid ? msg`Change it` : definition.kind === 'drags' ? msg`Drag it` : msg`Lay them in`}
        </button>
        {laid && (
          <button type="button" className="btn" onClick={() => onEdit({ type: 'set-free', part: laid.id })}>
            {msg`Set its marks free`}
          </button>
        )}
      </div>
    </fieldset>
  );
}
