import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { order, watchForErrors } from './support.js';

test('the bags of an order, thinning, and what makes it dry', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const { id } = await order(request, /Harbour regatta/);
  await page.goto(`/orders/${id}/icing`);
  const bags = page.getByRole('region', { name: 'Bags' });
  await expect(bags.getByText('Lighthouse, Mackerel')).toBeVisible();
  await expect(bags.getByText(/look alike/).first()).toBeVisible();
  await bags.getByRole('button', { name: 'fresh white' }).click();
  await expect(bags.getByRole('note')).toContainText('dried or pasteurised');

  // The worked example, then wrong inputs: refused where they are typed, and nothing typed is lost.
  const thinning = page.getByRole('region', { name: 'Thinning' });
  await expect(thinning.getByText('Add 3.2 g of water first, 64 drops')).toBeVisible();
  await thinning.getByLabel('icing, g').fill('-3');
  await expect(thinning.getByRole('alert')).toHaveText('The icing goes from 1 to 20000 g.');
  await thinning.getByLabel('counts now, s').fill('0');
  await thinning.getByLabel('wanted, s').fill('soft');
  await expect(thinning.getByText('The wanted count must be a number.')).toBeVisible();
  await expect(thinning.getByLabel('icing, g')).toHaveValue('-3');
  await thinning.getByLabel('icing, g').fill('200');
  await thinning.getByLabel('counts now, s').fill('12');
  await thinning.getByLabel('wanted, s').fill('15');
  await expect(thinning.getByText(/loose enough already/)).toBeVisible();

  // Damp air: first slower, then never, with the humidity at which it would work.
  const drying = page.getByRole('region', { name: 'Drying' });
  const crusted = drying.getByRole('row', { name: /^crusted/ });
  await expect(crusted).toContainText('20 min');
  await drying.getByRole('button', { name: 'fan in front' }).click();
  await expect(crusted).toContainText('9 min');
  await drying.getByRole('button', { name: 'still air' }).click();
  await drying.getByLabel('humidity').fill('88');
  await expect(crusted).toContainText(/never.*it works at 8\d % or below/);

  // US units throughout.
  await page.getByRole('button', { name: /change units/ }).click();
  await expect(bags.getByText(/cups of powdered sugar/)).toBeVisible();
  await expect(thinning.getByLabel('icing, oz')).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations.map((v) => `${v.id} ${v.nodes[0]?.target}`)).toEqual([]);
  expect(errors).toEqual([]);
});
