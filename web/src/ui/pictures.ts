import type { Design } from '@kestfog/core/design';
import type { WetMotion } from '@kestfog/core/picture';
import { type Remote, wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { PictureAsk, PictureWork } from '../workers/picture.worker.js';

/** Widths pictures are painted in, device pixels: a list of many cookies of nearly one size is one picture. */
const WIDTHS = [24, 36, 48, 72, 96, 144, 208, 288, 400, 560, 800] as const;
const MOST_PICTURES = 240;

let worker: Remote<PictureWork> | null | undefined;
function painter(): Remote<PictureWork> | null {
  if (worker !== undefined) return worker;
  // Without workers (tests, a very old browser) the cookie keeps its bare outline.
  worker =
    typeof Worker === 'undefined' || typeof OffscreenCanvas === 'undefined'
      ? null
      : wrap<PictureWork>(new Worker(new URL('../workers/picture.worker.ts', import.meta.url), { type: 'module', name: 'pictures' }));
  return worker;
}

const ids = new WeakMap<Design, number>();
let lastId = 0;
const sent = new Set<number>();
const idOf = (design: Design): number => {
  const known = ids.get(design);
  if (known !== undefined) return known;
  ids.set(design, ++lastId);
  return lastId;
};

/** Pictures by what they show; the oldest are let go. */
const pictures = new Map<string, string>();
interface Painting {
  readonly answer: Promise<string | null>;
  /** how many still look at it: one nobody looks at any more is not begun */
  watched: number;
}
const painting = new Map<string, Painting>();

/** Asked one after another, the newest first: what is looked at now matters more than what was scrolled past. */
const waiting: (() => Promise<void>)[] = [];
let isRunning = false;
async function goOn(): Promise<void> {
  if (isRunning) return;
  isRunning = true;
  for (let next = waiting.pop(); next; next = waiting.pop()) await next();
  isRunning = false;
}
const inLine = <T>(work: () => Promise<T>): Promise<T> =>
  new Promise((done, fail) => {
    waiting.push(() => work().then(done, fail));
    queueMicrotask(() => void goOn());
  });

async function withDesign<T>(design: Design, ask: (p: Remote<PictureWork>, id: number) => Promise<T | null>): Promise<T | null> {
  const p = painter();
  if (!p) return null;
  const id = idOf(design);
  if (!sent.has(id)) {
    sent.add(id);
    await p.know(id, design);
  }
  const answer = await ask(p, id);
  if (answer !== null) return answer;
  await p.know(id, design);
  return ask(p, id);
}

function pictureOf(key: string, design: Design, ask: PictureAsk, px: number): Painting {
  const found = painting.get(key);
  if (found) return found;
  const made: Painting = {
    watched: 0,
    answer: inLine(async () => (made.watched > 0 ? withDesign<string>(design, (p, id) => p.picture(id, ask, px)) : null))
      .then((url) => {
        // What passes by in the middle of a motion is not worth keeping.
        if (url && isWhole(ask.motion)) pictures.set(key, url);
        const oldest = pictures.keys().next().value;
        if (pictures.size > MOST_PICTURES && oldest !== undefined) pictures.delete(oldest);
        return url;
      })
      .finally(() => painting.delete(key)),
  };
  painting.set(key, made);
  return made;
}

const isWhole = (motion?: WetMotion): boolean => motion === undefined || ('pool' in motion && Number.isInteger(motion.after));

export const widthFor = (cssPx: number): number => {
  const px = cssPx * Math.min(2, globalThis.devicePixelRatio || 1);
  return WIDTHS.find((w) => w >= px * 0.98) ?? WIDTHS[WIDTHS.length - 1] ?? 800;
};

/** Whether two drawings are one design before and after an edit: then the one before is shown until the other is painted. */
function isSameCookie(a: Design, b: Design): boolean {
  if (a === b) return true;
  const [p, q] = [a.cookie[0] ?? [], b.cookie[0] ?? []];
  return p.length === q.length && p[0]?.x === q[0]?.x && p[0]?.y === q[0]?.y && a.parts[0]?.id === b.parts[0]?.id;
}

/** The picture of a cookie, `cssPx` wide; the last one until another is painted, null before the first. */
export function usePicture(
  design: Design,
  ask: PictureAsk,
  cssPx: number,
): { readonly url: string | null /** the design that picture is of */; readonly of: Design | null; readonly isCurrent: boolean } {
  const px = widthFor(cssPx);
  const key = cssPx > 0 ? `${idOf(design)} ${px} ${JSON.stringify(ask)}` : null;
  const [shown, setShown] = useState<{ readonly of: Design; readonly key: string; readonly url: string; readonly turn: number } | null>(
    null,
  );
  const turn = useRef(0);
  const ready = key === null ? undefined : pictures.get(key);
  useEffect(() => {
    if (key === null) return;
    turn.current += 1;
    const mine = turn.current;
    // What was asked for before this comes late, but not too late: while something moves, the last finished picture is shown.
    const show = (url: string) => setShown((now) => (now && now.turn > mine ? now : { of: design, key, url, turn: mine }));
    if (ready) return show(ready);
    const made = pictureOf(key, design, ask, px);
    made.watched += 1;
    made.answer.then(
      (url) => url && show(url),
      // A picture that cannot be painted leaves the outline; what matters stands in words beside it.
      () => undefined,
    );
    return () => {
      made.watched -= 1;
    };
  }, [key, ready]);
  if (ready) return { url: ready, of: design, isCurrent: true };
  return shown && isSameCookie(shown.of, design)
    ? { url: shown.url, of: shown.of, isCurrent: shown.key === key }
    : { url: null, of: null, isCurrent: false };
}

/** What the wet marks of a pool come to after so many motions. */
export const flowOf = (design: Design, motion: WetMotion) => withDesign(design, (p, id) => p.flow(id, motion));
