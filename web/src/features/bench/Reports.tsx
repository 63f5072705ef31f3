import type { BenchView, MayTouch, RunEvent, RunState, Touched } from '@kestfog/core/bench';
import { type Bag, bagKey, defects } from '@kestfog/core/steps';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useColourName } from '../../app/colour-names.js';
import { bagText, capital } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { REHEARSAL } from '../rehearsal/rehearsal-id.js';
import type { Run } from './use-run.js';

export type Asking =
  | { readonly kind: 'tray'; readonly trayId: string }
  | { readonly kind: 'defect'; readonly lotId: string; readonly cookie: number; readonly broken: boolean }
  | { readonly kind: 'shut'; readonly taskId: string; readonly found: boolean }
  | { readonly kind: 'bag' }
  | { readonly kind: 'count'; readonly bag: Bag }
  | { readonly kind: 'early'; readonly step: Pick<RunEvent, 'type' | 'data'>; readonly untilMs: number }
  | { readonly kind: 'keep' }
  | { readonly kind: 'how' };

interface Props {
  readonly bench: Run;
  readonly state: RunState;
  readonly view: BenchView;
  /** the body a finger may speak of now */
  readonly touch: MayTouch | null;
  readonly onAsk: (asking: Asking) => void;
}

/** What may have to be said at the bench, one touch each; on a phone behind one button. */
export function Reports({ bench, view, state, touch, onAsk }: Props) {
  const [open, setOpen] = useState(false);
  const { now } = view;
  if (!now || state.startedAtMs === null || state.pausedAtMs !== null) return null;
  const { task } = now;
  const inHand = view.inHandSinceMs !== null;
  const wetWork = inHand && task.motions.some((m) => m.kind === 'mark');
  const cookie = task.lotId === null ? null : { lotId: task.lotId, cookie: task.cookies[0] };
  const other = view.next[0]?.task;
  // The cookie a finger goes to: the one that is furthest behind.
  const which = touch && task.cookies[1] - task.cookies[0] > 1 ? msg`cookie ${touch.body.body.cookie + 1} ` : '';
  const found = (what: Touched['found']) => {
    const { body, state: asked } = (touch as MayTouch).body;
    bench.send({ type: 'touched', data: { taskId: task.id, cookie: body.cookie, part: body.stepId, state: asked, found: what } });
  };
  const reports: { readonly label: string; readonly act: () => void }[] = [
    ...(touch?.notYet ? [{ label: msg`${which}not ${word(touch.body.state)} yet`, act: () => found('not-yet') }] : []),
    ...(touch?.reached ? [{ label: msg`${which}${word(touch.body.state)} already`, act: () => found('reached') }] : []),
    ...(wetWork ? [{ label: msg`skinning`, act: () => onAsk({ kind: 'shut', taskId: task.id, found: true }) }] : []),
    ...(task.bags.length > 0 ? [{ label: msg`trouble with a bag`, act: () => onAsk({ kind: 'bag' }) }] : []),
    ...(cookie
      ? [
          { label: msg`a defect`, act: () => onAsk({ kind: 'defect', ...cookie, broken: false }) },
          { label: msg`cookie broken`, act: () => onAsk({ kind: 'defect', ...cookie, broken: true }) },
        ]
      : []),
    // Of a rehearsal nothing stays.
    ...(bench.run?.id === REHEARSAL ? [] : [{ label: msg`a photo or a word`, act: () => onAsk({ kind: 'keep' }) }]),
    { label: msg`phone call`, act: () => bench.send({ type: 'paused', data: {} }) },
    ...(other
      ? [
          {
            label: other.trayId === task.trayId ? msg`the next one first` : msg`tray ${other.trayId} first`,
            act: () => bench.send({ type: 'swapped', data: { taskId: other.id, insteadOf: task.id } }),
          },
        ]
      : []),
  ];
  const button = (r: (typeof reports)[number], close: boolean) => (
    <button
      key={r.label}
      type="button"
      className="btn min-h-16 h-auto text-xl px-3 font-normal"
      onClick={() => {
        if (close) setOpen(false);
        r.act();
      }}
    >
      {r.label}
    </button>
  );
  return (
    <>
      <section aria-label={msg`Reports`} className="hidden sm:flex flex-wrap gap-2">
        {reports.map((r) => button(r, false))}
      </section>
      <button type="button" className="btn min-h-16 text-xl sm:hidden w-full" onClick={() => setOpen(true)}>
        {msg`report something`}
      </button>
      {open && (
        <Sheet title={msg`What is it?`} onClose={() => setOpen(false)}>
          <div className="grid gap-3">{reports.map((r) => button(r, true))}</div>
        </Sheet>
      )}
    </>
  );
}

/** Which of the bags in hand has stiffened, and what helps a bag. */
export function WhichBag({
  bags,
  onBag,
  onClose,
}: {
  readonly bags: readonly Bag[];
  readonly onBag: (bag: Bag) => void;
  readonly onClose: () => void;
}) {
  const nameOf = useColourName();
  return (
    <Sheet title={msg`Which bag has stiffened?`} onClose={onClose}>
      <div className="grid sm:grid-cols-2 gap-3">
        {bags.map((b) => (
          <button key={bagKey(b)} type="button" className="btn min-h-24 text-2xl justify-start gap-4" onClick={() => onBag(b)}>
            <span className="inline-block w-12 h-12 rounded-full border-2 border-base-content/60" style={{ background: b.colour }} />
            {bagText(b, nameOf)}
          </button>
        ))}
      </div>
      <p className="mt-4">{msg`Knead it first. If it is still stiff, a few drops of water, knead again, and count it.`}</p>
      <ul className="mt-4 grid gap-3">
        {defects
          .filter((d) => d.on === 'bag')
          .map((d) => (
            <li key={d.id} className="border-l-4 border-base-content/40 pl-4">
              {msgNodes`${<b>{capital(d.seen)}</b>} (${d.looks}): ${d.cure?.text}. Next time: ${d.prevention}.`}
            </li>
          ))}
      </ul>
    </Sheet>
  );
}
