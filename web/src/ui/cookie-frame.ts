import type { Design } from '@kestfog/core/design';
import { type Box, boundingBox, type Point } from '@kestfog/core/geometry';
import { PICTURE_PAD_MM } from '@kestfog/core/picture';

/** Where a cookie lies in its picture, millimetres: everything drawn over one is drawn in the same frame. */
export interface CookieFrame {
  /** of the baked cookie */
  readonly box: Box;
  readonly middle: Point;
  /** with the air round it, as in its picture */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly viewBox: string;
}

export function cookieFrame(design: Design): CookieFrame {
  const box = boundingBox(design.cookie.flat());
  const [x, y] = [box.minX - PICTURE_PAD_MM, box.minY - PICTURE_PAD_MM];
  const [width, height] = [box.maxX - box.minX + 2 * PICTURE_PAD_MM, box.maxY - box.minY + 2 * PICTURE_PAD_MM];
  return {
    box,
    middle: { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 },
    x,
    y,
    width,
    height,
    viewBox: `${x} ${y} ${width} ${height}`,
  };
}
