import { type Design, footprintOf } from '@kestfog/core/design';
import { areaMm2 } from '@kestfog/core/geometry';
import { type GuideAsk, type GuideKind, guideKinds, hasGuides, pitchedGuides } from '@kestfog/core/paper';
import type { School } from '@kestfog/core/steps';
import { msg, word } from '@kestfog/core/words';
import { useMemo, useState } from 'react';
import { useLooked } from '../../app/use-looked.js';
import { Choice } from '../../ui/Choice.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { useLength } from '../../ui/use-length.js';
import type { SheetAsk } from '../../workers/sheet.worker.js';
import { Printing } from './Printing.js';

const KINDS = ['template', 'guide', 'transfers'] as const;
type Kind = (typeof KINDS)[number];
const WORDS: Readonly<Record<Kind, { readonly label: string; readonly what: string }>> = {
  template: {
    label: msg`cutting template`,
    what: msg`To cut from card or film, half a knife’s width outside the edge, its neighbours faint.`,
  },
  guide: { label: msg`guide to lay beneath`, what: msg`Its lines reach 12 mm beyond the cookie, so that their ends are seen beside it.` },
  transfers: { label: msg`transfer sheet`, what: msg`To pipe over on parchment: parchment on top, print never touches food.` },
};
const GUIDES: Readonly<Record<GuideKind, string>> = {
  own: msg`its own`,
  stripes: msg`stripes`,
  grid: msg`a grid`,
  thirds: msg`thirds`,
  quarters: msg`quarters`,
  sectors: msg`sectors`,
  rings: msg`rings`,
  dots: msg`dots`,
  writing: msg`writing lines`,
};
/** Smaller parts are not cut out by hand, mm². */
const LEAST_CUT_MM2 = 20;

/** Paper of true size for one design. */
export function DesignSheets({
  design,
  school,
  pieces: wanted,
  onGuide,
  children,
}: {
  readonly design: Design;
  readonly school: School;
  /** how many are ordered, where it is one of an order */
  readonly pieces?: { readonly count: number; readonly spares: number };
  /** the guide becomes a step of the design; left out where the design is as it was planned */
  readonly onGuide?: (guide: GuideAsk, name: string) => void;
  /** what is chosen before */
  readonly children?: React.ReactNode;
}) {
  const [looked, look] = useLooked<'drawn' | 'part' | 'guide'>();
  const kind: Kind = KINDS.find((k) => k === looked('drawn')) ?? (design.transfer ? 'transfers' : 'template');
  const cuttable = design.parts.filter((p) => p.role !== 'mark' && p.role !== 'guide' && areaMm2(footprintOf(p)) >= LEAST_CUT_MM2);
  const part = cuttable.find((p) => p.id === looked('part'))?.id;
  const [mirrored, setMirrored] = useState(false);
  const kinds = guideKinds.filter((k) => k !== 'own' || hasGuides(design));
  const guide = kinds.find((k) => k === looked('guide')) ?? (kinds[0] as GuideKind);
  const pitch = useLength(8, [1, 100], msg`The distance`);
  const [angle, setAngle] = useState('0');
  const [sectors, setSectors] = useState('8');
  const [count, setCount] = useState(String(wanted?.count ?? 12));
  const [spares, setSpares] = useState(String(wanted?.spares ?? 2));
  const [turnedOver, setTurnedOver] = useState(false);
  const read = {
    angle: readNumber(angle, -180, 180, msg`The angle`, '°'),
    sectors: readNumber(sectors, 2, 72, msg`The number`, ''),
    count: readNumber(count, 1, 500, msg`The number`, ''),
    spares: readNumber(spares, 0, 100, msg`The number`, ''),
  };
  const numberIn = (typed: (typeof read)[keyof typeof read]) => ('value' in typed ? Math.round(typed.value) : null);
  const [turnedDeg, inSectors, pieces, more] = [numberIn(read.angle), numberIn(read.sectors), numberIn(read.count), numberIn(read.spares)];
  const lines = useMemo(
    () =>
      pitch.mm === null || turnedDeg === null || inSectors === null
        ? null
        : { guide, pitchMm: pitch.mm, angleDeg: turnedDeg, count: inSectors },
    [guide, pitch.mm, turnedDeg, inSectors],
  );
  const ask = useMemo((): SheetAsk | null => {
    if (kind === 'template') return { kind, design, school, mirrored, ...(part === undefined ? {} : { part }) };
    if (kind === 'guide') return lines && { kind, design, guide: lines };
    return pieces === null || more === null ? null : { kind, design, school, count: pieces, spares: more, turnedOver };
  }, [kind, design, school, mirrored, part, lines, pieces, more, turnedOver]);
  return (
    <Printing ask={ask} name={design.name} trueSize what={WORDS[kind].label}>
      {children}
      <div className="grid gap-2">
        <Choice
          label={msg`sheet`}
          value={kind}
          options={KINDS.map((id) => ({ id, label: WORDS[id].label }))}
          onChange={(id) => look({ drawn: id })}
        />
        <p className="text-lg">{WORDS[kind].what}</p>
      </div>
      {kind === 'template' && (
        <>
          <label className="grid gap-1">
            <span className="text-lg">{msg`of`}</span>
            <select className="select" aria-label={msg`template of`} value={part ?? ''} onChange={(e) => look({ part: e.target.value })}>
              <option value="">{msg`the whole cookie`}</option>
              {cuttable.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          </label>
          <Tick label={msg`mirrored, to trace from behind`} on={mirrored} onTick={setMirrored} />
        </>
      )}
      {kind === 'guide' && (
        <>
          <Choice
            label={msg`guide`}
            size="btn-sm min-h-11"
            value={guide}
            options={kinds.map((id) => ({ id, label: GUIDES[id] }))}
            onChange={(id) => look({ guide: id })}
          />
          <div className="flex flex-wrap gap-3">
            {pitchedGuides.includes(guide) && (
              <NumberField
                small
                label={msg`apart, ${word(pitch.unit)}`}
                text={pitch.text}
                typed={pitch.typed}
                onText={(t) => void pitch.onText(t)}
              />
            )}
            {guide === 'sectors' && <NumberField small label={msg`sectors`} text={sectors} typed={read.sectors} onText={setSectors} />}
            {guide !== 'rings' && guide !== 'own' && (
              <NumberField small label={msg`turned, °`} text={angle} typed={read.angle} onText={setAngle} />
            )}
          </div>
          {onGuide && guide !== 'own' && (
            <button
              type="button"
              className="btn justify-self-start"
              disabled={lines === null}
              onClick={() => lines && onGuide(lines, GUIDES[guide])}
            >
              {msg`Make it a step of the design`}
            </button>
          )}
        </>
      )}
      {kind === 'transfers' && (
        <>
          <div className="flex flex-wrap gap-3">
            <NumberField small label={msg`pieces`} text={count} typed={read.count} onText={setCount} />
            <NumberField small label={msg`spares`} text={spares} typed={read.spares} onText={setSpares} />
          </div>
          <Tick label={msg`mirrored, where they are turned over`} on={turnedOver} onTick={setTurnedOver} />
        </>
      )}
    </Printing>
  );
}

function Tick({ label, on, onTick }: { readonly label: string; readonly on: boolean; readonly onTick: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 text-lg min-h-11">
      <input type="checkbox" className="checkbox" checked={on} onChange={(e) => onTick(e.target.checked)} />
      {label}
    </label>
  );
}
