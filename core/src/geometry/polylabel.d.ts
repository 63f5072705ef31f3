declare module 'polylabel' {
  /** Pole of inaccessibility of a polygon (outer ring, then holes): [x, y] with the distance to the nearest edge. */
  export default function polylabel(polygon: [number, number][][], precision?: number): number[] & { distance: number };
}
