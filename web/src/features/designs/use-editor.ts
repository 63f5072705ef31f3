import { type Design, type DesignEdit, doneTogether, editsGoOn, foldDesign, type SingleEdit, standingEdits } from '@kestfog/core/design';
import { BadInput } from '@kestfog/core/units';
import type { DesignView } from '@kestfog/core/wire';
import { refusalText } from '@kestfog/core/wording';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { designQueue, outbox, putEdits, useOutbox, waitingEdits } from '../../outbox/index.js';
import { afterPaint } from '../../ui/after-paint.js';

export interface Editor {
  readonly design: Design;
  readonly edits: readonly DesignEdit[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly saved: 'saved' | 'waiting' | 'refused';
  /** why the last change was not taken, in one sentence */
  readonly problem: string | null;
  readonly apply: (...edits: DesignEdit[]) => boolean;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** What the page begins with: edits that still wait on this device, where they go on from what the server has. */
function unsent(view: DesignView): readonly DesignEdit[] {
  const waiting = waitingEdits(outbox.all(), view.id);
  return waiting && editsGoOn(waiting, view.document.edits) ? waiting : view.document.edits;
}

/**
 * What lays, moves or colours says nothing that could contradict a word, but for one: an order that was asked for may become impossible.
 * It is shown first and looked through after; words are looked through before they are shown.
 */
const SHOWN_FIRST: readonly DesignEdit['type'][] = [
  'draw',
  'pattern',
  'pattern-again',
  'copy',
  'arrange',
  'recolour',
  'transfer',
  'ordering',
  'undo',
  'redo',
];
const isShownFirst = (edits: readonly DesignEdit[]): boolean => edits.every((e) => SHOWN_FIRST.includes(e.type));

/** What is given at once is undone at once. */
function together(edits: readonly DesignEdit[]): readonly DesignEdit[] {
  const singles = edits.filter((e): e is SingleEdit => e.type !== 'together');
  return singles.length === edits.length ? doneTogether(singles) : edits;
}

/**
 * Works on a design: every change is an event, folded at once here, kept by the server soon after. `check` throws where a
 * design's words contradict each other.
 */
export function useEditor(view: DesignView, check: (design: Design) => void): Editor {
  const entries = useOutbox();
  const [edits, setEdits] = useState<readonly DesignEdit[]>(() => unsent(view));
  const [problem, setProblem] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  const document = useMemo(() => ({ ...view.document, edits }), [view.document, edits]);
  const design = useMemo(() => foldDesign(document), [document]);
  const { standing, redoable } = useMemo(() => standingEdits(edits), [edits]);
  const waiting = waitingEdits(entries, view.id);
  /** how many edits there were before those that are shown and not looked through yet; null where there are none */
  const provenCount = useRef<number | null>(null);
  // Whoever changes it also changes the edits or what waits, which paints this anew.
  const saved: Editor['saved'] = waiting || provenCount.current !== null ? 'waiting' : refused ? 'refused' : 'saved';

  // Typed in another tab of this browser: gone on from here, or what is typed next would take its place.
  useEffect(() => {
    if (waiting) setEdits((now) => (waiting.length > now.length && editsGoOn(waiting, now) ? waiting : now));
  }, [waiting]);

  // Done on another device: gone on from too, unless something here waits to be sent.
  const kept = view.document.edits;
  useEffect(() => {
    if (!waiting) setEdits((now) => (kept.length > now.length && editsGoOn(kept, now) ? kept : now));
  }, [kept, waiting]);

  const keptCount = useRef(view.document.edits.length);
  keptCount.current = view.document.edits.length;
  useEffect(
    () =>
      outbox.hear(designQueue(view.id), {
        sent: () => setRefused(false),
        refused: (entry, reason) => {
          setProblem(reason);
          setRefused(true);
          // What can never be kept is not shown as if it were; it lies with what was refused, to be looked at.
          const sent = (entry.request.body as { edits: readonly DesignEdit[] }).edits.length;
          setEdits((now) => (now.length === sent ? now.slice(0, keptCount.current) : now));
        },
      }),
    [view.id],
  );

  const latest = useRef(edits);
  const apply = useCallback(
    (...more: DesignEdit[]): boolean => {
      const next = [...edits, ...together(more)];
      const later = isShownFirst(more);
      const whyNot = (looksThrough: boolean): string | null => {
        try {
          const folded = foldDesign({ ...view.document, edits: next });
          if (looksThrough) check(folded);
          return null;
        } catch (error) {
          return error instanceof BadInput ? refusalText(error) : String(error);
        }
      };
      const keep = () => {
        provenCount.current = null;
        putEdits(view.id, view.name, next);
      };
      // What contradicts itself is refused here, in one sentence, before it is shown or kept; what hands lay is shown first.
      const refusal = whyNot(!later);
      setProblem(refusal);
      if (refusal !== null) return false;
      latest.current = next;
      if (later) provenCount.current ??= edits.length;
      setEdits(next);
      if (!later) {
        keep();
        return true;
      }
      afterPaint(() => {
        // What was done since then goes on from it, and is looked through with it.
        if (latest.current !== next) return;
        const why = whyNot(true);
        if (why === null) return keep();
        const proven = provenCount.current ?? edits.length;
        provenCount.current = null;
        setProblem(why);
        setEdits((now) => (now === next ? now.slice(0, proven) : now));
      });
      return true;
    },
    [edits, view.document, view.id, view.name, check],
  );
  const undo = useCallback(() => void (standing.length > 0 && apply({ type: 'undo' })), [apply, standing.length]);
  const redo = useCallback(() => void (redoable > 0 && apply({ type: 'redo' })), [apply, redoable]);
  return { design, edits, canUndo: standing.length > 0, canRedo: redoable > 0, saved, problem, apply, undo, redo };
}
