import { type CookieOutcome, cookiesOf, lookNow, runIndex, tallyOf } from '@kestfog/core/bench';
import { marksOf, partById } from '@kestfog/core/design';
import type { SurfaceState } from '@kestfog/core/drying';
import { flawsOn } from '@kestfog/core/picture';
import { type DefectId, defects, rescue } from '@kestfog/core/steps';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { capital } from '../../text/words.js';
import { Choice } from '../../ui/Choice.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { EditableCookie } from '../designs/EditableCookie.js';
import { DEFECT_FLAWS } from './defect-flaws.js';
import { SURFACES, stateToShow } from './defect-text.js';
import type { Run } from './use-run.js';

interface Props {
  readonly bench: Run;
  readonly lotId: string;
  readonly cookie: number;
  /** where the report came with it */
  readonly seen: DefectId | null;
  readonly onClose: () => void;
}

/** A defect put on the part of the cookie it is on, and the card that says what can still be done. */
export function DefectSheet({ bench, lotId, cookie, seen: first, onClose }: Props) {
  const { state, nowMs } = bench;
  const [which, setWhich] = useState(cookie);
  const [part, setPart] = useState<string | null>(null);
  const [seen, setSeen] = useState<DefectId | null>(first);
  const [reported, setReported] = useState<SurfaceState | null>(null);
  const index = state && runIndex(state);
  const lot = index?.plan.lot(lotId);
  const design = index?.plan.designOf(lotId)?.drawing;
  if (!index || !lot || !design) return null;
  const look = lookNow(index, lot, which, nowMs);
  const section = part ? (marksOf(design).find((m) => m.id === part)?.sectionId ?? part) : null;
  const surface = reported ?? stateToShow(section ? (look.sections[section] ?? look.lines[section]) : Object.values(look.sections).at(-1));
  const tally = tallyOf(index, lot.designId);
  // On the part it was put on it is painted as it was reported, so that it is seen to be the right one.
  const kind = seen ? DEFECT_FLAWS[seen] : undefined;
  const flaws = part && kind ? flawsOn(design, part, kind) : [];
  const card = seen ? rescue(seen, surface) : null;
  const keep = (outcome: CookieOutcome) => {
    if (!seen) return;
    bench.send({ type: 'defect', data: { lotId, cookie: which, part, seen, surface, outcome } });
    onClose();
  };
  const name = part ? partById(design, part)?.name : null;
  const choice = 'btn min-h-16 h-auto text-xl';
  return (
    <Sheet title={msg`${design.name}, cookie ${which + 1} of tray ${lot.trayId}`} onClose={onClose}>
      <div className="grid lg:grid-cols-[20rem_1fr] gap-6">
        <div>
          <EditableCookie
            design={design}
            look={look}
            lit={part ? [part] : []}
            motion={null}
            flaws={flaws}
            picked={[]}
            onPart={setPart}
            onPoint={null}
            onDrag={null}
          />
          <p className="mt-2">{seen === 'broken' ? msg`Which one is it?` : name ? msg`On the ${name}` : msg`Touch the part it is on`}</p>
          {lot.cookies > 1 && (
            <Choice
              className="mt-2"
              size="min-h-16 min-w-16 text-xl"
              label={msg`Which cookie`}
              value={String(which)}
              options={cookiesOf(lot).map((c) => ({ id: String(c), label: c + 1 }))}
              onChange={(c) => setWhich(Number(c))}
            />
          )}
        </div>
        <div className="grid gap-4 content-start">
          <section aria-label={msg`What is seen`}>
            <div className="flex flex-wrap gap-2">
              {defects
                .filter((d) => d.on === 'cookie' && (seen === null || d.id === seen))
                .map((d) => (
                  <button
                    key={d.id}
                    type="button"
                    className={`${choice} ${d.id === seen ? 'btn-primary' : ''}`}
                    aria-pressed={d.id === seen}
                    onClick={() => setSeen(d.id)}
                  >
                    {d.seen}
                  </button>
                ))}
              {seen !== null && (
                <button type="button" className="btn btn-ghost min-h-16 h-auto text-xl" onClick={() => setSeen(null)}>
                  {msg`something else`}
                </button>
              )}
            </div>
          </section>
          {seen && seen !== 'broken' && (
            <section aria-label={msg`The surface now`}>
              <h3 className="text-2xl font-semibold">{msg`What is the surface now?`}</h3>
              <Choice
                className="mt-1"
                size="min-h-16 h-auto text-xl py-2"
                label={msg`The surface now`}
                value={surface}
                options={SURFACES.map((s) => ({ id: s.state, label: s.label }))}
                onChange={setReported}
              />
            </section>
          )}
          {card && (
            <section aria-label={msg`Rescue`} className="border-l-8 border-primary pl-4">
              <h3 className="text-2xl font-semibold">
                {card.cure
                  ? capital(card.cure)
                  : card.cover?.now
                    ? capital(card.cover.text)
                    : card.cover
                      ? msg`Leave it until it is ${word(card.cover.from)}`
                      : msg`Nothing cures it`}
                .
              </h3>
              <p>
                {msgNodes`It looks like this: ${card.looks}. ${
                  card.cover &&
                  !card.cover.now &&
                  msg`Then ${card.cover.text}.
                  `
                }${card.cure && card.cover?.now ? msg`Or ${card.cover.text}. ` : ''}It comes from: ${card.causes}. Next time:
                    ${card.prevention}.`}
              </p>
              <div className="flex flex-wrap gap-2 mt-3">
                {card.cure && (
                  <button type="button" className={`${choice} btn-primary`} onClick={() => keep('mended')}>
                    {msg`mended`}
                  </button>
                )}
                {card.cover && (
                  <button type="button" className={choice} onClick={() => keep(card.cover?.now ? 'covered' : 'to-cover')}>
                    {card.cover.now ? msg`covered` : msg`to be covered`}
                  </button>
                )}
                {seen !== 'broken' && (
                  <button type="button" className={choice} onClick={() => keep('left')}>
                    {msg`leave it as it is`}
                  </button>
                )}
                <button type="button" className={choice} onClick={() => keep(tally.left > tally.ordered ? 'spare' : 'shorter')}>
                  {tally.left > tally.ordered
                    ? msg`it is out: ${tally.left - tally.ordered} spare`
                    : msg`it is out: the order is one short`}
                </button>
                {seen !== 'broken' && (
                  <>
                    <button type="button" className={choice} onClick={() => keep('tie-dye')}>
                      {msg`make it a tie-dye`}
                    </button>
                    <button type="button" className={choice} onClick={() => keep('again')}>
                      {msg`scrape it, begin again`}
                    </button>
                  </>
                )}
              </div>
            </section>
          )}
        </div>
      </div>
    </Sheet>
  );
}
