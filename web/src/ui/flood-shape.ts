import type { Section } from '@kestfog/core/design';
import { type Box, boundingBox, pathData, type Shape } from '@kestfog/core/geometry';
import { useSyncExternalStore } from 'react';

interface Drawn {
  readonly d: string;
  readonly box: Box;
}
type Inset = (shape: Shape, byMm: number) => Shape;

// The polygon package is large, and lists show finished cookies only: it is fetched when a flood that stops short is first drawn.
let inset: Inset | null = null;
let asked = false;
const listeners = new Set<() => void>();
function fetchInset(): void {
  if (asked) return;
  asked = true;
  import('./inset.js').then(
    (m) => {
      inset = m.inset;
      for (const l of listeners) l();
    },
    // Drawn to its line until it can be fetched.
    () => {
      asked = false;
    },
  );
}
const subscribe = (on: () => void) => {
  listeners.add(on);
  return () => listeners.delete(on);
};

const known = new WeakMap<Section, Map<number, Drawn>>();

/** The outline of a flood that stops `edgeMm` short of its line, where the biscuit shows round it; worked out once for all its cookies. */
export function useFloodShape(section: Section, edgeMm: number): Drawn {
  const shrink = useSyncExternalStore(subscribe, () => inset);
  if (edgeMm > 0 && !shrink) fetchInset();
  const short = edgeMm > 0 && shrink ? edgeMm : 0;
  const drawn: Map<number, Drawn> = known.get(section) ?? new Map();
  known.set(section, drawn);
  const found = drawn.get(short);
  if (found) return found;
  const shape = short > 0 && shrink ? shrink(section.shape, short) : section.shape;
  const made = { d: pathData(shape), box: boundingBox((shape.length > 0 ? shape : section.shape).flat()) };
  drawn.set(short, made);
  return made;
}
