import { expect, type Page, test } from '@playwright/test';
import { benchReady, deadTime, forwardOf, untilReady, violationsOf, watchForErrors } from './support.js';

interface Point {
  readonly x: number;
  readonly y: number;
}
const onScreen = (page: Page, selector: string): Promise<(readonly Point[])[]> =>
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

test('light on the table: set up in four drags on the simulated one, true to the cookie, follows the bench from another device', async ({
  page,
  browser,
  request,
}) => {
  test.setTimeout(180_000);
  const errors = watchForErrors(page);
  const begun = await benchReady(request, 'Lit flags', { 'Signal flag': 2 });
  await page.goto(`/runs/${begun.id}/light`);
  await expect(page.getByText('drag the four lights onto its crosses')).toBeVisible();
  await page.getByLabel('simulated table').check();
  const [square] = await onScreen(page, '[data-printed=square]');
  const crosses = square as readonly Point[];
  const names = ['upper left', 'upper right', 'lower right', 'lower left'];
  for (const [i, name] of names.entries()) {
    const handle = await page.getByRole('slider', { name: `${name} corner` }).boundingBox();
    if (!handle) throw new Error('there is no corner');
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(crosses[i]?.x ?? 0, crosses[i]?.y ?? 0, { steps: 6 });
    await page.mouse.up();
  }
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'The corners are right' }).click();

  // What falls on the table is the cookie's own edge, to half a millimetre: a pixel of this screen is more than a quarter.
  const pxPerMm = Math.hypot((crosses[1]?.x ?? 0) - (crosses[0]?.x ?? 0), (crosses[1]?.y ?? 0) - (crosses[0]?.y ?? 0)) / 100;
  const isTrue = async () => {
    const [lit] = await onScreen(page, '[data-light=cookie]');
    const [cookie] = await onScreen(page, 'svg g path[fill="#d9a566"]');
    const far = (lit ?? []).map((p) => Math.min(...(cookie ?? []).map((q) => Math.hypot(p.x - q.x, p.y - q.y))));
    return far.length > 0 ? Math.max(...far) / pxPerMm : Number.POSITIVE_INFINITY;
  };
  expect(await isTrue()).toBeLessThan(0.5);
  // Nudged and turned by keys, the cookie's outline goes with it; a reload finds it set up as it was.
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('.');
  await expect(page.getByText(/5 mm, 0 mm, 1°/)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/5 mm, 0 mm, 1°/)).toBeVisible();
  await expect(page.getByRole('slider')).toHaveCount(0);
  expect(await isTrue()).toBeLessThan(0.5);

  // Another device goes on; the light follows.
  const told = page.getByRole('heading', { level: 1 });
  const before = await told.textContent();
  const bench = await (await browser.newContext()).newPage();
  await bench.goto(`/runs/${begun.id}`);
  for (let i = 0; i < 4; i++) {
    await untilReady(bench, request);
    await forwardOf(bench).click();
    await deadTime(bench);
  }
  await expect(told).not.toHaveText(before ?? '');
  await page.getByRole('radio', { name: 'all of it' }).click();
  expect(await page.locator('[data-light=part]').count()).toBeGreaterThan(1);
  await page.goto('/runs/00000000-0000-4000-8000-000000000000/light');
  await expect(page.getByRole('alert')).toContainText('There is no run to follow');
  expect(errors.filter((e) => !/404/.test(e))).toEqual([]);
});
