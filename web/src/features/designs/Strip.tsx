import type { Design } from '@kestfog/core/design';
import type { Air } from '@kestfog/core/drying';
import { lookAfterSteps, type SequencedStep } from '@kestfog/core/planning';
import { msg } from '@kestfog/core/words';
import { memo, useEffect, useRef, useState } from 'react';
import { clockAfter } from '../../text/time.js';
import { Cookie } from '../../ui/Cookie.js';
import { msgNodes } from '../../ui/msg-nodes.js';

interface Props {
  readonly design: Design;
  readonly sequence: readonly SequencedStep[];
  readonly air: Air;
  readonly at: number | null;
  readonly onPick: (count: number | null) => void;
}

/** One picture a step, each surface with the finish it has by then. */
export const Strip = memo(function Strip({ design, sequence, air, at, onPick }: Props) {
  const list = useRef<HTMLOListElement>(null);
  const near = useNear(list, sequence);
  return (
    <ol ref={list} aria-label={msg`One picture a step`} className="layer-of-its-own flex gap-2 overflow-x-auto pb-3">
      {sequence.map(({ step, endS }, i) => {
        const count = i + 1;
        if (step.kind === 'prepare' || step.kind === 'dam') return null;
        return (
          <li key={step.id} data-count={count} className="shrink-0 w-32 h-36 [content-visibility:auto]">
            <button
              type="button"
              className={`w-32 h-36 p-1 rounded-box border text-left ${at === count ? 'border-base-content border-2' : 'border-base-300'}`}
              aria-pressed={at === count}
              onClick={() => onPick(at === count ? null : count)}
            >
              {near.has(count) ? (
                <Cookie
                  design={design}
                  look={lookAfterSteps(design, sequence, count, air)}
                  lit={step.parts}
                  className="w-full h-20"
                  label={msg`after ${step.label}`}
                />
              ) : (
                <span className="block w-full h-20">
                  <span className="sr-only">{msgNodes`after ${step.label}`}</span>
                </span>
              )}
              <span className="block text-sm leading-tight truncate">{step.kind === 'pack' ? msg`pack` : step.label}</span>
              <span className="block text-sm clock opacity-80">{clockAfter(endS)}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
});

/** Pictures this far beyond the edge are drawn already, so that scrolling finds them there. */
const AHEAD_PX = 280;

/**
 * Which pictures of a list that scrolls sideways are seen, or nearly: a design of three hundred parts has as many pictures, each of
 * hundreds of shapes, and only ten are looked at at a time.
 */
function useNear(list: React.RefObject<HTMLOListElement | null>, of: unknown): ReadonlySet<number> {
  const [near, setNear] = useState<ReadonlySet<number>>(new Set());
  // Another sequence has other items to watch.
  useEffect(() => {
    const items = [...(list.current?.children ?? [])];
    const countOf = (item: Element) => Number((item as HTMLElement).dataset['count']);
    if (typeof IntersectionObserver === 'undefined') return setNear(new Set(items.map(countOf)));
    setNear(new Set());
    const watch = new IntersectionObserver(
      (seen) =>
        setNear((now) => {
          const next = new Set(now);
          for (const s of seen) {
            if (s.isIntersecting) next.add(countOf(s.target));
            else next.delete(countOf(s.target));
          }
          return next;
        }),
      { root: list.current, rootMargin: `0px ${AHEAD_PX}px` },
    );
    for (const item of items) watch.observe(item);
    return () => watch.disconnect();
  }, [list, of]);
  return near;
}
