import { expect, type Page, test } from '@playwright/test';
import { advance, benchReady, byTheBook, deadTime, forwardOf, run, untilReady, violationsOf, watchForErrors } from './support.js';

const logOf = async (request: import('@playwright/test').APIRequestContext, id: string) => (await run(request, id)).events;

async function open(page: Page, id: string): Promise<void> {
  await page.goto(`/runs/${id}`);
  await expect(forwardOf(page)).toBeVisible();
}

test('what may have to be said at the bench: dry already, a stiff bag, another order, where one is, cookie by cookie', async ({
  page,
  request,
}) => {
  test.setTimeout(120_000);
  const errors = watchForErrors(page);
  await byTheBook(request);
  const begun = await benchReady(request, 'Reports', { Mackerel: 4, 'Gull on a rock': 4 });
  const has = (type: string, data: Record<string, unknown> = {}) =>
    expect.poll(async () => (await logOf(request, begun.id)).findLast((e) => e.type === type)?.data).toMatchObject(data);
  await open(page, begun.id);
  const forward = forwardOf(page);
  await page.keyboard.press('Space');
  await expect(forward).toHaveText('Done');

  // Cookie by cookie, for who wants it: four taps make the step, one undo takes back one of them.
  await page.getByRole('button', { name: 'how this device is used' }).click();
  await page.getByRole('radio', { name: 'each cookie' }).click();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'close' }).click();
  await expect(forward).toHaveText('Done: cookie 1');
  for (const n of [2, 3]) {
    await deadTime(page);
    await page.keyboard.press('Space');
    await expect(forward).toHaveText(`Done: cookie ${n}`);
  }
  await deadTime(page);
  await page.keyboard.press('PageUp');
  await expect(forward).toHaveText('Done: cookie 2');
  await page.getByRole('button', { name: 'how this device is used' }).click();
  await page.getByRole('radio', { name: 'a visit' }).click();
  await deadTime(page);
  // The simulated pedal, from the same sheet; it bounces, and makes one step.
  await page.getByRole('button', { name: 'press right' }).click();
  await expect(page.getByText(/1 of \d+ done/)).toBeVisible();

  // A bag has stiffened: it is counted again where one stands.
  await deadTime(page);
  if ((await forward.textContent()) !== 'Done') await page.keyboard.press('Space');
  await expect(forward).toHaveText('Done');
  await page.getByRole('button', { name: 'trouble with a bag' }).click();
  await page
    .getByRole('dialog', { name: 'Which bag has stiffened?' })
    .getByRole('button', { name: /flood 15 s/ })
    .first()
    .click();
  const pad = page.getByRole('button', { name: /Touch when/ });
  await pad.click();
  await page.waitForTimeout(2000);
  await pad.click();
  await page.getByRole('button', { name: 'Keep this count' }).click();
  await has('bagCounted', { seconds: 15 });

  // Another step first.
  const was = (await page.getByRole('heading', { level: 1 }).textContent()) as string;
  await page.getByRole('button', { name: /(tray . first|the next one first)/ }).click();
  await has('swapped');
  await expect(page.getByRole('heading', { level: 1 })).not.toHaveText(was);

  // Where one is: touching the picture on the tray does what nobody ticked.
  await page.getByRole('list', { name: 'The trays now' }).getByRole('button').first().click();
  const tray = page.getByRole('dialog', { name: /^Tray/ });
  expect(await violationsOf(page)).toEqual([]);
  await tray.getByRole('button', { name: /Flood head/ }).click();
  await has('imHere');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Flood head/);
  await expect(page.getByRole('status').filter({ hasText: /Caught up with where you are/ })).toBeVisible();

  // Dry enough already.
  const early = page.getByLabel('Reports').getByRole('button', { name: /\w+ already$/ });
  for (let i = 0; i < 30 && !(await early.isVisible()); i++) {
    await deadTime(page);
    if ((await forward.textContent()) === 'Begin already') await advance(request, 60);
    else await page.keyboard.press('Space');
  }
  await early.click();
  await has('touched');
  await expect(forward).toHaveText('Begin');
  await request.delete(`/api/orders/${begun.orderId}`);
  expect(errors).toEqual([]);
});

test('a window that was missed is decided at the bench, and a spoilt cookie becomes a tie-dye', async ({ page, request }) => {
  test.setTimeout(120_000);
  await byTheBook(request);
  const begun = await benchReady(request, 'Missed', { 'Gull on a rock': 4 });
  await open(page, begun.id);
  const forward = forwardOf(page);
  await page.keyboard.press('Space');
  const crackle = begun.plan.tasks.findIndex((t) => t.motions.some((m) => m.technique === 'crackle'));
  for (let i = 0; i < crackle; i++) {
    await untilReady(page, request);
    await deadTime(page);
    if ((await forward.textContent()) === 'Begin') {
      await page.keyboard.press('Space');
      await expect(forward).toHaveText('Done');
      await deadTime(page);
    }
    await advance(request, 60);
    await page.keyboard.press('Space');
    await expect(page.getByText(`${i + 1} of`, { exact: false }).first()).toBeVisible();
  }
  // Away all afternoon: the crust has shut meanwhile.
  await advance(request, 7200);
  const closing = page.getByRole('region', { name: 'Closing' });
  await expect(closing).toContainText('touch first, it may be too late');
  expect(await violationsOf(page)).toEqual([]);
  await closing.getByRole('button', { name: 'decide' }).first().click();
  const sheet = page.getByRole('dialog', { name: /Crackle/ });
  await expect(sheet).toBeVisible();
  await sheet.getByRole('button', { name: 'leave it out on them' }).click();
  await expect.poll(async () => (await logOf(request, begun.id)).some((e) => e.type === 'skipped')).toBe(true);

  await page.getByRole('button', { name: 'a defect' }).click();
  await page.getByRole('button', { name: 'a colour bled into the other' }).click();
  await page.getByRole('button', { name: 'make it a tie-dye' }).click();
  await expect(page.getByRole('status').filter({ hasText: /becomes a tie-dye/ })).toBeVisible();
  await page.getByRole('list', { name: 'The trays now' }).getByRole('button').first().click();
  await expect(page.getByRole('region', { name: 'Gull on a rock, tie-dye' })).toBeVisible();
  await expect(page.getByRole('button', { name: /cookie 1, now a tie-dye/ })).toBeDisabled();
  await request.delete(`/api/orders/${begun.orderId}`);
});
