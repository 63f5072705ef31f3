import { imageSize } from 'image-size';

const MOST_BYTES = 30_000_000;
const MOST_MEGAPIXELS = 20;

/** What is wrong with a file that should be a picture, before it is decoded; null where nothing is. */
export async function wrongWith(file: File): Promise<string | null> {
  if (file.size > MOST_BYTES) return `${file.name} is ${(file.size / 1e6).toFixed(0)} MB, the limit is ${MOST_BYTES / 1e6} MB: save it smaller.`;
  try {
    const { width, height, type } = imageSize(new Uint8Array(await file.slice(0, 512_000).arrayBuffer()));
    if (type === 'svg') return `${file.name} is a drawing, not a picture: bring it with “Bring a drawing”.`;
    const megapixels = (width * height) / 1e6;
    if (megapixels > MOST_MEGAPIXELS) return `${file.name} has ${megapixels.toFixed(0)} megapixels, the limit is ${MOST_MEGAPIXELS}: save it smaller.`;
    return null;
  } catch {
    return `${file.name} is no picture this page can read: save it as PNG, JPEG or WebP.`;
  }
}
