import { msg } from '@kestfog/core/words';
import { imageSize } from 'image-size';
import { type ReadPicture, shrunk, sizeWithin } from '../../ui/shrink-picture.js';

const MOST_BYTES = 30_000_000;
const MOST_MEGAPIXELS = 20;

/** What is wrong with a file that should be a picture, before it is decoded; null where nothing is. */
export async function wrongWith(file: File): Promise<string | null> {
  if (file.size > MOST_BYTES)
    return msg`${file.name} is ${(file.size / 1e6).toFixed(0)} MB, the limit is ${MOST_BYTES / 1e6} MB: save it smaller.`;
  try {
    const { width, height, type } = imageSize(new Uint8Array(await file.slice(0, 512_000).arrayBuffer()));
    if (type === 'svg') return msg`${file.name} is a drawing, not a picture: bring it with “Bring a drawing”.`;
    const megapixels = (width * height) / 1e6;
    if (megapixels > MOST_MEGAPIXELS)
      return msg`${file.name} has ${megapixels.toFixed(0)} megapixels, the limit is ${MOST_MEGAPIXELS}: save it smaller.`;
    return null;
  } catch {
    return msg`${file.name} is no picture this page can read: save it as PNG, JPEG or WebP.`;
  }
}

/** What a design begun from a file is called first: the file without its ending, as long as a name may be. */
export const nameOfFile = (file: File): string => file.name.replace(/\.[^.]+$/, '').slice(0, 80);

/** A picture is looked at no larger than this on the page and in its worker: both count in the same pixels. */
export const LOOKED_AT_PX = 1200;

/** How large a picture of this size is looked at, pixels. */
export const lookedAtSize = (full: { readonly width: number; readonly height: number }): readonly [number, number] =>
  sizeWithin(full, LOOKED_AT_PX);

/** The picture made small enough to be moved about: nothing of it leaves the page. */
export const readPicture = (file: File): Promise<ReadPicture> => shrunk(file, LOOKED_AT_PX);
