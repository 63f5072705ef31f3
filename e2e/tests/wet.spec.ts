import { expect, test } from '@playwright/test';
import { advance, benchReady, deadTime, forwardOf, untilReady, watchForErrors } from './support.js';

test('a web with a curl is laid on a flood, scrubbed, planned, and seen being pulled at the bench', async ({ page, request }) => {
  test.setTimeout(240_000);
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await page.getByRole('button', { name: 'oval', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'oval' })).toBeVisible();
  const panel = page.getByRole('region', { name: /Part: / });
  await panel.getByRole('combobox', { name: 'wet in it' }).selectOption('web-curled');
  await panel.getByLabel('how many').fill('6');
  await panel.getByRole('button', { name: 'Lay them in' }).click();

  // Everything is on; scrubbed back it is rings, and before that the untouched flood.
  const motions = page.getByRole('region', { name: /Motions in the wet/ });
  await expect(motions.getByText(/a pull/)).toBeVisible();
  const cookie = page.getByRole('img', { name: /oval, \d+ mm wide/ });
  const picture = cookie.locator('image');
  const shown = () => picture.getAttribute('href');
  // Until it is painted the picture before it is shown.
  await expect(cookie).toHaveAttribute('data-painted', 'true');
  const all = await shown();
  await motions.getByRole('button', { name: 'back to the untouched flood' }).click();
  await expect(motions.getByText(/untouched/)).toBeVisible();
  await expect.poll(shown).not.toBe(all);
  await expect(cookie).toHaveAttribute('data-painted', 'true');
  const bare = await shown();
  await motions.getByLabel('motions made').fill('2.5');
  await expect.poll(shown).not.toBe(bare);
  await motions.getByRole('button', { name: 'one motion on' }).click();
  await expect(motions.getByText(/^3 of/)).toBeVisible();
  await expect(page.getByText('kept', { exact: true })).toBeVisible();

  const begun = await benchReady(request, 'Webs', { oval: 2 });
  await page.goto(`/runs/${begun.id}`);
  await expect(forwardOf(page)).toBeVisible();
  const now = page.locator('main').getByRole('img', { name: 'oval after this step' });
  // Step by step until the wet work is at hand; there it is seen being done, and then stands still.
  for (let guard = 0; guard < 30; guard++) {
    if (/web/i.test((await page.getByRole('heading', { level: 1 }).textContent()) ?? '')) break;
    await untilReady(page, request);
    await deadTime(page);
    await forwardOf(page).click();
    await advance(request, 60);
    await page.waitForTimeout(150);
  }
  await expect(page.getByRole('heading', { level: 1, name: /web/i })).toBeVisible();
  const moving = now.locator('image');
  await expect(moving).toBeAttached();
  // The pulling is over when only the highlights on the wet icing still move: three pictures, over and over.
  await expect(async () => {
    const seen = new Set<string | null>();
    for (let look = 0; look < 20; look++) {
      seen.add(await moving.getAttribute('href'));
      await page.waitForTimeout(400);
    }
    expect(seen.size).toBeLessThanOrEqual(3);
  }).toPass({ timeout: 60_000 });
  expect(errors).toEqual([]);
});
