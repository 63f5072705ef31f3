import type { StockView } from '@kestfog/core/wire';
import { type APIRequestContext, expect, type Page, test } from '@playwright/test';
import { advance, benchReady, byTheBook, deadTime, forwardOf, run, untilReady, violationsOf, watchForErrors } from './support.js';

const SCREENS = [
  { name: 'at the bench', width: 1280, height: 800 },
  { name: 'on a tablet upright', width: 820, height: 1180 },
  { name: 'on a phone', width: 390, height: 844 },
] as const;

/** Reports lie open on a large screen and behind one button on a phone. */
async function report(page: Page, name: string | RegExp): Promise<void> {
  const behind = page.getByRole('button', { name: 'report something' }).filter({ visible: true });
  const it = page.getByRole('button', { name }).filter({ visible: true });
  await expect(behind.or(it).first()).toBeVisible();
  if (await behind.isVisible()) await behind.click();
  await it.click();
}

const fits = (page: Page, width: number) =>
  expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
const sensor = (request: APIRequestContext, scenario: string) => request.post('/api/climate', { data: { scenario } });

for (const screen of SCREENS) {
  test(`a full day with a slip, reports, a broken cookie, damper air and a reload, ${screen.name}`, async ({ page, request }) => {
    test.setTimeout(240_000);
    const errors = watchForErrors(page);
    await page.setViewportSize(screen);
    await sensor(request, 'steady');
    await byTheBook(request);
    const begun = await benchReady(request, `A day ${screen.name}`, { Mackerel: 4, 'Gull on a rock': 4 });
    const sugar = { item: 'sugar', what: 'powdered sugar', unit: 'g', usedUp: true, amount: 5000 };
    expect((await request.put('/api/stock/things', { data: sugar })).ok()).toBe(true);
    const sugarG = async () =>
      ((await (await request.get('/api/stock')).json()) as StockView).items.find((i) => i.item === 'sugar')?.amount;
    const log = async () => (await run(request, begun.id)).events;
    const has = (type: string) => expect.poll(async () => (await log()).some((e) => e.type === type)).toBe(true);
    await page.goto(`/runs/${begun.id}`);
    await expect(page.getByRole('heading', { name: 'Ready when you are' })).toBeVisible();
    await fits(page, screen.width);
    await page.keyboard.press('Space');
    const forward = forwardOf(page);
    await expect(forward).toHaveText('Done');

    // The air: followed from the beginning; it is steady, so nothing happens yet.
    await page.getByRole('button', { name: 'how this device is used' }).click();
    await page.getByRole('button', { name: 'follow the sensor' }).click();
    await page.getByRole('button', { name: 'close' }).click();

    let did = { shut: false, broken: false, damp: false, reloaded: false, evening: false, morning: false, lamp: false };
    for (let step = 0; step < 80 && !(await page.getByRole('heading', { name: /are packed/ }).isVisible()); step++) {
      if (!did.evening && (await page.getByText(/Done for today/).isVisible())) {
        did = { ...did, evening: true };
        await expect(page.getByText(/overnight: covered, never airtight/)).toBeVisible();
        expect(await violationsOf(page)).toEqual([]);
      }
      await untilReady(page, request);
      if (did.evening && !did.morning) {
        did = { ...did, morning: true };
        await expect(page.getByRole('region', { name: 'Where it stands' })).toContainText(/left/);
      }
      await deadTime(page);
      if ((await forward.textContent()) === 'Begin') await page.keyboard.press('PageDown');
      await expect(forward).toHaveText('Done');
      await fits(page, screen.width);

      const isWet = await page.getByRole('region', { name: 'Closing' }).isVisible();
      if (isWet && !did.lamp) {
        did = { ...did, lamp: true };
        // The place in both themes.
        expect(await violationsOf(page)).toEqual([]);
        await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'lamp'));
        expect(await violationsOf(page)).toEqual([]);
        await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'fog'));
      }
      if (step === 2) {
        // A slip: the telephone rang.
        await report(page, 'phone call');
        await expect(forward).toHaveText('Go on');
        await advance(request, 1500);
        await deadTime(page);
        await page.keyboard.press('Space');
        await expect(forward).toHaveText('Done');
        await has('resumed');
      }
      if (!did.shut && isWet) {
        did = { ...did, shut: true };
        await report(page, 'skinning');
        const sheet = page.getByRole('dialog', { name: /while wet/ });
        await expect(sheet).toBeVisible();
        for (const n of ['1', '2'])
          if ((await sheet.getByRole('button', { name: n, exact: true }).getAttribute('aria-pressed')) === 'true')
            await sheet.getByRole('button', { name: n, exact: true }).click();
        expect(await violationsOf(page)).toEqual([]);
        await sheet.getByRole('button', { name: /in relief/ }).click();
        await has('windowShut');
      } else if (did.shut && !did.broken && step > 7) {
        did = { ...did, broken: true };
        await report(page, 'a defect');
        await page.getByRole('button', { name: 'a crater, it caved in' }).click();
        await expect(page.getByRole('region', { name: 'Rescue' })).toContainText(/It comes from: a small pool/);
        expect(await violationsOf(page)).toEqual([]);
        await page.getByRole('button', { name: 'something else' }).click();
        await page.getByRole('button', { name: 'the cookie broke' }).click();
        await page.getByRole('button', { name: /it is out/ }).click();
        await has('defect');
        await expect(page.getByRole('status').filter({ hasText: /is out/ })).toBeVisible();
      } else if (did.broken && !did.damp) {
        did = { ...did, damp: true };
        await sensor(request, 'rainy-evening');
        await advance(request, 3600);
        await has('airRead');
        await expect(page.getByRole('status').filter({ hasText: /The air is now/ })).toBeVisible();
      } else if (did.damp && !did.reloaded) {
        did = { ...did, reloaded: true };
        const before = await page.getByText(/\d+ of \d+ done/).textContent();
        await page.reload();
        await expect(page.getByText(before as string)).toBeVisible();
        await expect(page.getByRole('button', { name: 'Touch once for sound' })).toBeVisible();
        await sensor(request, 'steady');
      }
      await advance(request, 60);
      await deadTime(page);
      await page.keyboard.press('Space');
      await expect(page.getByText(/not saved yet/)).toBeHidden();
      await expect(page.getByRole('button', { name: 'Touch once for sound' })).toBeHidden();
    }
    await expect(page.getByRole('heading', { name: 'All 7 are packed' })).toBeVisible();
    expect(did).toEqual({ shut: true, broken: true, damp: true, reloaded: true, evening: true, morning: true, lamp: true });
    const events = await log();
    expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
    expect(events.filter((e) => e.type === 'planRevised').length).toBeGreaterThan(1);
    // What it used is taken off the stock with one yes, and put back with one tap.
    const used = page.getByRole('region', { name: 'What it used' });
    await used.getByRole('button', { name: 'Take it off the stock' }).click();
    await expect(used).toContainText('Taken off the stock');
    await expect.poll(sugarG).toBeLessThan(5000);
    await fits(page, screen.width);
    expect(await violationsOf(page)).toEqual([]);
    await used.getByRole('button', { name: 'Put it back' }).click();
    await expect(used.getByRole('button', { name: 'Take it off the stock' })).toBeVisible();
    await expect.poll(sugarG).toBe(5000);
    await request.delete('/api/stock/things/sugar');
    await sensor(request, 'steady');
    await request.delete(`/api/orders/${begun.orderId}`);
    expect(errors).toEqual([]);
  });
}
