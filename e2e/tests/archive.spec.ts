import { readFile } from 'node:fs/promises';
import type { DesignSummary, DesignView, Page as ListPage, OrderSummary } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { ownServer } from './own-server.js';
import { violationsOf, watchForErrors } from './support.js';

const PORT = 3965;
const other = ownServer('archive');
test.afterAll(async () => {
  await other.stop();
  other.remove();
});

test('everything is taken to another machine in one file: into an empty kitchen, and again into a full one', async ({
  page,
  request,
  browser,
}) => {
  test.setTimeout(180_000);
  await page.goto('/kitchen');
  const archive = page.getByRole('region', { name: 'Archive' });
  const download = page.waitForEvent('download');
  await archive.getByRole('link', { name: 'Save an archive' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/\.zip$/);
  const zip = { name: file.suggestedFilename(), mimeType: 'application/zip', buffer: await readFile(await file.path()) };

  await other.start('--port', String(PORT));
  const home = `http://127.0.0.1:${PORT}`;
  const there = await (await browser.newContext({ baseURL: home })).newPage();
  const errors = watchForErrors(there);
  await there.goto('/orders');
  await expect(there.getByText('Nothing is due')).toBeVisible();
  await there.getByRole('link', { name: 'Kitchen', exact: true }).click();
  const taking = there.getByRole('region', { name: 'Archive' });
  const take = () => taking.locator('input[type=file]').setInputFiles(zip);
  await take();
  await expect(there.getByText(/The archive was taken in: \d+ things/)).toBeVisible({ timeout: 60_000 });
  // Both answer the same.
  const names = async (at: string) => {
    const { items } = (await (await request.get(`${at}/api/orders`)).json()) as ListPage<OrderSummary>;
    return items.map((o) => [o.name, o.plan?.endsAt ?? null]);
  };
  const own = await names('');
  expect(own.length).toBeGreaterThan(0);
  expect(await names(home)).toEqual(own);
  for (const path of ['/api/designs', '/api/notebook/runs', '/api/stock', '/api/lessons'])
    expect(await (await request.get(`${home}${path}`)).json()).toEqual(await (await request.get(path)).json());
  await there.getByRole('link', { name: 'Orders', exact: true }).click();
  await expect(there.getByRole('link', { name: new RegExp(own[0]?.[0] as string) }).first()).toBeVisible();

  // Once more it changes nothing; where something differs it is asked which of the two stays.
  await there.getByRole('link', { name: 'Kitchen', exact: true }).click();
  await take();
  await expect(there.getByText('Everything in the archive was here already.')).toBeVisible({ timeout: 60_000 });
  const [first] = (await (await request.get(`${home}/api/designs/choices`)).json()) as DesignSummary[];
  const design = `${home}/api/designs/${first?.id}`;
  const { document } = (await (await request.get(design)).json()) as DesignView;
  const renamed = { type: 'rename', name: 'Renamed there' };
  expect((await request.put(design, { data: { edits: [...document.edits, renamed] } })).status()).toBe(200);
  await take();
  await expect(taking.getByRole('alert')).toContainText('a design (Renamed there)');
  await expect(taking.getByRole('link', { name: 'save an archive of what is here' })).toBeVisible();
  expect(await violationsOf(there)).toEqual([]);
  await taking.getByRole('button', { name: 'Keep what is here' }).click();
  await expect(taking.getByRole('alert')).toBeHidden({ timeout: 60_000 });
  expect(((await (await request.get(design)).json()) as DesignView).name).toBe('Renamed there');
  expect(errors.filter((e) => !/409/.test(e))).toEqual([]);
});
