import type { Shape } from '../geometry/shape.js';
import { TrayPacking } from './tray-packing.js';

/** How many cookies of an outline lie on a flat rectangle (a tray, a carton), mm, `gapMm` between them and none to its rim. */
export const placesOn = (outline: Shape, widthMm: number, depthMm: number, gapMm: number): number =>
  new TrayPacking(widthMm, depthMm, gapMm).lay(outline, Number.POSITIVE_INFINITY).length;
