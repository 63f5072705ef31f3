import { type Design, type DesignEdit, foldDesign, standingEdits } from '@kestfog/core/design';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import { BadInput } from '@kestfog/core/units';
import type { DesignView } from '@kestfog/core/wire';
import { refusalText } from '@kestfog/core/wording';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ApiFailure } from '../../api/client.js';
import { keepDesign } from '../../api/queries.js';

export interface Editor {
  readonly design: Design;
  readonly edits: readonly DesignEdit[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly saved: 'saved' | 'saving' | 'waiting' | 'refused';
  /** why the last change was not taken, in one sentence */
  readonly problem: string | null;
  readonly apply: (...edits: DesignEdit[]) => boolean;
  readonly undo: () => void;
  readonly redo: () => void;
}

const SAVE_AFTER_MS = 500;
const TRY_AGAIN_MS = 3000;
const keyOf = (id: string) => `kestfog.design.${id}`;

/** Edits not yet kept by the server, from an earlier visit that lost its network. */
function unsent(view: DesignView): readonly DesignEdit[] {
  const kept = localStorage.getItem(keyOf(view.id));
  if (!kept) return view.document.edits;
  const edits = JSON.parse(kept) as DesignEdit[];
  const extend = view.document.edits.every((e, i) => JSON.stringify(e) === JSON.stringify(edits[i]));
  return extend ? edits : view.document.edits;
}

/** Works on a design: every change is an event, folded at once here, kept by the server soon after. */
export function useEditor(view: DesignView): Editor {
  const client = useQueryClient();
  const [edits, setEdits] = useState<readonly DesignEdit[]>(() => unsent(view));
  const [saved, setSaved] = useState<Editor['saved']>(edits.length === view.document.edits.length ? 'saved' : 'waiting');
  const [problem, setProblem] = useState<string | null>(null);
  const keptCount = useRef(view.document.edits.length);
  const document = useMemo(() => ({ ...view.document, edits }), [view.document, edits]);
  const design = useMemo(() => foldDesign(document), [document]);
  const { standing, redoable } = useMemo(() => standingEdits(edits), [edits]);

  useEffect(() => {
    if (edits.length === keptCount.current) return;
    localStorage.setItem(keyOf(view.id), JSON.stringify(edits));
    setSaved('waiting');
    let timer: ReturnType<typeof setTimeout>;
    let stopped = false;
    const save = async () => {
      setSaved('saving');
      try {
        const answer = await keepDesign(view.id, edits);
        keptCount.current = edits.length;
        if (localStorage.getItem(keyOf(view.id)) === JSON.stringify(edits)) localStorage.removeItem(keyOf(view.id));
        client.setQueryData(['design', view.id], answer);
        void client.invalidateQueries({ queryKey: ['designs'] });
        void client.invalidateQueries({ queryKey: ['orders'] });
        if (!stopped) setSaved('saved');
      } catch (error) {
        if (stopped) return;
        if (error instanceof ApiFailure && error.status >= 400 && error.status < 500) {
          setProblem(error.message);
          setSaved('refused');
          // What can never be kept is neither shown as if it were, nor tried again when the page is next loaded.
          if (error.code !== 'changed-elsewhere') {
            localStorage.removeItem(keyOf(view.id));
            setEdits((now) => now.slice(0, keptCount.current));
          }
        } else {
          setSaved('waiting');
          timer = setTimeout(() => void save(), TRY_AGAIN_MS);
        }
      }
    };
    timer = setTimeout(() => void save(), SAVE_AFTER_MS);
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [edits, view.id, client]);

  const apply = useCallback(
    (...more: DesignEdit[]): boolean => {
      const next = [...edits, ...more];
      try {
        // What contradicts itself is refused here, in one sentence, before it is shown or kept.
        deriveSteps(foldDesign({ ...view.document, edits: next }), schoolById('two-bags'));
      } catch (error) {
        setProblem(error instanceof BadInput ? refusalText(error) : String(error));
        return false;
      }
      setProblem(null);
      setEdits(next);
      return true;
    },
    [edits, view.document],
  );
  const undo = useCallback(() => void (standing.length > 0 && apply({ type: 'undo' })), [apply, standing.length]);
  const redo = useCallback(() => void (redoable > 0 && apply({ type: 'redo' })), [apply, redoable]);
  return { design, edits, canUndo: standing.length > 0, canRedo: redoable > 0, saved, problem, apply, undo, redo };
}
