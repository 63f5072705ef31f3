import {
  belongs,
  type Design,
  type DesignEdit,
  detailTechniques,
  linesOf,
  marksOf,
  partById,
  type Section,
  sectionsOf,
} from '@kestfog/core/design';
import type { Air } from '@kestfog/core/drying';
import { areaMm2, type Point } from '@kestfog/core/geometry';
import { grades } from '@kestfog/core/icing';
import { distinctOpenings, type School, type StepGraph, techniqueById } from '@kestfog/core/steps';
import { msg, word } from '@kestfog/core/words';
import { useId, useState } from 'react';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { openingsText } from '../../text/amounts.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField } from '../../ui/NumberField.js';
import { useLength } from '../../ui/use-length.js';
import { Divide } from './Divide.js';
import { PartWords } from './PartWords.js';
import { Pattern } from './Pattern.js';
import { paletteOf, type StackRow } from './parts.js';

interface Props {
  readonly design: Design;
  readonly graph: StepGraph;
  readonly row: StackRow;
  readonly school: School;
  readonly air: Air;
  /** places picked on the cookie, for a line to divide along */
  readonly picked: readonly Point[];
  /** the pattern whose marks these are, as it was last laid */
  readonly laid: Extract<DesignEdit, { type: 'pattern' }> | null;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

/** What one part is: its name, colour, icing, technique, depth and joins; and what can be laid in it or done with it. */
export function PartPanel({ design, graph, row, school, air, picked, laid, onEdit }: Props) {
  const counting = useCounting();
  const [units] = useUnits();
  const section = sectionsOf(design).find((s) => s.id === row.id);
  const line = linesOf(design).find((l) => l.id === row.id);
  const mark = marksOf(design).find((m) => row.parts.includes(m.id));
  const part = section ?? line ?? mark ?? partById(design, row.id);
  const facts = graph.sections.find((s) => s.id === row.id);
  if (!part) return null;
  // Of a pattern in several colours each layer is spoken of by itself.
  const own = marksOf(design).filter((m) => belongs(m.id, row.whole));
  const isLayered = new Set(own.map((m) => m.colour)).size > 1;
  const say = (said: Record<string, string>) =>
    onEdit({ type: 'say', part: row.whole, said, ...(isLayered ? { ofColour: part.colour } : {}) });
  const islandCount = section?.drawn.filter((ring) => areaMm2([ring]) > 0).length ?? 0;
  const isLastFlood = section !== undefined && sectionsOf(design).length === 1;
  const definition = techniqueById(row.technique as never);
  // The same answer the Icing place and the Bench give.
  const openings = distinctOpenings(
    graph.steps.flatMap((s) =>
      s.parts.includes(row.id) && s.tip !== undefined && s.openingMm !== undefined ? [{ name: s.tip, openingMm: s.openingMm }] : [],
    ),
  );
  return (
    <section aria-label={msg`Part: ${row.name}`} className="grid gap-4" data-piping="part" key={row.id}>
      <div className="flex flex-wrap gap-3 items-end">
        <NameField key={part.name} name={part.name} onName={(name) => say({ name })} />
        <ColourField colour={part.colour} palette={paletteOf(design)} onColour={(colour) => say({ colour })} />
        <label className="grid gap-1">
          <span className="text-lg">{msg`icing`}</span>
          <select
            className="select"
            value={part.seconds === undefined ? '' : String(part.seconds)}
            onChange={(e) => say({ seconds: e.target.value, grade: '' })}
          >
            <option value="">{msg`as the school says`}</option>
            {grades.map((g) => (
              <option key={g.id} value={g.typicalS}>
                {g.label}, {counting.text(g.typicalS)}
              </option>
            ))}
            {part.seconds !== undefined && !grades.some((g) => g.typicalS === part.seconds) && (
              <option value={part.seconds}>{counting.text(part.seconds)}</option>
            )}
          </select>
        </label>
        {section && <DepthField key={section.depthMm} depthMm={section.depthMm} onDepth={(mm) => say({ 'depth-mm': String(mm) })} />}
        {section && (
          <label className="grid gap-1">
            <span className="text-lg">{msg`covered by`}</span>
            <select
              className="select"
              value={section.technique ?? 'flood'}
              onChange={(e) =>
                e.target.value === 'flood' || e.target.value === 'thin-coat'
                  ? say({ technique: e.target.value, part: 'section' })
                  : say({ technique: e.target.value, part: 'line' })
              }
            >
              <option value="flood">{msg`flood`}</option>
              <option value="thin-coat">{msg`thin background coat`}</option>
              {detailTechniques.map((t) => (
                <option key={t} value={t}>
                  {techniqueById(t).label}
                </option>
              ))}
            </select>
          </label>
        )}
        {line && (
          <label className="grid gap-1">
            <span className="text-lg">{msg`technique`}</span>
            <select className="select" value={line.technique} onChange={(e) => say({ technique: e.target.value })}>
              {detailTechniques.map((t) => (
                <option key={t} value={t}>
                  {techniqueById(t).label}
                </option>
              ))}
              {line.area && <option value="flood">{msg`flood it as a section`}</option>}
            </select>
          </label>
        )}
      </div>
      <p className="text-base opacity-85">
        {msgNodes`${definition.tool}${openings.length > 0 && `, ${openingsText(openings, units)}`}. Too early: ${definition.tooEarly}. Too
          late: ${definition.tooLate}.`}
      </p>
      <PartWords
        key={`${part.id} ${JSON.stringify(part.words)}`}
        design={design}
        graph={graph}
        part={part}
        school={school}
        air={air}
        onSay={say}
      />
      {facts && section && (
        <>
          <Joins
            design={design}
            facts={facts}
            section={section}
            onFlush={(ids) => say({ flush: ids.join(' ') })}
            onOver={(over) => say({ over })}
          />
          <Pattern key={section.id} design={design} section={section} onEdit={onEdit} />
          {islandCount > 1 && (
            <button type="button" className="btn justify-self-start" onClick={() => onEdit({ type: 'part-islands', part: section.id })}>
              {msgNodes`Part its ${islandCount} islands`}
            </button>
          )}
          <Divide design={design} sectionId={section.id} colour={section.colour} picked={picked} onEdit={onEdit} />
        </>
      )}
      {laid && <Pattern key={JSON.stringify(laid)} design={design} laid={laid} onEdit={onEdit} />}
      {isLastFlood ? (
        <p className="text-lg opacity-85">{msgNodes`A cookie keeps at least one flood: ${row.name} is its last.`}</p>
      ) : (
        <button type="button" className="btn justify-self-start" onClick={() => onEdit({ type: 'remove', part: row.whole })}>
          {msgNodes`Take ${row.name} off`}
        </button>
      )}
    </section>
  );
}

function NameField({ name, onName }: { readonly name: string; readonly onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  const keep = () => {
    const said = text.trim();
    // Emptied, it keeps the name it has.
    if (said === '') setText(name);
    else if (said !== name) onName(said);
  };
  return (
    <label className="grid gap-1">
      <span className="text-lg">{msg`name`}</span>
      <input
        className="input w-44"
        maxLength={60}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === 'Enter' && keep()}
      />
    </label>
  );
}

function ColourField({
  colour,
  palette,
  onColour,
}: {
  readonly colour: string;
  readonly palette: readonly string[];
  readonly onColour: (c: string) => void;
}) {
  const id = useId();
  return (
    <div className="grid gap-1">
      <label htmlFor={id} className="text-lg">
        {msg`colour`}
      </label>
      <span className="flex gap-2 items-center">
        <input
          id={id}
          type="color"
          className="w-12 h-11 rounded-field border border-base-300"
          value={colour}
          onChange={(e) => onColour(e.target.value)}
        />
        {palette
          .filter((c) => c !== colour)
          .slice(0, 6)
          .map((c) => (
            <button
              key={c}
              type="button"
              className="w-9 h-9 rounded-full border border-base-content/50"
              style={{ background: c }}
              aria-label={msg`use ${c}`}
              onClick={() => onColour(c)}
            />
          ))}
      </span>
    </div>
  );
}

/** Least and most depth of a flood, mm, as a drawing may say it. */
const DEPTHS_MM = [0.3, 10] as const;
function DepthField({ depthMm, onDepth }: { readonly depthMm: number; readonly onDepth: (mm: number) => void }) {
  const depth = useLength(depthMm, DEPTHS_MM, msg`The depth`);
  const keep = () => {
    const mm = depth.mm === null ? null : Math.round(depth.mm * 10) / 10;
    if (mm !== null && mm !== depthMm) onDepth(mm);
  };
  return (
    <NumberField
      small
      label={msg`depth, ${word(depth.unit)}`}
      text={depth.text}
      typed={depth.typed}
      onText={(v) => void depth.onText(v)}
      onDone={keep}
    />
  );
}

interface JoinsProps {
  readonly design: Design;
  readonly facts: StepGraph['sections'][number];
  readonly section: Section;
  readonly onFlush: (ids: readonly string[]) => void;
  readonly onOver: (over: 'layer' | 'inlay') => void;
}

function Joins({ design, facts, section, onFlush, onOver }: JoinsProps) {
  const flush = section.flushWith ?? [];
  const neighbours = [...new Set([...facts.touches, ...flush])];
  const name = (id: string) => sectionsOf(design).find((s) => s.id === id)?.name ?? id;
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-2 text-lg items-center">
      {neighbours.length > 0 && <span>{msg`level with`}</span>}
      {neighbours.map((id) => (
        <label key={id} className="flex items-center gap-2 min-h-11">
          <input
            type="checkbox"
            className="checkbox"
            checked={flush.includes(id)}
            onChange={(e) => onFlush(e.target.checked ? [...flush, id] : flush.filter((f) => f !== id))}
          />
          {name(id)}
        </label>
      ))}
      {section.layerOn.length > 0 && (
        <span>
          {msgNodes`lies on ${section.layerOn.map(name).join(', ')} as a second layer `}
          <button type="button" className="btn btn-sm" onClick={() => onOver('inlay')}>
            {msg`lay it side by side`}
          </button>
        </span>
      )}
      {section.layerOn.length === 0 && neighbours.length > 0 && (
        <button type="button" className="btn btn-sm" onClick={() => onOver('layer')}>
          {msg`read it as a second layer`}
        </button>
      )}
    </div>
  );
}
