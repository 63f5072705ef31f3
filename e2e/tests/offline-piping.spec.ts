import type { DesignSummary, DesignView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { counted } from './hand.js';
import { watchForErrors } from './support.js';

test.use({ serviceWorkers: 'allow' });

test('split, mirrored, woven, undone fifty times and done again without a network; after a reload all of it is there', async ({
  page,
  context,
  request,
}) => {
  test.setTimeout(180_000);
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await page.getByRole('button', { name: 'square', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'square' })).toBeVisible();
  const address = page.url();
  const bar = page.getByRole('group', { name: /^(Pipe on it|How it is piped)$/ });
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  const hand = counted(page);
  // The page is kept on the device before the network goes.
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await context.setOffline(true);
  await hand.press(bar.getByRole('button', { name: 'cut in two', exact: true }));
  await hand.stroke([0.06, 0.4], [0.5, 0.4], [0.94, 0.4]);
  await expect(stack.getByRole('listitem')).toHaveCount(2);
  await hand.press(bar.getByRole('button', { name: 'weave', exact: true }));
  await hand.press(bar.getByRole('button', { name: /All over/ }));
  await expect(stack.getByRole('button', { name: /weave/ }).last()).toBeVisible();
  // Twenty-four strokes left and right.
  await hand.press(bar.getByRole('button', { name: 'wet drops', exact: true }));
  await hand.choose(bar.getByLabel('repeated'), 'mirror');
  for (let i = 0; i < 24; i++) await hand.tap(0.16 + (i % 6) * 0.05, 0.56 + Math.floor(i / 6) * 0.08);
  await expect(page.getByText('kept on this device', { exact: true })).toBeVisible();
  const rows = await stack.getByRole('listitem').count();
  const undo = page.getByRole('button', { name: 'undo' });
  const redo = page.getByRole('button', { name: 'redo' });
  for (let round = 0; round < 2; round++) {
    for (let i = 0; i < 26; i++) await undo.click();
    await expect(undo).toBeDisabled();
    await expect(stack.getByRole('listitem')).toHaveCount(1);
    for (let i = 0; i < 26; i++) await redo.click();
    await expect(redo).toBeDisabled();
    await expect(stack.getByRole('listitem')).toHaveCount(rows);
  }
  await page.reload();
  await expect(page.getByText('kept on this device', { exact: true })).toBeVisible();
  await expect(stack.getByRole('listitem')).toHaveCount(rows);
  await context.setOffline(false);
  await expect(page.getByText('kept', { exact: true })).toBeVisible({ timeout: 60_000 });
  const id = address.split('/').at(-1);
  const view = (await (await request.get(`/api/designs/${id}`)).json()) as DesignView;
  expect(view.document.edits.filter((e) => e.type === 'draw')).toHaveLength(25);
  expect(view.document.edits.filter((e) => e.type === 'undo')).toHaveLength(52);
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  expect(designs.some((d) => d.id === id)).toBe(true);
  await request.delete(`/api/designs/${id}`);
  expect(errors.filter((e) => !/ERR_INTERNET_DISCONNECTED|Failed to fetch|Failed to load/i.test(e))).toEqual([]);
});
