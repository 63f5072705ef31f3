/** How large a picture is with its longest side within so many pixels; never larger than it is. */
export function sizeWithin(
  { width, height }: { readonly width: number; readonly height: number },
  mostPx: number,
): readonly [number, number] {
  const share = Math.min(1, mostPx / Math.max(width, height));
  return [Math.max(1, Math.round(width * share)), Math.max(1, Math.round(height * share))];
}

export interface ReadPicture {
  /** JPEG, as an address of its own bytes */
  readonly url: string;
  readonly width: number;
  readonly height: number;
}

/**
 * A picture turned as its camera says and made small, without whatever else its file tells (place, time, camera). Throws where the browser
 * cannot read it.
 */
export async function shrunk(file: Blob, mostPx: number): Promise<ReadPicture> {
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = sizeWithin(bitmap, mostPx);
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return { url: canvas.toDataURL('image/jpeg', 0.85), width: canvas.width, height: canvas.height };
}
