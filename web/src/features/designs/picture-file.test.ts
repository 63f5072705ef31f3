// @vitest-environment node
import fc from 'fast-check';
import { encode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { lookedAtSize, wrongWith } from './picture-file.js';

const file = (name: string, bytes: Uint8Array): File => new File([bytes as BlobPart], name);
const png = (width: number, height: number) =>
  encode({ width, height, data: new Uint8Array(width * height * 3).fill(120), channels: 3, depth: 8 });
/** A picture whose header says it is as large as this, whatever it holds. */
const saying = (width: number, height: number) => {
  const bytes = png(4, 4);
  new DataView(bytes.buffer, bytes.byteOffset).setUint32(16, width);
  new DataView(bytes.buffer, bytes.byteOffset).setUint32(20, height);
  return bytes;
};

describe('a file that should be a picture', () => {
  it('is taken where it is one, and otherwise said in one sentence with the cure', async () => {
    expect(await wrongWith(file('a.png', png(40, 30)))).toBeNull();
    expect(await wrongWith(file('huge.png', saying(10_000, 10_000)))).toBe(
      'huge.png has 100 megapixels, the limit is 20: save it smaller.',
    );
    expect(
      await wrongWith(file('drawn.png', new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'))),
    ).toContain('is a drawing');
    expect(await wrongWith(file('notes.jpg', new TextEncoder().encode('flour, sugar')))).toContain('is no picture');
    expect(await wrongWith(file('empty.png', new Uint8Array()))).toContain('is no picture');
    expect(await wrongWith(file('large.png', new Uint8Array(30_000_001)))).toContain('the limit is 30 MB');
    // Metadata without end, before anything that could be shown: only the beginning is looked at.
    const bomb = new Uint8Array(8_000_000);
    bomb.set([0xff, 0xd8, 0xff, 0xe1, 0xff, 0xff, ...new TextEncoder().encode('Exif\0\0')]);
    expect(await wrongWith(file('bomb.jpg', bomb))).toContain('is no picture');
  });
  it('spoilt in any way it gets a sentence or is let through, and never an error (seed 77)', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat({ max: 200 }), fc.nat({ max: 255 })), { maxLength: 12 }),
        fc.nat({ max: 300 }),
        fc.oneof(fc.constant(png(16, 12)), fc.uint8Array({ maxLength: 300 })),
        async (changes, cut, whole) => {
          const bytes = Uint8Array.from(whole);
          for (const [at, to] of changes) if (at < bytes.length) bytes[at] = to;
          const said = await wrongWith(file('x.png', bytes.slice(0, Math.max(0, bytes.length - cut))));
          if (said !== null) expect(said).toMatch(/^x\.png .*[.]$/);
        },
      ),
      { seed: 77, numRuns: 300, endOnFailure: true },
    ));
  it('is looked at no larger than the page needs, in its proportions', () => {
    expect(lookedAtSize({ width: 4000, height: 3000 })).toEqual([1200, 900]);
    expect(lookedAtSize({ width: 300, height: 20 })).toEqual([300, 20]);
    expect(lookedAtSize({ width: 9000, height: 1 })).toEqual([1200, 1]);
  });
});
