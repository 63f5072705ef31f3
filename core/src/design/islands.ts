import { areaMm2, boundingBox, boxesMeet, contains, type Shape } from '../geometry/shape.js';

/** A filled path's islands, each with the holes that lie in it. */
export function islands(shape: Shape): { readonly ring: Shape[number]; readonly holes: Shape }[] {
  const outers = shape.filter((r) => areaMm2([r]) > 0);
  const holes = shape.filter((r) => areaMm2([r]) < 0);
  const boxes = outers.map((r) => boundingBox(r));
  return outers.map((ring, i) => ({
    ring,
    holes: holes.filter(
      (h) => boxesMeet(boundingBox(h), boxes[i] as (typeof boxes)[number]) && contains([ring], h[0] as Shape[number][number]),
    ),
  }));
}
