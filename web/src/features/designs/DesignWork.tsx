import { Tabs } from '@base-ui/react/tabs';
import {
  amended,
  belongs,
  type Design,
  type DesignEdit,
  foldDesign,
  marksOf,
  markTechniques,
  type Ordering,
  orderings,
  partById,
  sectionsOf,
  shift,
  standingEdits,
  wetBodyAt,
} from '@kestfog/core/design';
import type { Point } from '@kestfog/core/geometry';
import { type Flaw, flawsOn } from '@kestfog/core/picture';
import { type DesignCheck, lookAfterSteps, movePart, wetTiming } from '@kestfog/core/planning';
import { cautionsFor } from '@kestfog/core/steps';
import type { DesignView, SchoolView } from '@kestfog/core/wire';
import { refusalText } from '@kestfog/core/wording';
import { msg, word } from '@kestfog/core/words';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useKitchen, useSchools } from '../../api/queries.js';
import { useKitchenNow } from '../../api/use-making.js';
import { useKey } from '../../app/keys.js';
import { useUnits } from '../../app/units.js';
import { useLooked } from '../../app/use-looked.js';
import { airText } from '../../text/amounts.js';
import { movedText } from '../../text/moved.js';
import { span } from '../../text/time.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { useSteady } from '../../ui/use-steady.js';
import { fewerRoundsBeside } from '../../workers/plan-client.js';
import { useBeside } from '../../workers/use-beside.js';
import { Arrange } from './Arrange.js';
import { ChecksPanel } from './ChecksPanel.js';
import { CHECK_FLAWS, CHECK_WORDS } from './check-words.js';
import { DesignHead, DesignName } from './DesignHead.js';
import { Dividers } from './Dividers.js';
import { EditableCookie } from './EditableCookie.js';
import { OwnSchool } from './OwnSchool.js';
import { PartPanel } from './PartPanel.js';
import { rowOfPart } from './parts.js';
import { type Beneath, BeneathControls, BeneathPicture } from './piping/Beneath.js';
import { cutEdit, drawEdit, PipingBar, Tools } from './piping/PipingBar.js';
import { PipingSurface } from './piping/PipingSurface.js';
import { reach } from './piping/reach.js';
import { StrokeWords } from './piping/stroke-words.js';
import { isLed, KNIFE, type Piping, toolById } from './piping/tools.js';
import { addedWaitS, useTrial } from './piping/use-trial.js';
import { Reading } from './Reading.js';
import { SchoolPanel } from './SchoolPanel.js';
import { SizePanel } from './SizePanel.js';
import { Stack } from './Stack.js';
import { Strip } from './Strip.js';
import { stepsOf } from './steps-of.js';
import { useEditor } from './use-editor.js';
import { useWorked } from './use-worked.js';
import { poolOf, WetMotions } from './WetMotions.js';

const NONE: readonly string[] = [];
const NO_FLAWS: readonly Flaw[] = [];
const TABS = ['part', 'checks', 'school', 'reading'] as const;
const ORDERING_TEXT = {
  extremities: msg`extremities before the middle`,
  middle: msg`the middle first`,
  alternating: msg`every other one`,
} as const;

/** One design, worked on: the cookie on the left, its parts in the order they are piped, and what comes of it. */
export function DesignWork({ view, actions }: { readonly view: DesignView; readonly actions: React.ReactNode }) {
  const schools = useSchools();
  const head = <h1 className="text-4xl font-semibold">{view.name}</h1>;
  if (schools.isError || !schools.data)
    return (
      <>
        {head}
        <p role={schools.isError ? 'alert' : undefined} className="py-8 text-lg">
          {schools.isError ? schools.error.message : msg`Getting the schools …`}
        </p>
      </>
    );
  return <Work schools={schools.data} view={view} head={head} actions={actions} />;
}

function Work({
  schools,
  view,
  head,
  actions,
}: {
  readonly schools: readonly SchoolView[];
  readonly view: DesignView;
  readonly head: React.ReactNode;
  readonly actions: React.ReactNode;
}) {
  const [schoolId, setSchoolId] = useState('two-bags');
  const school = schools.find((s) => s.id === schoolId) ?? (schools[0] as SchoolView);
  const kitchen = useKitchenNow();
  const { air, airFrom, airAt, factors, tips } = kitchen;
  const editor = useEditor(
    view,
    useSteady((d: Design) => void stepsOf(d, school, tips)),
  );
  const { design } = editor;
  const { later, sequence, rows, totals, checks } = useWorked(design, school, kitchen);
  const { graph } = later;
  const [looked, look] = useLooked<'tab' | 'part' | 'step'>();
  const tab = TABS.find((t) => t === looked('tab')) ?? 'part';
  const selected = looked('part') || (sectionsOf(design)[0]?.id ?? null);
  const at = Math.floor(Number(looked('step'))) || null;
  const setAt = useSteady((step: number | null) => look({ step: step === null ? '' : String(step) }));
  const [said, setSaid] = useState<string | null>(null);
  const [picking, setPicking] = useState(false);
  const [picked, setPicked] = useState<readonly Point[]>([]);
  const [motion, setMotion] = useState<number | null>(null);
  const [together, setTogether] = useState(1);
  const [piping, setPiping] = useState<Piping>({
    toolId: null,
    widthMm: 1.5,
    colour: '#2e3a46',
    symmetry: { way: 'none' },
    meets: true,
    tap: 'round',
  });
  const [also, setAlso] = useState<readonly string[]>(NONE);
  const [shownCheck, setShownCheck] = useState<DesignCheck | null>(null);
  const [words] = useState(() => new StrokeWords());
  const [beneath, setBeneath] = useState<Beneath | null>(null);
  const eggWhite = useKitchen().data?.eggWhite ?? 'dried';
  const [units] = useUnits();
  const designKey = useMemo(() => JSON.stringify([view.id, view.version, editor.edits]), [view.id, view.version, editor.edits]);
  const suggestions = useBeside(tab === 'checks' ? `${designKey} ${JSON.stringify([school, air])}` : null, () =>
    fewerRoundsBeside({ ...view.document, edits: editor.edits }, school, air),
  );
  const cautions = cautionsFor({
    techniques: graph.steps.map((s) => s.technique),
    eggWhite,
    warmAir: school.id === 'warm-box',
    cutByHand: !view.document.svg.includes('data-cutter'),
  });
  const row = rows.find((r) => r.id === selected) ?? null;
  // What is chosen: the part that is looked at first, then those chosen besides, and whatever is kept together with it.
  const chosen = useMemo(() => {
    const groupOf = (r: (typeof rows)[number]) => later.design.parts.find((p) => r.parts.includes(p.id))?.group;
    const group = row && groupOf(row);
    return row ? [row, ...rows.filter((r) => r !== row && (also.includes(r.id) || (group !== undefined && groupOf(r) === group)))] : [];
  }, [rows, row, also, later]);
  const selectedPart = row ? partById(design, row.id) : undefined;
  const select = (part: string, besides = false) => {
    const id = rowOfPart(rows, part)?.id ?? part;
    setMotion(null);
    if (besides && row && id !== row.id) {
      setAlso(also.includes(id) ? also.filter((x) => x !== id) : [...also, id]);
      return;
    }
    setAlso(NONE);
    look({ part: id, tab: '' });
  };
  const onSelect = useSteady(select);
  const standing = useMemo(() => amended(standingEdits(editor.edits).standing), [editor.edits]);
  const laid = standing.findLast((e) => e.type === 'pattern' && e.id === row?.whole);
  const divided = standing.findLast((e) => e.type === 'divide' && row?.id.startsWith(`${e.sectionId}.`));
  /** What lies wet must lie in a flood still; an arrangement that would lose some of it is not made. */
  const arrange = (...edits: readonly DesignEdit[]) => {
    if (edits.length === 0 || edits.some((e) => e.type === 'arrange' && e.moves.length === 0)) return;
    const next = foldDesign({ ...view.document, edits: [...editor.edits, ...edits] });
    const lost = marksOf(design).length > marksOf(next).length && edits.every((e) => e.type === 'arrange');
    if (lost) return setSaid(msg`Wet work would lie beside every flood there: it stays where it was.`);
    if (next.notes.length > design.notes.length && edits.some((e) => e.type === 'cut-out' || e.type === 'unite'))
      return setSaid(msg`Nothing would be left of it, or nothing lies there to cut: it stays as it is.`);
    setMotion(null);
    editor.apply(...edits);
  };
  const onDrag = useSteady((x: number, y: number) =>
    arrange({ type: 'arrange', moves: [...new Set(chosen.map((r) => r.whole))].map((part) => ({ part, matrix: shift(x, y) })) }),
  );
  const onPoint = useSteady((p: Point) => setPicked(picked.length >= 2 ? [p] : [...picked, p]));
  const sectionId = row?.kind === 'section' ? row.id : (row?.sectionId ?? null);
  const pool = useMemo(() => poolOf(design, sectionId), [design, sectionId]);
  const timing = useMemo(
    () => (pool ? wetTiming(pool, graph, air, school.margin, factors) : null),
    [pool, graph, air, school.margin, factors],
  );
  // Worked one at a time, with the scribe wiped, nothing differs from the picture kept with the design.
  const wet = useMemo(() => {
    if (!pool || !timing || at !== null || (motion === null && together === 1 && school.wiping === 'always')) return null;
    return {
      pool: pool.id,
      after: motion ?? pool.marks.length,
      wiping: school.wiping,
      ...(together > 1 ? { dried: timing.dried(together) } : {}),
    };
  }, [pool, timing, at, motion, together, school.wiping]);

  const { undo, redo } = editor;
  useKey('t', () => void reach('tools'));
  useKey('p', () => void reach('part'));
  useKey('mod+z', undo);
  useKey('mod+y,mod+shift+z', redo);

  const tool = isLed(piping.toolId) ? toolById(piping.toolId) : null;
  const trial = useTrial({ ...view.document, edits: editor.edits }, school, kitchen, totals, words);
  // What a stroke adds is shown once it is worked out: hands, and what the cookie then waits longer.
  const beforeStroke = useRef<typeof totals | null>(null);
  const pipe = (...edits: readonly DesignEdit[]) => {
    // One stroke by itself must find a flood; a whole piece brings its own.
    const [only] = edits.length === 1 ? edits : [];
    const first =
      only?.type === 'draw' && (markTechniques as readonly string[]).includes(only.technique) ? only.strokes[0]?.points[0] : undefined;
    if (first && !wetBodyAt(design, first)) {
      setSaid(msg`That is done in wet icing: begin it on a flood or a bead.`);
      return;
    }
    setMotion(null);
    if (editor.apply(...edits)) beforeStroke.current = totals;
  };
  useEffect(() => {
    const was = beforeStroke.current;
    if (!was || was === totals) return;
    beforeStroke.current = null;
    const hands = totals.handsOnS - was.handsOnS;
    const waits = addedWaitS(was, totals) ?? 0;
    setSaid(
      `${hands >= 0.5 ? msg`It adds ${span(hands)} of hands to a cookie` : msg`It adds hardly any work`}${
        waits > 0
          ? msg` and
        ${span(waits)} until it is dry`
          : ''
      }.`,
    );
  }, [totals]);

  const move = (id: string, before: string | null) => {
    const moved = rows.find((r) => r.id === id);
    const target = rows.find((r) => r.id === before);
    if (!moved) return;
    const answer = movePart({ ...view.document, edits: editor.edits }, school, moved.parts, target?.parts[0] ?? null);
    if (!answer.ok) setSaid(refusalText(answer.refused));
    else if (editor.apply(...answer.edits)) setSaid(movedText(answer.effect));
  };
  const onMove = useSteady(move);
  const chosenIds = useMemo(() => chosen.map((r) => r.id), [chosen]);
  const lit = useMemo(() => (at === null ? chosen.flatMap((r) => r.parts) : NONE), [at, chosen]);
  const taken = useMemo(
    () => later.design.parts.flatMap((p) => (chosen.some((r) => belongs(p.id, r.whole)) ? [p.id] : [])),
    [later, chosen],
  );
  // What a check warns of, painted where it would be seen, while the checks are looked at and it still holds.
  const warned =
    tab === 'checks' && at === null ? checks.find((c) => c.kind === shownCheck?.kind && c.part === shownCheck.part) : undefined;
  const flawKind = warned && CHECK_FLAWS[warned.kind];
  const flaws = useMemo(() => (warned && flawKind ? flawsOn(design, warned.part, flawKind) : NO_FLAWS), [design, warned, flawKind]);
  const cookie = useMemo(() => lookAfterSteps(later.design, sequence, at ?? sequence.length, air), [later, sequence, at, air]);
  return (
    <div className="grid gap-5">
      <DesignHead head={head} view={view} editor={editor}>
        {actions}
      </DesignHead>
      <Tools piping={piping} onPiping={setPiping} />
      <div className="grid lg:grid-cols-[5fr_4fr_5fr] gap-8 items-start">
        <div className="grid gap-3">
          <EditableCookie
            design={design}
            shown={later.design}
            look={cookie}
            isWhole={at === null}
            lit={lit}
            taken={taken}
            motion={wet}
            flaws={flaws}
            picked={picked}
            onPart={onSelect}
            onPoint={picking ? onPoint : null}
            onDrag={at === null && !tool ? onDrag : null}
          >
            {divided?.type === 'divide' && at === null && !tool && !picking && (
              <Dividers design={design} divided={divided} onEdit={(e) => void editor.apply(e)} />
            )}
            {beneath && at === null && <BeneathPicture design={design} beneath={beneath} />}
            {tool && at === null && !picking && (
              <PipingSurface
                key={tool.id}
                design={design}
                tool={tool}
                piping={piping}
                units={units}
                school={school}
                onDone={(strokes, closed) => {
                  const edit = tool === KNIFE ? cutEdit(design, strokes[0] as readonly Point[]) : drawEdit(piping, strokes, closed);
                  if (typeof edit === 'string') setSaid(edit);
                  else pipe(edit);
                }}
                onCost={(text) => words.say('cost', text)}
                onTrial={(strokes, closed) =>
                  trial.ask(
                    strokes &&
                      (() => {
                        const edit = drawEdit(piping, strokes(), closed);
                        return typeof edit === 'string' ? null : edit;
                      }),
                  )
                }
                onMirror={() => setPiping({ ...piping, symmetry: piping.symmetry.way === 'mirror' ? { way: 'none' } : { way: 'mirror' } })}
                onSay={setSaid}
              />
            )}
          </EditableCookie>
          {flaws.length > 0 && warned && (
            <p role="status" className="text-lg border-l-4 border-error pl-3">
              {msgNodes`So it would look: ${CHECK_WORDS[warned.kind]}, ${word(warned.word)}.`}
            </p>
          )}
          {editor.problem && (
            <p role="alert" className="text-error font-medium text-lg">
              {editor.problem}
            </p>
          )}
          {said && (
            <p role="status" className="text-lg border-l-4 border-primary pl-3">
              {said}
            </p>
          )}
          {pool && timing && at === null && (
            <WetMotions
              key={pool.id}
              design={design}
              pool={pool}
              timing={timing}
              wiping={school.wiping}
              after={motion}
              together={together}
              onAfter={setMotion}
              onTogether={setTogether}
            />
          )}
          <DesignName key={design.name} name={design.name} onName={(name) => void editor.apply({ type: 'rename', name })} />
          <SizePanel
            key={String(picking)}
            design={design}
            picking={picking}
            picked={picked}
            onPicking={(on) => {
              setPicking(on);
              setPicked([]);
            }}
            onEdit={(e) => editor.apply(e)}
          />
          <div className="grid gap-1">
            <label className="flex items-center gap-2 text-lg min-h-11">
              <input
                type="checkbox"
                className="checkbox"
                checked={design.transfer ?? false}
                onChange={(e) => editor.apply({ type: 'transfer', on: e.target.checked })}
              />
              {msg`a transfer: piped on parchment the day before, with spares`}
            </label>
            <label className="flex items-center gap-2 text-lg min-h-11">
              <span className="whitespace-nowrap">{msg`free order:`}</span>
              <select
                className="select"
                value={design.ordering ?? 'extremities'}
                onChange={(e) => editor.apply({ type: 'ordering', ordering: e.target.value as Ordering })}
              >
                {orderings.map((o) => (
                  <option key={o} value={o}>
                    {ORDERING_TEXT[o]}
                  </option>
                ))}
              </select>
            </label>
          </div>
        </div>
        <div className="grid gap-4">
          {piping.toolId !== null && (
            <PipingBar
              key={piping.toolId}
              design={design}
              designId={view.id}
              piping={piping}
              palette={[...new Set(design.parts.map((p) => p.colour))]}
              sectionId={sectionId}
              followed={selectedPart?.role === 'section' || selectedPart?.role === 'line' ? selectedPart : null}
              words={words}
              onPiping={setPiping}
              onEdit={pipe}
              onSay={setSaid}
            >
              <BeneathControls beneath={beneath} onBeneath={setBeneath} onSay={setSaid} />
            </PipingBar>
          )}
          {piping.toolId === null && beneath && <BeneathControls beneath={beneath} onBeneath={setBeneath} onSay={setSaid} />}
          <Stack rows={rows} selected={selected} chosen={chosenIds} onSelect={onSelect} onMove={onMove} />
          {chosen.length > 0 && <Arrange key={chosenIds.join(' ')} design={design} rows={chosen} onEdit={arrange} />}
        </div>
        <Tabs.Root value={tab} onValueChange={(t) => look({ tab: t === 'part' ? '' : t })} className="grid gap-4">
          <Tabs.List aria-label={msg`About this design`} className="flex flex-wrap gap-2">
            {TABS.map((t) => (
              <Tabs.Tab key={t} value={t} className={`btn ${tab === t ? 'btn-neutral' : ''}`}>
                {t === 'checks' && checks.length > 0 ? msg`checks (${checks.length})` : word(t)}
              </Tabs.Tab>
            ))}
          </Tabs.List>
          <Tabs.Panel value={tab} className="outline-none">
            {tab === 'part' &&
              (row ? (
                <PartPanel
                  key={row.id}
                  design={design}
                  graph={graph}
                  row={row}
                  school={school}
                  air={air}
                  picked={picked}
                  laid={laid?.type === 'pattern' ? laid : null}
                  onEdit={(...e) => void editor.apply(...e)}
                />
              ) : (
                <p className="text-lg">{msg`Touch a part on the cookie or in the list.`}</p>
              ))}
            {tab === 'checks' && (
              <ChecksPanel
                totals={totals}
                checks={checks}
                suggestions={suggestions}
                cautions={cautions}
                air={`${airText(air.tempC, air.humidityFrac * 100, units)}, ${
                  airFrom === 'sensor'
                    ? msg`as the sensor reads it`
                    : msg`as
                  it was said of this kitchen`
                }`}
                shown={shownCheck}
                onShow={(c) => {
                  look({ part: rowOfPart(rows, c.part)?.id ?? c.part, tab: 'checks' });
                  setAlso(NONE);
                  setShownCheck(c);
                }}
                onTake={(e) => void editor.apply(...e)}
              />
            )}
            {tab === 'school' && (
              <SchoolPanel
                design={design}
                designKey={designKey}
                now={{ air, airAt, factors, tips }}
                schoolId={school.id}
                onSchool={setSchoolId}
              />
            )}
            {tab === 'reading' && <Reading design={design} onPart={select} onEdit={(...e) => void editor.apply(...e)} />}
          </Tabs.Panel>
        </Tabs.Root>
      </div>
      {tab === 'school' && !school.preset && <OwnSchool key={school.id} school={school} onRemoved={() => setSchoolId('two-bags')} />}
      <Strip design={later.design} sequence={sequence} air={air} at={at} onPick={setAt} />
    </div>
  );
}
