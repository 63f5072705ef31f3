import type { Point } from '@kestfog/core/geometry';

/** Where a pointer stands in a drawing's own units; null while it is not laid out. */
export function placeIn(svg: SVGSVGElement | null, e: { readonly clientX: number; readonly clientY: number }): Point | null {
  const matrix = svg?.getScreenCTM();
  if (!matrix) return null;
  const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
  return { x, y };
}
