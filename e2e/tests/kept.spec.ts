import type { DesignSummary, DesignView, KitchenView, OrderSummary, OrderView, Page } from '@kestfog/core/wire';
import { expect, type Page as Tab, test } from '@playwright/test';
import { benchReady, deadTime, forwardOf, makeOrder, run, violationsOf, watchForErrors } from './support.js';

test.use({ serviceWorkers: 'allow' });

/** Addresses whose last answer this browser keeps. */
const keptAnswers = (page: Tab): Promise<string[]> =>
  page.evaluate(
    () =>
      new Promise((done, failed) => {
        const open = indexedDB.open('kestfog-last-known');
        open.onerror = () => failed(open.error);
        open.onsuccess = () => {
          const db = open.result;
          const keys = db.transaction('answers').objectStore('answers').getAllKeys();
          keys.onerror = () => failed(keys.error);
          keys.onsuccess = () => {
            db.close();
            done(keys.result.map(String));
          };
        };
      }),
  );

test('edits that could not be sent are there after a reload, and are sent once the server answers', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const [first] = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const design = (await (
    await request.post(`/api/designs/${first?.id}/copy`, { data: { name: 'Typed on the train' } })
  ).json()) as DesignView;
  await page.goto(`/designs/${design.id}`);
  await expect(page.getByText('all kept')).toBeVisible();
  await page.route('**/api/designs/*', (r) => (r.request().method() === 'PUT' ? r.abort() : r.continue()));
  const transfer = page.getByRole('checkbox', { name: /transfer/ });
  await transfer.check();
  await expect(page.getByText('kept on this device')).toBeVisible();
  await expect(page.getByRole('link', { name: 'one waiting' })).toBeVisible();
  await page.reload();
  await expect(transfer).toBeChecked();
  await page.getByRole('link', { name: 'one waiting' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Not kept yet' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Edits of Typed on the train' })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.unroute('**/api/designs/*');
  await page.getByRole('button', { name: 'Try now' }).click();
  await expect(page.getByText('All is kept')).toBeVisible();
  expect(((await (await request.get(`/api/designs/${design.id}`)).json()) as DesignView).document.edits.at(-1)).toEqual({
    type: 'transfer',
    on: true,
  });
  await request.delete(`/api/designs/${design.id}`);
  expect(errors).toEqual([]);
});

test('two tabs at one bench without the network: neither loses the other’s taps, and each is there once', async ({ browser, request }) => {
  const begun = await benchReady(request, 'Two tabs', { Mackerel: 4 });
  const context = await browser.newContext();
  const [one, two] = [await context.newPage(), await context.newPage()];
  for (const p of [one, two]) {
    await p.goto(`/runs/${begun.id}`);
    await expect(forwardOf(p)).toBeVisible();
  }
  await context.route('**/api/runs/*/events', (r) => r.abort());
  await one.keyboard.press('Space');
  // The other tab sees it, though the server does not know yet.
  await expect(forwardOf(two)).toHaveText('Done');
  await deadTime(two);
  await two.keyboard.press('Space');
  await expect(one.getByText(/2 taps not saved yet|3 taps not saved yet/)).toBeVisible();
  const waiting = Number(/(\d) taps/.exec((await one.getByText(/taps not saved yet/).textContent()) ?? '')?.[1]);
  await one.close();
  await context.unroute('**/api/runs/*/events');
  await expect(two.getByText(/not saved yet/)).toBeHidden({ timeout: 15_000 });
  const { events } = await run(request, begun.id);
  expect(events).toHaveLength(waiting);
  expect(new Set(events.map((e) => e.id)).size).toBe(waiting);
  expect(events.map((e) => e.deviceSeq)).toEqual(events.map((_, i) => i + 1));
  expect(events.at(-1)?.type).toBe('taskDone');
  await context.close();
  await request.delete(`/api/orders/${begun.orderId}`);
});

test('what the server refuses is kept with its reason, to be looked at', async ({ page, request }) => {
  const begun = await benchReady(request, 'Deleted elsewhere', { Mackerel: 2 });
  await page.goto(`/runs/${begun.id}`);
  await expect(forwardOf(page)).toBeVisible();
  await page.route('**/api/runs/*/events', (r) => r.abort());
  await page.keyboard.press('Space');
  await expect(page.getByText(/not saved yet/)).toBeVisible();
  // Emptied from the trash, it is gone for whoever is at its bench too.
  await request.delete(`/api/orders/${begun.orderId}`);
  await request.delete(`/api/orders/${begun.orderId}/for-good`);
  await page.unroute('**/api/runs/*/events');
  const sign = page.getByRole('link', { name: /refused: look/ });
  await expect(sign).toBeVisible({ timeout: 15_000 });
  await sign.click();
  const refused = page.getByRole('region', { name: 'refused' });
  await expect(refused.getByText(/There is no such run: it may have been deleted/).first()).toBeVisible();
  await expect(refused.getByRole('link').first()).toHaveText(/The run begun|A step begun/);
  for (let n = await refused.getByRole('listitem').count(); n > 0; n--) {
    await refused.getByRole('button', { name: 'Let it go' }).first().click();
    await refused.getByRole('button', { name: 'Let it go for good' }).click();
  }
  await expect(page.getByText('All is kept')).toBeVisible();
});

test('every place opens without the network as it was last known, and is fetched anew once the server answers', async ({
  browser,
  request,
}) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await page.goto('/orders');
  await page.getByRole('link', { name: /all six dozen/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /all six dozen/ })).toBeVisible();
  // The order shows the same pictures: each place is there once its own heading is.
  await page.getByRole('link', { name: 'Designs' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Designs' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Lighthouse' })).toBeVisible();
  await page.getByRole('link', { name: 'Kitchen' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Kitchen' })).toBeVisible();
  // The page itself is kept by its service worker by now, and what it had read by the browser; from here on nothing answers.
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await expect
    .poll(() => keptAnswers(page))
    .toEqual(expect.arrayContaining([expect.stringMatching(/^\/designs\?/), expect.stringMatching(/^\/kitchen\b/)]));
  await context.route('**/api/**', (r) => r.abort());
  for (const [path, sight] of [
    ['/orders', page.getByRole('link', { name: /all six dozen/ })],
    ['/designs', page.getByRole('img', { name: 'Lighthouse' })],
    ['/kitchen', page.getByRole('heading', { level: 1, name: 'Kitchen' })],
  ] as const) {
    await page.goto(path);
    await expect(sight).toBeVisible();
    await expect(page.getByText(/The server does not answer. This is what was last known/)).toBeVisible();
  }
  await page.goto('/orders');
  await page.getByRole('link', { name: /all six dozen/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /all six dozen/ })).toBeVisible();
  await context.unroute('**/api/**');
  await expect(page.getByText(/The server does not answer/)).toBeHidden({ timeout: 15_000 });
  expect(errors.filter((e) => !/net::|Failed to fetch/.test(e))).toEqual([]);
  expect((await request.get('/api/health')).ok()).toBe(true);
  await context.close();
});

test('a half-typed order is there after a reload; one changed on two devices is shown, and chosen', async ({ page, request }) => {
  const errors = watchForErrors(page);
  await page.goto('/orders/new');
  const name = page.getByLabel('Name of the order');
  await name.fill('Half a christening');
  await page.reload();
  await expect(name).toHaveValue('Half a christening');
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(name).toHaveValue('');

  const made = await makeOrder(request, 'Twice changed', { Mackerel: 4 });
  await page.goto(`/orders/${made.id}`);
  await page.getByRole('button', { name: 'Change the order' }).click();
  await name.fill('Mine');
  const theirs = { ...inputOf(made), name: 'Theirs' };
  expect((await request.put(`/api/orders/${made.id}`, { data: theirs })).ok()).toBe(true);
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByText('This order was changed elsewhere meanwhile')).toBeVisible();
  await expect(page.getByText(/What you typed differs in: its name/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep what I typed' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Mine' })).toBeVisible();
  expect(((await (await request.get(`/api/orders/${made.id}`)).json()) as OrderView).name).toBe('Mine');
  await request.delete(`/api/orders/${made.id}`);
  expect(errors).toEqual([]);
});

/** What can be changed of an order, as the server takes it. */
function inputOf(o: OrderView): object {
  const {
    id: _i,
    createdAt: _c,
    revision: _r,
    plan: _p,
    run: _u,
    bags: _b,
    schoolUsed: _s,
    transfers: _t,
    transfersForName: _f,
    hostName: _h,
    ...input
  } = o;
  return { ...input, designs: o.designs.map(({ designId, count, spares, version }) => ({ designId, count, spares, version })) };
}

test('without the network an order is made, the kitchen changed and a bag noted, all kept through a reload, and sent as they were typed', async ({
  page,
  request,
}) => {
  const errors = watchForErrors(page);
  const made = await makeOrder(request, 'Gone by train', { Mackerel: 4 });
  const kitchen = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  await page.goto('/orders/new');
  await page.getByLabel('Name of the order').fill('Made on the train');
  await page.route('**/api/**', (r) =>
    r.request().method() === 'GET' && !r.request().url().includes('/health') ? r.continue() : r.abort(),
  );
  await page.getByRole('button', { name: 'Keep the order' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Orders' })).toBeVisible();
  await expect(page.getByText('the new order Made on the train')).toBeVisible();
  await page.getByRole('link', { name: 'Kitchen' }).click();
  const humidity = page.getByRole('region', { name: 'The usual bench' }).getByLabel('humidity, %');
  await humidity.fill('47');
  // Half typed, it is there again.
  await page.reload();
  await expect(humidity).toHaveValue('47');
  await page.getByRole('region', { name: 'The usual bench' }).getByRole('button', { name: 'Keep the usual bench' }).click();
  await expect(page.getByText('the kitchen: the usual bench, the usual air')).toBeVisible();
  await page.goto(`/orders/${made.id}`);
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Gone by train' })).toBeHidden();
  await page.reload();
  await expect(page.getByRole('link', { name: 'three waiting' })).toBeVisible();
  await page.getByRole('link', { name: 'three waiting' }).click();
  await expect(page.getByRole('region', { name: 'waiting' }).getByRole('listitem')).toHaveText([
    /new order/,
    /kitchen/,
    /deleting of the order Gone by train/,
  ]);
  await page.unroute('**/api/**');
  await expect(page.getByText('All is kept')).toBeVisible({ timeout: 15_000 });
  const { items } = (await (await request.get('/api/orders?q=Made%20on%20the%20train')).json()) as Page<OrderSummary>;
  expect(items).toHaveLength(1);
  expect((await request.get(`/api/orders/${made.id}`)).status()).toBe(404);
  expect(((await (await request.get('/api/kitchen')).json()) as KitchenView).air.humidityPct).toBe(47);
  await request.put('/api/kitchen', { data: { air: kitchen.air, usual: null } });
  await request.delete(`/api/orders/${items[0]?.id}`);
  expect(errors.filter((e) => !/net::|Failed to fetch/.test(e))).toEqual([]);
});

test('what waited and went against another device is shown with both, and chosen: an order, the kitchen, a design', async ({
  page,
  request,
}) => {
  const errors = watchForErrors(page);
  const made = await makeOrder(request, 'Two hands at it', { Mackerel: 4 });
  const [first] = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const design = (await (await request.post(`/api/designs/${first?.id}/copy`, { data: { name: 'Two hands' } })).json()) as DesignView;
  const kitchen = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  await page.goto(`/designs/${design.id}`);
  const transfer = page.getByRole('checkbox', { name: /transfer/ });
  await expect(transfer).not.toBeChecked();
  await page.route('**/api/**', (r) => (r.request().method() === 'GET' ? r.continue() : r.abort()));
  await transfer.check();
  await page.getByRole('link', { name: 'Kitchen' }).click();
  const air = page.getByRole('region', { name: 'The usual bench' });
  await air.getByLabel('humidity, %').fill('47');
  await air.getByRole('button', { name: 'Keep the usual bench' }).click();
  await expect(page.getByText('the kitchen: the usual bench, the usual air')).toBeVisible();
  await page.goto(`/orders/${made.id}`);
  await page.getByRole('button', { name: 'Change the order' }).click();
  await page.getByLabel('Name of the order').fill('Mine');
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByText('changes of the order Mine')).toBeVisible();
  // Meanwhile somebody else was quicker.
  const renamed = { type: 'rename', name: 'Theirs' };
  await request.put(`/api/designs/${design.id}`, { data: { edits: [...design.document.edits, renamed] } });
  await request.put('/api/kitchen', { data: { air: { ...kitchen.air, humidityPct: 61 } } });
  await request.put(`/api/orders/${made.id}`, { data: { ...inputOf(made), name: 'Theirs' } });
  await page.unroute('**/api/**');
  await expect(page.getByRole('link', { name: 'three refused: look' })).toBeVisible({ timeout: 15_000 });
  await page.getByRole('link', { name: 'three refused: look' }).click();
  const row = (text: RegExp) => page.getByRole('region', { name: 'refused' }).getByRole('listitem').filter({ hasText: text });
  const order = row(/order Mine/);
  await order.getByRole('button', { name: 'Look at both' }).click();
  await expect(order.getByRole('row')).toHaveText([/mine.*there now/, /its name.*Mine.*Theirs/]);
  expect(await violationsOf(page)).toEqual([]);
  await order.getByRole('button', { name: 'Keep what I typed' }).click();
  await expect(order).toBeHidden();
  const room = row(/The kitchen/);
  await room.getByRole('button', { name: 'Keep what is there now' }).click();
  await room.getByRole('button', { name: 'Let it go for good' }).click();
  const drawn = row(/Edits of/);
  await drawn.getByRole('button', { name: 'Look at both' }).click();
  await expect(drawn.getByRole('row').nth(1)).toHaveText(/edits\s*1\s*1/);
  await drawn.getByRole('button', { name: 'Do mine on top of what is there now' }).click();
  await expect(page.getByText('All is kept')).toBeVisible();
  expect(((await (await request.get(`/api/orders/${made.id}`)).json()) as OrderView).name).toBe('Mine');
  expect(((await (await request.get('/api/kitchen')).json()) as KitchenView).air.humidityPct).toBe(61);
  const { edits } = ((await (await request.get(`/api/designs/${design.id}`)).json()) as DesignView).document;
  expect(edits.slice(-2)).toEqual([renamed, { type: 'transfer', on: true }]);
  await request.put('/api/kitchen', { data: { air: kitchen.air, usual: null } });
  await request.delete(`/api/orders/${made.id}`);
  await request.delete(`/api/designs/${design.id}`);
  expect(errors.filter((e) => !/net::|Failed to fetch|409/.test(e))).toEqual([]);
});

test('what waits under one address is saved, and taken in where Kestfog is now', async ({ page, request, browser }) => {
  const kitchen = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  await page.goto('/kitchen');
  const air = page.getByRole('region', { name: 'The usual bench' });
  await page.route('**/api/**', (r) => (r.request().method() === 'GET' ? r.continue() : r.abort()));
  await air.getByLabel('humidity, %').fill('43');
  await air.getByRole('button', { name: 'Keep the usual bench' }).click();
  await page.getByRole('link', { name: /waiting/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save what waits' }).click();
  const path = await (await download).path();
  expect(await violationsOf(page)).toEqual([]);
  // A browser that knows nothing of the other address.
  const there = await (await browser.newContext()).newPage();
  await there.goto('/kitchen');
  await there.getByRole('link', { name: 'Take it in' }).click();
  const files = there.getByRole('region', { name: 'Another address' }).locator('input[type=file]');
  await files.setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await expect(there.getByRole('region', { name: 'Another address' }).getByRole('alert')).toContainText('This file has nothing that waits');
  await files.setInputFiles(path);
  await expect(there.getByText('One thing was taken in, and is sent.')).toBeVisible();
  await expect.poll(async () => ((await (await request.get('/api/kitchen')).json()) as KitchenView).air.humidityPct).toBe(43);
  await request.put('/api/kitchen', { data: { air: kitchen.air, usual: null } });
});

test('what is deleted can be put back at once, or later from the trash', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const made = await makeOrder(request, 'Deleted by mistake', { Mackerel: 4 });
  const remove = async () => {
    await page.goto(`/orders/${made.id}`);
    await page.getByRole('button', { name: 'Delete', exact: true }).click();
    await expect(page.getByText('Deleted by mistake is in the trash')).toBeVisible();
  };
  await remove();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByText('Deleted by mistake is back')).toBeVisible();
  await expect(page.getByRole('link', { name: /Deleted by mistake/ })).toBeVisible();
  await remove();
  await page.goto('/orders');
  await page.getByRole('link', { name: 'Trash' }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'Deleted by mistake' });
  await expect(row).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await row.getByRole('button', { name: 'Delete for good' }).click();
  await row.getByRole('button', { name: 'Delete it for good' }).click();
  await expect(row).toBeHidden();
  expect((await request.post(`/api/orders/${made.id}/restore`)).status()).toBe(404);
  expect(errors).toEqual([]);
});
