import type { Point } from '@kestfog/core/geometry';
import {
  type CutterOutline,
  cutterOutline,
  cutterSvg,
  type KnownSize,
  type Pixels,
  type TraceAsk,
  type Tracing,
  tracedSvg,
  traceImage,
} from '@kestfog/core/tracing';
import { BadInput } from '@kestfog/core/units';
import { msg } from '@kestfog/core/words';
import { expose } from 'comlink';
import { lookedAtSize } from '../features/designs/picture-file.js';

type Refused = { readonly ok: false; readonly message: string };
export type TraceAnswer = { readonly ok: true; readonly tracing: Tracing; readonly svg: string } | Refused;
export type CutterAnswer = { readonly ok: true; readonly outline: CutterOutline; readonly svg: string } | Refused;

/** Nothing of a picture leaves the machine: it is read, worked on and forgotten here. */
async function withPixels<T>(file: Blob, work: (picture: Pixels) => T): Promise<T | Refused> {
  try {
    // Turned as its camera says; made smaller at once, since more than a tenth of a millimetre is not needed.
    const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
    const [width, height] = lookedAtSize(bitmap);
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (!context) return { ok: false, message: msg`This browser cannot read pictures: try another.` };
    context.drawImage(bitmap, 0, 0, width, height);
    bitmap.close();
    return work({ width, height, rgba: context.getImageData(0, 0, width, height).data });
  } catch (error) {
    return {
      ok: false,
      message:
        error instanceof BadInput
          ? error.message
          : msg`The picture cannot be read: it is damaged, or of a kind this browser does not know. Save it as PNG or JPEG.`,
    };
  }
}

const work = {
  trace: (file: Blob, ask: TraceAsk): Promise<TraceAnswer> =>
    withPixels(file, (picture) => {
      const tracing = traceImage(picture, ask);
      return { ok: true as const, tracing, svg: tracedSvg(tracing) };
    }),
  cutter: (file: Blob, known: KnownSize, at: Point | null, colour: string): Promise<CutterAnswer> =>
    withPixels(file, (picture) => {
      const outline = cutterOutline(picture, known, at ?? undefined);
      return { ok: true as const, outline, svg: cutterSvg(outline, colour) };
    }),
};
export type TraceWork = typeof work;
expose(work);
