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

test('a bag is mixed and counted, told what it is fit for, and the plan’s waits follow', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const design = ((await (await request.get('/api/designs')).json()) as { id: string; name: string }[]).find((d) => d.name === 'Lighthouse');
  const made = (await (
    await request.post('/api/orders', {
      data: {
        name: 'Count test',
        designs: [{ designId: design?.id, count: 4 }],
        trays: [{ id: 'A', places: 4 }],
        bench: [
          { from: '2026-06-05T14:00:00Z', to: '2026-06-05T22:00:00Z' },
          { from: '2026-06-06T07:00:00Z', to: '2026-06-06T19:00:00Z' },
        ],
        air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
        fan: null,
        school: 'two-bags',
        margin: 'normal',
        packBy: '2026-06-06T19:00:00Z',
      },
    })
  ).json()) as { id: string };
  await request.post(`/api/orders/${made.id}/plan`);
  const rockWait = async () =>
    ((await (await request.get(`/api/orders/${made.id}/plan`)).json()) as { plan: { waits: { reason: string; minS: number }[] } }).plan.waits.find((w) =>
      w.reason.includes('rock crusts'),
    )?.minS as number;
  const before = await rockWait();

  await page.goto(`/orders/${made.id}/icing`);
  const rows = page.getByRole('region', { name: 'Bags' }).getByRole('checkbox');
  await rows.first().check();
  await expect(rows.first()).toBeChecked();
  await expect(page.getByLabel('really mixed').first()).toBeVisible();
  await page.reload();
  await expect(rows.first()).toBeChecked();

  // The rock's flood is the grey bag: touch, wait three seconds, touch.
  const grey = page
    .getByRole('region', { name: 'Bags' })
    .locator('ol > li')
    .filter({ hasText: 'flood, 15 s' })
    .filter({ has: page.locator('span[style*="rgb(111, 124, 133)"]') });
  await grey.getByRole('button', { name: 'count it' }).last().click();
  const pad = page.getByRole('dialog', { name: 'Count test' });
  await pad.getByRole('button', { name: /Touch when the line is drawn/ }).click();
  await page.waitForTimeout(3000);
  await pad.getByRole('button', { name: /Touch when it has closed/ }).click();
  await expect(pad.getByText(/One try: (thin|loose flood)/)).toBeVisible();
  await pad.getByLabel('your own word for it').fill('runny');
  await pad.getByRole('button', { name: 'Keep this count' }).click();
  await expect(grey.getByText(/“runny”, \d+(\.\d)? s: /)).toBeVisible();
  await page.getByRole('link', { name: 'plan it again' }).click();
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText('It fits.')).toBeVisible();
  expect(await rockWait()).toBeGreaterThan(before);
  await request.delete(`/api/orders/${made.id}`);
  expect(errors).toEqual([]);
});
