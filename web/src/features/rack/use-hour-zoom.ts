import { select } from 'd3-selection';
import { type ZoomBehavior, zoom as zoomBehaviour } from 'd3-zoom';
import { useCallback, useLayoutEffect, useRef, useState } from 'react';
import { LABEL_PX } from './choosing.js';
import type { TimeAxis } from './time-axis.js';

const WIDEST = 16;

/** A moment that stays under the finger, or in the middle, while the hours around it grow. */
interface Anchor {
  readonly atS: number;
  /** from the left of what is in sight */
  readonly px: number;
}

/**
 * How wide an hour is drawn: by Ctrl and the wheel, by pinching, and by keys and buttons. What is zoomed at stays where it is; the plain
 * wheel scrolls the page as everywhere.
 */
export function useHourZoom() {
  const [zoom, setZoom] = useState(1);
  const element = useRef<HTMLElement | null>(null);
  const behaviour = useRef<ZoomBehavior<HTMLElement, unknown> | null>(null);
  const anchor = useRef<Anchor | null>(null);
  const drawn = useRef<TimeAxis | null>(null);

  const holdOn = useCallback((clientX: number | null) => {
    const [el, axis] = [element.current, drawn.current];
    if (!el || !axis) return;
    const px = Math.max(LABEL_PX, clientX === null ? el.clientWidth / 2 : clientX - el.getBoundingClientRect().left);
    anchor.current = { atS: axis.scale.invert(el.scrollLeft + px - LABEL_PX), px };
  }, []);

  const scroller = useCallback(
    (el: HTMLElement | null) => {
      element.current = el;
      if (!el) return;
      behaviour.current = zoomBehaviour<HTMLElement, unknown>()
        .scaleExtent([1, WIDEST])
        .filter((e: WheelEvent | TouchEvent) => ('touches' in e ? e.touches.length === 2 : e.type === 'wheel' && (e.ctrlKey || e.metaKey)))
        .on('zoom', (e: { transform: { k: number }; sourceEvent: WheelEvent | TouchEvent | null }) => {
          const source = e.sourceEvent;
          holdOn(!source ? null : 'touches' in source ? meanX(source.touches) : source.clientX);
          setZoom(e.transform.k);
        });
      select(el).call(behaviour.current).on('dblclick.zoom', null);
    },
    [holdOn],
  );

  const zoomTo = (k: number) => {
    if (element.current && behaviour.current) select(element.current).call(behaviour.current.scaleTo, Math.max(1, Math.min(WIDEST, k)));
  };

  /** To be called with the axis as it is drawn now: what was held on to is brought back to its place. */
  const useInPlace = (axis: TimeAxis) => {
    useLayoutEffect(() => {
      drawn.current = axis;
      const held = anchor.current;
      anchor.current = null;
      if (held && element.current) element.current.scrollLeft = axis.scale(held.atS) + LABEL_PX - held.px;
    }, [axis]);
  };
  return { zoom, zoomTo, scroller, useInPlace };
}

const meanX = (touches: TouchList): number => [...touches].reduce((sum, t) => sum + t.clientX, 0) / Math.max(1, touches.length);
