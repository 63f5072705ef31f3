import type { KitchenView, OrderView, PlanView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { makeOrder, violationsOf, watchForErrors } from './support.js';

test('the bags of an order, thinning, and what makes it dry', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const { id } = await makeOrder(request, 'Icing of both', { Lighthouse: 4, Mackerel: 4 });
  await page.goto(`/orders/${id}/icing`);
  const bags = page.getByRole('region', { name: 'Bags' });
  await expect(bags.getByText('Lighthouse, Mackerel')).toBeVisible();
  await expect(bags.getByText(/look alike/).first()).toBeVisible();
  // Two whites that look alike: one bag for both, and back again.
  const bowls = await bags.locator('ol > li').count();
  await bags.getByRole('button', { name: /^Use warm white for both/ }).click();
  await expect(bags.locator('ol > li')).toHaveCount(bowls - 1);
  await expect(page.getByText('The plan does not know this yet')).toBeVisible();
  await bags.getByRole('button', { name: 'a bag of its own again' }).click();
  await expect(bags.locator('ol > li')).toHaveCount(bowls);
  await expect(page.getByText('The plan does not know this yet')).toBeHidden();
  // How a colour was mixed is kept; what does not read is refused where it is typed.
  await bags.getByRole('button', { name: 'how was it coloured?' }).last().click();
  await bags.getByLabel('parts of gel').fill('navy');
  await expect(bags.getByText('Write a number and a gel colour')).toBeVisible();
  await bags.getByLabel('parts of gel').fill('3 navy, 1 black');
  await bags.getByLabel('note').fill('let it deepen overnight');
  await bags.getByRole('button', { name: 'keep', exact: true }).click();
  await expect(bags.getByRole('button', { name: '3 navy, 1 black (let it deepen overnight)' })).toBeVisible();
  // Grams of each gel follow from how much went into a hundred grams.
  await bags.getByRole('button', { name: '3 navy, 1 black (let it deepen overnight)' }).click();
  await bags.getByLabel('gel, g in 100 g').fill('2');
  await bags.getByRole('button', { name: 'keep', exact: true }).click();
  await expect(bags.getByRole('button', { name: /^\d+\.\d g navy, \d+\.\d g black/ })).toBeVisible();
  const { revision: _, ...kitchen } = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  // A recipe of one's own: its water is shown, and the base and the water to stir in follow from it.
  await expect(bags.getByText(/19\.0 % water/).first()).toBeVisible();
  const stirred = await bags
    .getByText(/stir in [\d.]+ g of water first/)
    .first()
    .textContent();
  await bags.getByText('your own recipe').click();
  await bags.getByRole('radio', { name: 'fresh white' }).click();
  await bags.getByLabel(/^water, g/).fill('x');
  await expect(bags.getByText('The water must be a number.')).toBeVisible();
  await expect(bags.getByRole('button', { name: 'Keep the recipe' })).toBeDisabled();
  await bags.getByLabel(/^water, g/).fill('60');
  await bags.getByLabel('lemon juice, g').fill('10');
  await bags.getByLabel('what it is called').fill('lemon icing');
  await bags.getByRole('button', { name: 'Keep the recipe' }).click();
  await expect(bags.getByRole('note')).toContainText('dried or pasteurised');
  await expect(bags.getByText(/g of lemon juice/)).toBeVisible();
  await expect(bags.getByText(/stir in [\d.]+ g of water first/).first()).not.toHaveText(stirred ?? '');
  // Colours are kept for each recipe: this one has none yet.
  await expect(bags.getByRole('button', { name: /g navy/ })).toHaveCount(0);
  await bags.getByRole('button', { name: 'the usual one again' }).click();
  await expect(bags.getByRole('button', { name: 'the usual one again' })).toBeHidden();
  await request.put('/api/kitchen', { data: kitchen });
  await page.reload();

  // Each part has an address of its own, one touch apart.
  const parts = page.getByRole('navigation', { name: 'Parts of this place' });
  await parts.getByRole('link', { name: 'count and thin' }).click();
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
  await expect(thinning.getByText(/looser than wanted.*of piping icing at 60 s/)).toBeVisible();

  await parts.getByRole('link', { name: 'air and drying' }).click();
  // Damp air: first slower, then never, with the humidity at which it would work.
  const drying = page.getByRole('region', { name: 'Drying' });
  // The first of them: below, the same states are listed once more with what was learned.
  const crusted = drying.getByRole('row', { name: /^crusted/ }).first();
  await expect(crusted).toContainText('20 min');
  await drying.getByRole('radio', { name: 'fan in front' }).click();
  await expect(crusted).toContainText('9 min');
  await drying.getByRole('radio', { name: 'still air' }).click();
  await drying.getByLabel('humidity').fill('88');
  await expect(crusted).toContainText(/never.*it works at 8\d % or below/);

  // The weather plays: rain comes in, and the order is planned with what the sensor says.
  const air = page.getByRole('region', { name: 'Air' });
  await air.getByRole('radio', { name: 'rainy evening' }).click();
  await request.post('/api/clock', { data: { advance: 7200 } });
  await expect(air.getByLabel('climate sensor')).toHaveText(/20\.\d °C {2}7\d %/);
  await air.getByLabel('humidity, %').fill('140');
  await expect(air.getByRole('alert')).toHaveText('The humidity goes from 1 to 100 %.');
  await air.getByLabel('humidity, %').fill('72');
  await air.getByRole('button', { name: 'Plan with what I typed' }).click();
  await expect(page.getByText('The plan does not know this yet')).toBeVisible();
  await air.getByLabel('humidity, %').fill('50');
  await air.getByRole('button', { name: 'Plan with what I typed' }).click();
  await expect(page.getByText('The plan does not know this yet')).toBeHidden();
  await air.getByRole('radio', { name: 'steady' }).click();
  // A finger found the crust early: yours beside the book's, and taken back again.
  const finger = page.getByRole('region', { name: 'What your finger found' });
  await finger.getByLabel('had come at, min').fill('12');
  await finger.getByRole('button', { name: 'Learn from it' }).click();
  await expect(finger.getByRole('row', { name: /^crusted/ })).toContainText(/\d+ % sooner/);
  await finger.getByRole('button', { name: 'take it back' }).click();
  await expect(finger.getByText('Nothing reported yet')).toBeVisible();
  // Whoever calls flood "ten" sees ten everywhere: said once, in the kitchen.
  await page.goto('/kitchen#count');
  const counting = page.getByRole('region', { name: 'How I count' });
  await counting.getByLabel('my flood counts, s').fill('10');
  await counting.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('all kept')).toBeVisible();
  await page.goto(`/orders/${id}/icing`);
  await expect(bags.getByText('flood, 10 s').first()).toBeVisible();
  await page.goto('/kitchen#count');
  await counting.getByLabel('my flood counts, s').fill('15');
  await counting.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('all kept')).toBeVisible();
  await page.goto(`/orders/${id}/icing`);
  await expect(bags.getByText('flood, 15 s').first()).toBeVisible();

  // US units throughout.
  await page.getByRole('button', { name: /change units/ }).click();
  await expect(bags.getByText(/cups of powdered sugar/)).toBeVisible();
  await parts.getByRole('link', { name: 'count and thin' }).click();
  await expect(thinning.getByLabel('icing, oz')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await request.delete(`/api/orders/${id}`);
  expect(errors).toEqual([]);
});

test('a bag is mixed and counted, what it is fit for is shown, and the plan’s waits follow', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const made = await makeOrder(request, 'Count test', { Lighthouse: 4 });
  const rockWait = async () =>
    ((await (await request.get(`/api/orders/${made.id}/plan`)).json()) as PlanView).plan.waits.find(
      ({ facts: f }) => f.kind === 'meeting' && f.earlier === 'rock' && f.state === 'crusted',
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

  // Too loose by its count, so how to rescue it is shown; a stiffer count is thinned on the scale and counted again.
  await page.getByRole('link', { name: 'count and thin' }).click();
  const thinning = page.getByRole('region', { name: 'Thinning' });
  await thinning.getByLabel('which bag').selectOption({ label: 'flood 15 s, Lighthouse (slate)' });
  await expect(thinning.getByText(/Stir in \d+(\.\d)? g of piping icing/)).toBeVisible();
  await expect(page.getByText('all kept')).toBeVisible();
  await thinning.getByLabel('counts now, s').fill('18');
  await expect(thinning.getByLabel('counts now, s')).toHaveValue('18');
  await thinning.getByRole('button', { name: 'Use the scale' }).click();
  const pan = thinning.getByLabel('lies on the scale');
  const shows = thinning.getByLabel('on the scale', { exact: true });
  await pan.fill('180');
  await expect(shows).toHaveText('180.0 g');
  await thinning.getByRole('button', { name: 'This is the icing' }).click();
  await expect(thinning.getByLabel('icing, g')).toHaveValue('180');
  await thinning.getByRole('button', { name: 'tare' }).click();
  await pan.fill('180.5');
  await expect(shows).toHaveText('0.5 g');
  await expect(thinning.getByText('at rest')).toBeVisible();
  await thinning.getByRole('button', { name: 'Poured: stir, then count' }).click();
  await pad.getByRole('button', { name: /Touch when the line is drawn/ }).click();
  await page.waitForTimeout(2500);
  await pad.getByRole('button', { name: /Touch when it has closed/ }).click();
  await pad.getByRole('button', { name: 'Keep this count' }).click();
  await expect(thinning.getByText(/“my icing” thins by \d+ ± \d+ \(book 55\), from 1 test/)).toBeVisible();
  await expect(thinning.getByLabel('icing, g')).toHaveValue('180.5');
  await page.getByRole('link', { name: 'bags to mix' }).click();
  // What is left over is put by, with its date, for the next order.
  await grey.getByLabel('left over').last().fill('40');
  await grey.getByRole('button', { name: 'put it by for the next order' }).click();
  await expect(grey.getByText('Put by.')).toBeVisible();
  expect(await (await request.get('/api/leftovers')).json()).toMatchObject([{ colour: '#6f7c85', grams: 40, orderId: made.id }]);
  await page.getByRole('link', { name: 'plan it again' }).click();
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText('It fits.')).toBeVisible();
  expect(await rockWait()).toBeGreaterThan(before);
  await request.delete(`/api/orders/${made.id}`);
  for (const path of ['leftovers', 'thinning-steps'])
    for (const x of (await (await request.get(`/api/${path}`)).json()) as { id: string }[]) await request.delete(`/api/${path}/${x.id}`);
  expect(errors).toEqual([]);
});

test('bowl by bowl with wet hands: one button goes on, each bag is kept, and it goes on where it was left', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const { id } = await makeOrder(request, 'Mixing', { Lighthouse: 4 });
  await page.goto(`/orders/${id}/icing`);
  await page.getByRole('link', { name: 'Mix them, bowl by bowl' }).click();
  const mixing = page.getByRole('region', { name: 'Mixing' });
  await expect(mixing.getByText(/^Bowl 1 of \d+$/)).toBeVisible();
  const bagsOfIt = await mixing.getByRole('checkbox').count();
  // The button has the keyboard: Enter fills, a pedal does as well, and a pedal takes one back to the bowl before.
  for (let k = 0; k < bagsOfIt; k++) {
    await page.keyboard.press(k === 0 ? 'Enter' : 'PageDown');
    await expect(mixing.getByRole('checkbox', { checked: true })).toHaveCount(k + 1);
  }
  await mixing.getByRole('button', { name: /^Next bowl: / }).click();
  await expect(mixing.getByText(/^Bowl 2 of \d+$/)).toBeVisible();
  await mixing.getByRole('button', { name: /^Filled: / }).click();
  await expect(mixing.getByRole('checkbox').first()).toBeChecked();
  await page.keyboard.press('PageUp');
  await expect(mixing.getByText(/^Bowl 1 of \d+$/)).toBeVisible();
  // Touched once more, a bag is not filled after all.
  await mixing.getByRole('checkbox').first().click();
  await expect(mixing.getByRole('checkbox').first()).not.toBeChecked();
  await expect(page.getByText('all kept')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.goto(`/orders/${id}/icing`);
  await page.getByRole('link', { name: 'Go on mixing' }).click();
  await expect(mixing.getByText(/^Bowl 1 of \d+$/)).toBeVisible();
  const kept = (await (await request.get(`/api/orders/${id}`)).json()) as OrderView;
  expect(kept.bags.filter((b) => b.mixedG !== null)).toHaveLength(bagsOfIt);
  await request.delete(`/api/orders/${id}`);
  expect(errors).toEqual([]);
});
