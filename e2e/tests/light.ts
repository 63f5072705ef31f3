import type { Page } from '@playwright/test';

export interface Point {
  readonly x: number;
  readonly y: number;
}
/** Places along what a selector finds, on the screen, px; the corners of what has no length. */
export const onScreen = (page: Page, selector: string): Promise<(readonly Point[])[]> =>
  page.evaluate((of) => {
    return [...document.querySelectorAll<SVGGeometryElement>(of)].map((shape) => {
      const m = shape.getScreenCTM() as DOMMatrix;
      const box = shape.getBBox();
      const length = shape.tagName === 'path' ? shape.getTotalLength() : 0;
      const places =
        length > 0
          ? [...Array(1200).keys()].map((k) => shape.getPointAtLength((length * k) / 1200))
          : [
              { x: box.x, y: box.y },
              { x: box.x + box.width, y: box.y },
              { x: box.x + box.width, y: box.y + box.height },
              { x: box.x, y: box.y + box.height },
            ];
      return places.map((p) => ({ x: m.a * p.x + m.e, y: m.d * p.y + m.f }));
    });
  }, selector);

const NAMES = ['upper left', 'upper right', 'lower right', 'lower left'] as const;

/** Drags the four lights onto the corners of the square on the simulated table; where those are, px. */
export async function dragCorners(page: Page): Promise<readonly Point[]> {
  const [square] = await onScreen(page, '[data-printed=square]');
  for (const [i, name] of NAMES.entries()) {
    const handle = await page.getByRole('slider', { name: `${name} corner` }).boundingBox();
    if (!handle) throw new Error('there is no corner');
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(square?.[i]?.x ?? 0, square?.[i]?.y ?? 0, { steps: 6 });
    await page.mouse.up();
  }
  return square ?? [];
}

/** The same, and done with it. */
export async function setUpLight(page: Page): Promise<void> {
  await dragCorners(page);
  await page.getByRole('button', { name: 'The corners are right' }).click();
}
