import type { Point, Shape } from '@kestfog/core/geometry';

/** The rings that run so far inside a part's edge. The polygon package is fetched when it is first needed. */
export const insetRings = async (shape: Shape, byMm: number): Promise<readonly (readonly Point[])[]> => {
  const { offset } = await import('@kestfog/core/geometry');
  return offset(shape, -byMm);
};
