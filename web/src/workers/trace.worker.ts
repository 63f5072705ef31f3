import { type TraceAsk, type Tracing, tracedSvg, traceImage } from '@kestfog/core/tracing';
import { BadInput } from '@kestfog/core/units';
import { expose } from 'comlink';

export type TraceAnswer = { readonly ok: true; readonly tracing: Tracing; readonly svg: string } | { readonly ok: false; readonly message: string };

const work = {
  /** Nothing of a picture leaves the machine: it is read, traced and forgotten here. */
  async trace(file: Blob, ask: TraceAsk): Promise<TraceAnswer> {
    try {
      // Turned as its camera says; made smaller at once, since more than a tenth of a millimetre is not needed.
      const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
      const share = Math.min(1, MOST_PX / Math.max(bitmap.width, bitmap.height));
      const [width, height] = [Math.max(1, Math.round(bitmap.width * share)), Math.max(1, Math.round(bitmap.height * share))];
      const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
      if (!context) return { ok: false, message: 'This browser cannot read pictures: try another.' };
      context.drawImage(bitmap, 0, 0, width, height);
      bitmap.close();
      const tracing = traceImage({ width, height, rgba: context.getImageData(0, 0, width, height).data }, ask);
      return { ok: true, tracing, svg: tracedSvg(tracing) };
    } catch (error) {
      return {
        ok: false,
        message:
          error instanceof BadInput
            ? error.message
            : 'The picture cannot be read: it is damaged, or of a kind this browser does not know. Save it as PNG or JPEG.',
      };
    }
  },
};
const MOST_PX = 1200;
export type TraceWork = typeof work;
expose(work);
