import type { PlanView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { makeOrder, violationsOf, watchForErrors } from './support.js';

test('another evening is tried on the rack in a worker of the page, dropped, and kept', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const { id } = await makeOrder(request, 'What if', { Lighthouse: 6, Mackerel: 6 });
  const stored = async () => ((await (await request.get(`/api/orders/${id}/plan`)).json()) as PlanView).plan;
  const before = await stored();
  await page.goto(`/orders/${id}/rack`);
  await page.getByRole('button', { name: 'What if …' }).click();
  await expect(page.getByLabel('humidity')).toBeInViewport();
  const panel = page.getByRole('region', { name: 'What if' });
  // The engine runs beside the page: nothing is asked of the server while it is tried.
  const asked: string[] = [];
  page.on('request', (r) => r.url().includes('/api/') && r.method() !== 'GET' && asked.push(r.url()));
  await panel.getByLabel('humidity').fill('64');
  await expect(panel.getByText(/Packed \d+ (min|h).* later|hands free on the first day .* later/)).toBeVisible();
  await expect(page.getByText('as it would be')).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Keep it' })).toBeVisible({ timeout: 60_000 });
  expect(asked).toEqual([]);
  expect(await violationsOf(page)).toEqual([]);
  await panel.getByRole('button', { name: 'Drop it' }).click();
  await expect(page.getByText('as it would be')).toBeHidden();
  expect((await stored()).air).toEqual(before.air);

  // Stopped while it is looked for: the rack stands as it was.
  await panel.getByLabel('humidity').fill('70');
  await panel.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('as it would be')).toBeHidden();

  // Air in which it would never dry is said as such, and cannot be kept.
  await panel.getByLabel('humidity').fill('85');
  await expect(panel.getByText(/would wait for ever.*it works at \d+ % or below/)).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Keep it' })).toBeDisabled();
  await panel.getByRole('button', { name: 'Drop it' }).click();

  await panel.getByRole('radio', { name: 'bold' }).click();
  await panel.getByRole('button', { name: 'Keep it' }).click({ timeout: 60_000 });
  await expect.poll(async () => (await stored()).margin, { timeout: 60_000 }).toBe('bold');
  await request.delete(`/api/orders/${id}`);
  expect(errors).toEqual([]);
});
