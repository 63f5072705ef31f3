import { type Design, marksOf } from '@kestfog/core/design';
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
    if (marks.length === 0 || globalThis.matchMedia?.('(prefers-reduced-motion: reduce)').matches !== false) return;
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
  return (
    <Cookie
      design={design}
      look={look}
      lit={share < 1 ? [] : parts}
      motion={share < 1 ? { marks, share } : null}
      className={className}
      label={label}
    />
  );
}
