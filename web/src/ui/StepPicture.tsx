import { type Design, marksOf } from '@kestfog/core/design';
import type { Gleam } from '@kestfog/core/picture';
import type { CookieLook } from '@kestfog/core/planning';
import { useEffect, useMemo, useState } from 'react';
import { Cookie } from './Cookie.js';

interface Props {
  readonly design: Design;
  readonly look: CookieLook;
  /** what is done in this step */
  readonly parts: readonly string[];
  /** how long the hands take for it on one cookie */
  readonly seconds: number;
  readonly className: string;
  readonly label: string;
}

/** A wet step is shown once as it is done, at the pace of the hands but never for longer than this. */
const LONGEST_S = 8;
const SHORTEST_S = 2;
const FRAME_MS = 130;
/** Highlights on wet icing go to and fro, a picture each time: three of them, painted once. */
const GLEAM_MS = 1_500;
const GLEAMS: readonly Gleam[] = [0, 1, 0, -1];

/** The cookie after a step; what is done in wet icing is seen being done, once, and then stands still. */
export function StepPicture({ design, look, parts, seconds, className, label }: Props) {
  const key = parts.join();
  const marks = useMemo(
    () =>
      marksOf(design)
        .filter((m) => parts.includes(m.id) && (m.technique === 'drag' || m.technique.startsWith('wet-')))
        .map((m) => m.id),
    [design, key],
  );
  const [share, setShare] = useState(1);
  useEffect(() => {
    if (marks.length === 0 || isStill()) return;
    const lastsMs = Math.min(LONGEST_S, Math.max(SHORTEST_S, seconds)) * 1000;
    const began = performance.now();
    setShare(0);
    const timer = setInterval(() => {
      const now = Math.min(1, (performance.now() - began) / lastsMs);
      setShare(now);
      if (now >= 1) clearInterval(timer);
    }, FRAME_MS);
    return () => clearInterval(timer);
  }, [marks, seconds]);
  const gleam = useGleam([...Object.values(look.sections), ...Object.values(look.lines)].includes('wet'));
  return (
    <Cookie
      design={design}
      look={look}
      gleam={share < 1 ? 0 : gleam}
      lit={share < 1 ? [] : parts}
      motion={share < 1 ? { marks, share } : null}
      className={className}
      label={label}
    />
  );
}

/** Nothing moves for who wants it still, or where it is not known. */
const isStill = (): boolean => globalThis.matchMedia?.('(prefers-reduced-motion: reduce)').matches !== false;

/** Where the highlights of wet icing lie now: they tell it from what only shines. Nobody is shown it on a page that is not looked at. */
function useGleam(isWet: boolean): Gleam {
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    if (!isWet || isStill()) return;
    const timer = setInterval(() => document.visibilityState === 'visible' && setTurn((t) => (t + 1) % GLEAMS.length), GLEAM_MS);
    return () => clearInterval(timer);
  }, [isWet]);
  return isWet ? (GLEAMS[turn] as Gleam) : 0;
}
