import { STENCIL_USES } from '@kestfog/core/bench';
import { askedStates, type Design, dams, dropWays, fills, guideKinds, type Part, tools, type Words } from '@kestfog/core/design';
import type { Air, Margin } from '@kestfog/core/drying';
import { timeGap } from '@kestfog/core/planning';
import { gapsInto, type School, type StepGraph, tipCalled, USUAL_TIPS } from '@kestfog/core/steps';
import { MM_PER_INCH, NoAnswer } from '@kestfog/core/units';
import { reasonOf } from '@kestfog/core/wording';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useKitchen } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { millimetres } from '../../text/amounts.js';
import { span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField, readNumber, type Typed } from '../../ui/NumberField.js';

interface Props {
  readonly design: Design;
  readonly graph: StepGraph;
  readonly part: Part;
  readonly school: School;
  readonly air: Air;
  readonly onSay: (said: Record<string, string>) => void;
}

const DAM_TEXT = { same: msg`in its own icing`, contrast: msg`in another colour`, double: msg`piped twice`, none: msg`none` } as const;
const DROP_TEXT = { injected: msg`squeezed in at one point`, ring: msg`a ring drawn and filled` } as const;
const GUIDE_TEXT = {
  traced: msg`traced from a template`,
  scratched: msg`scratched`,
  ruled: msg`ruled`,
  stencil: msg`marked through a stencil`,
  cutter: msg`a cutter’s ring`,
  centre: msg`a centre poked`,
  projected: msg`a picture of light`,
  sheet: msg`a sheet beside it`,
} as const;

/** What a part says for itself of its order, its waits and the hands; where it says nothing, what the school says stands in the field. */
export function PartWords({ design, graph, part, school, air, onSay }: Props) {
  const words: Words = part.words ?? {};
  const held = gapsInto(graph, part.id);
  const waited = held.find(({ gap }) => gap.minState !== undefined);
  const asked = waited?.gap.minState;
  const usualS = Math.max(0, ...held.map(({ gap }) => waitS(gap, air, school.margin)));
  const isMark = part.role === 'mark';
  const takesDam = part.role === 'section' && part.technique !== 'thin-coat';
  return (
    <fieldset className="border-t border-base-300 pt-3 grid gap-4" aria-label={msg`Its own words`}>
      <legend className="text-lg font-medium pr-3">{msg`its own words`}</legend>
      <div className="flex flex-wrap gap-3 items-start">
        {!isMark && (
          <Choice
            label={msg`lies on icing that is`}
            value={words.needs ?? ''}
            empty={asked ? msg`as the school says: ${word(asked)}` : msg`as the school says`}
            of={askedStates.map((s) => ({ value: s, text: word(s) }))}
            onChoose={(needs) => onSay({ needs })}
          />
        )}
        <Amount
          key={`wait ${words.waitMin}`}
          label={msg`after at least, min`}
          value={words.waitMin}
          placeholder={usualS > 0 ? String(Math.round(usualS / 60)) : msg`at once`}
          from={0}
          to={4320}
          unit="min"
          onAmount={(v) => onSay({ 'wait-min': v })}
        />
        <Amount
          key={`within ${words.withinMin}`}
          label={msg`within, min`}
          value={words.withinMin}
          placeholder={msg`any time`}
          from={0.5}
          to={4320}
          unit="min"
          onAmount={(v) => onSay({ 'within-min': v })}
        />
        {!isMark && (
          <label className="flex items-center gap-2 min-h-11 self-end text-lg">
            <input
              type="checkbox"
              className="checkbox"
              checked={words.first === true}
              onChange={(e) => onSay({ first: e.target.checked ? 'true' : '' })}
            />
            {msg`before all it does not overlap`}
          </label>
        )}
      </div>
      <After design={design} part={part} after={words.after ?? []} onAfter={(ids) => onSay({ after: ids.join(' ') })} />
      <div className="flex flex-wrap gap-3 items-start">
        {takesDam && (
          <>
            <Choice
              label={msg`dam`}
              value={words.dam ?? ''}
              empty={msg`as the school says: in its own icing`}
              of={dams.map((d) => ({ value: d, text: DAM_TEXT[d] }))}
              onChoose={(dam) =>
                onSay(dam === 'contrast' ? { dam, 'dam-colour': words.damColour ?? '#3a3f45' } : { dam, 'dam-colour': '' })
              }
            />
            {words.dam === 'contrast' && (
              <label className="grid gap-1">
                <span className="text-lg">{msg`its colour`}</span>
                <input
                  type="color"
                  className="w-12 h-11 rounded-field border border-base-300"
                  value={words.damColour ?? '#3a3f45'}
                  onChange={(e) => onSay({ dam: 'contrast', 'dam-colour': e.target.value })}
                />
              </label>
            )}
            <Choice
              label={msg`filled`}
              value={words.fill ?? ''}
              empty={msg`as the school says: ${word(school.fill)}`}
              of={fills.map((f) => ({ value: f, text: word(f) }))}
              onChoose={(fill) => onSay({ fill })}
            />
            <Length
              key={`edge ${words.edgeMm}`}
              label={msg`short of its line`}
              value={words.edgeMm}
              placeholderMm={words.dam === 'none' ? school.edgeMm : 0}
              from={0}
              to={5}
              onLength={(v) => onSay({ 'edge-mm': v })}
            />
          </>
        )}
        {(part.role === 'line' || takesDam) && (
          <>
            <Length
              key={`opening ${words.openingMm}`}
              label={msg`opening`}
              value={words.openingMm}
              placeholderMm={part.role === 'line' && part.widthMm > 0 ? part.widthMm : 1.5}
              from={0.3}
              to={20}
              onLength={(v) => onSay({ 'opening-mm': v })}
            />
            <TipChoice part={part} tip={words.tip} onTip={(tip) => onSay({ tip })} />
          </>
        )}
        {part.role === 'mark' && part.technique === 'wet-drop' && (
          <Choice
            label={msg`laid as`}
            value={words.drop ?? ''}
            empty={msg`as the school says: ${DROP_TEXT[school.drops]}`}
            of={dropWays.map((w) => ({ value: w, text: DROP_TEXT[w] }))}
            onChoose={(drop) => onSay({ drop })}
          />
        )}
        {part.role === 'line' && part.technique === 'stencil' && (
          <Amount
            key={`wash ${words.washAfter}`}
            label={msg`washed after, cookies`}
            value={words.washAfter}
            placeholder={String(STENCIL_USES)}
            from={1}
            to={60}
            unit="cookies"
            onAmount={(v) => onSay({ 'wash-after': v })}
          />
        )}
        {part.role === 'line' && part.technique === 'airbrush' && (
          <Choice
            label={msg`held to`}
            value={words.tool ?? ''}
            empty={msg`nothing: mist reaches the whole cookie`}
            of={tools.map((t) => ({ value: t, text: t === 'stencil' ? msg`a stencil on it` : msg`an edge of paper` }))}
            onChoose={(tool) => onSay({ tool })}
          />
        )}
        {part.role === 'guide' && (
          <Choice
            label={msg`made by`}
            value={part.kind}
            of={guideKinds.map((k) => ({ value: k, text: GUIDE_TEXT[k] }))}
            onChoose={(guide) => onSay({ guide })}
          />
        )}
      </div>
      <Asks held={held} air={air} margin={school.margin} design={design} />
    </fieldset>
  );
}

function waitS(gap: Parameters<typeof timeGap>[0], air: Air, margin: Margin): number {
  try {
    return timeGap(gap, air, margin).minS;
  } catch (error) {
    if (error instanceof NoAnswer) return 0;
    throw error;
  }
}

/** Why it comes here: what it asks of which part, and how long that takes. */
function Asks({
  held,
  air,
  margin,
  design,
}: {
  readonly held: ReturnType<typeof gapsInto>;
  readonly air: Air;
  readonly margin: Margin;
  readonly design: Design;
}) {
  const seen = new Set<string>();
  const waits = held.map((h) => ({ ...h, reason: reasonOf(h.gap) })).filter(({ reason }) => !seen.has(reason) && seen.add(reason));
  if (waits.length === 0) return <p className="text-base opacity-85">{msg`It waits for nothing but the preparation.`}</p>;
  return (
    <details>
      <summary className="cursor-pointer underline underline-offset-4 text-lg">{msgNodes`why here (${waits.length})`}</summary>
      <ul className="list-disc pl-5 text-base grid gap-1 mt-1">
        {waits.map(({ gap, of, reason }) => {
          const s = waitS(gap, air, margin);
          const name = design.parts.find((p) => p.id === of)?.name ?? of;
          return (
            <li key={reason}>
              {gap.minState ? msg`asks ${word(gap.minState)} of ${name}` : msg`comes after ${name}`}
              {s > 0 ? ` (${span(s)})` : ''}: {reason}.
            </li>
          );
        })}
      </ul>
    </details>
  );
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly empty?: string;
  readonly of: readonly { readonly value: string; readonly text: string }[];
  readonly onChoose: (value: string) => void;
}

function Choice({ label, value, empty, of, onChoose }: ChoiceProps) {
  return (
    <label className="grid gap-1">
      <span className="text-lg">{label}</span>
      <select className="select" value={value} onChange={(e) => onChoose(e.target.value)}>
        {empty !== undefined && <option value="">{empty}</option>}
        {of.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </select>
    </label>
  );
}

interface AmountProps {
  readonly label: string;
  readonly value: number | undefined;
  readonly placeholder: string;
  readonly from: number;
  readonly to: number;
  readonly unit: string;
  /** what to say: the number as text, or nothing at all */
  readonly onAmount: (text: string) => void;
}

/** A number that may be left empty: then the placeholder holds. */
function Amount({ label, value, placeholder, from, to, unit, onAmount }: AmountProps) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const typed: Typed = text.trim() === '' ? { value: Number.NaN } : readNumber(text, from, to, msg`This`, unit);
  const keep = () => {
    if (!('value' in typed)) return;
    const said = text.trim() === '' ? '' : String(typed.value);
    if (said !== (value === undefined ? '' : String(value))) onAmount(said);
  };
  return <NumberField small label={label} text={text} typed={typed} placeholder={placeholder} onText={setText} onDone={keep} />;
}

interface LengthProps {
  readonly label: string;
  readonly value: number | undefined;
  readonly placeholderMm: number;
  readonly from: number;
  readonly to: number;
  readonly onLength: (mm: string) => void;
}

/** A length in millimetres, or in inches where those are used; what is said stays in millimetres. */
function Length({ label, value, placeholderMm, from, to, onLength }: LengthProps) {
  const us = useUnits()[0] === 'us';
  const shown = (mm: number) => (us ? Number((mm / MM_PER_INCH).toFixed(3)) : Number(mm.toFixed(2)));
  return (
    <Amount
      label={`${label}, ${us ? msg`in` : msg`mm`}`}
      value={value === undefined ? undefined : shown(value)}
      placeholder={String(shown(placeholderMm))}
      from={shown(from)}
      to={shown(to)}
      unit={us ? 'in' : 'mm'}
      onAmount={(text) => onLength(text === '' ? '' : String(us ? Math.round(Number(text) * 2540) / 100 : Number(text)))}
    />
  );
}

/** One of the kitchen's own tips; one that a drawing asks for and the kitchen lacks is shown as it was said. */
function TipChoice({ part, tip, onTip }: { readonly part: Part; readonly tip: string | undefined; readonly onTip: (tip: string) => void }) {
  const tips = useKitchen().data?.tips ?? USUAL_TIPS;
  const [units] = useUnits();
  const known = tip === undefined ? undefined : tipCalled(tip, tips);
  const of = tips.map((t) => ({ value: t.name, text: `${t.name}, ${millimetres(t.openingMm, units)}` }));
  const missing = tip !== undefined && !known ? [{ value: tip, text: msg`${tip} (not in the kitchen)` }] : [];
  return (
    <Choice
      label={msg`tip`}
      value={known?.name ?? tip ?? ''}
      empty={part.role === 'section' ? msg`the nearest round tip` : msg`the nearest that fits`}
      of={[...missing, ...of]}
      onChoose={onTip}
    />
  );
}

interface AfterProps {
  readonly design: Design;
  readonly part: Part;
  readonly after: readonly string[];
  readonly onAfter: (ids: readonly string[]) => void;
}

/** Parts it is to come after: one added from a list, each taken back by a touch. */
function After({ design, part, after, onAfter }: AfterProps) {
  const name = (id: string) => design.parts.find((p) => p.id === id)?.name ?? id;
  const others = design.parts.filter((p) => p.id !== part.id && !/\.\d+$/.test(p.id) && !after.includes(p.id));
  return (
    <div className="flex flex-wrap gap-2 items-center text-lg">
      <label className="flex flex-wrap items-center gap-2">
        {msg`comes after`}
        <select className="select" value="" onChange={(e) => e.target.value && onAfter([...after, e.target.value])}>
          <option value="">{after.length === 0 ? msg`what the order says` : msg`another part …`}</option>
          {others.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
      {after.map((id) => (
        <button
          key={id}
          type="button"
          className="btn btn-sm"
          aria-label={msg`not after ${name(id)} any more`}
          onClick={() => onAfter(after.filter((x) => x !== id))}
        >
          {name(id)} ×
        </button>
      ))}
    </div>
  );
}
