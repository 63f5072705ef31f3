import { expect, test } from '@playwright/test';
import { dragCorners, onScreen } from './light.js';
import { benchReady, deadTime, forwardOf, untilReady, violationsOf, watchForErrors } from './support.js';

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
  const crosses = await dragCorners(page);
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
  const other = await browser.newContext();
  const bench = await other.newPage();
  await bench.goto(`/runs/${begun.id}`);
  for (let i = 0; i < 4; i++) {
    await untilReady(bench, request);
    await forwardOf(bench).click();
    await deadTime(bench);
  }
  await expect(told).not.toHaveText(before ?? '');
  // The pedal under the table takes back and goes on from this window as well.
  const after = (await told.textContent()) ?? '';
  for (const [key, is] of [
    ['PageUp', before ?? ''],
    ['PageDown', after],
  ] as const) {
    for (let i = 0; i < 12 && (await told.textContent()) !== is; i++) {
      if (key === 'PageDown') await untilReady(bench, request);
      await page.keyboard.press(key);
      await deadTime(page);
    }
    await expect(told).toHaveText(is);
  }
  await other.close();
  await page.getByRole('radio', { name: 'all of it' }).click();
  expect(await page.locator('[data-light=part]').count()).toBeGreaterThan(1);
  await page.goto('/runs/00000000-0000-4000-8000-000000000000/light');
  await expect(page.getByRole('alert')).toContainText('There is no run to follow');
  await request.delete(`/api/runs/${begun.id}`);
  await request.delete(`/api/orders/${begun.orderId}`);
  expect(errors.filter((e) => !/404/.test(e))).toEqual([]);
});
