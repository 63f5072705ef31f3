import { expect, test } from '@playwright/test';
import { deadTime, makeOrder, violationsOf, watchForErrors } from './support.js';

test('a plan is rehearsed without sugar: felt, spoilt by haste, the reason shown, gone back to; nothing of it is kept', async ({
  page,
  request,
}) => {
  test.setTimeout(240_000);
  const errors = watchForErrors(page);
  await page.goto('/orders/00000000-0000-4000-8000-000000000000/rehearse');
  await expect(page.getByText('There is nothing to rehearse')).toBeVisible();
  const order = await makeOrder(request, 'To rehearse', { Mackerel: 2 });
  expect((await request.post(`/api/orders/${order.id}/plan`, { timeout: 60_000 })).ok()).toBe(true);
  const known = async () => [
    await (await request.get('/api/notebook/runs')).text(),
    await (await request.get('/api/runs?state=going')).text(),
    await (await request.get('/api/stock')).text(),
    await (await request.get('/api/bench-touches')).text(),
  ];
  const before = await known();
  await page.goto(`/orders/${order.id}`);
  await page.getByRole('link', { name: 'Rehearse' }).click();
  await page.getByRole('radio', { name: /a damp one/ }).click();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'To the bench' }).click();
  await expect(page.getByRole('heading', { name: 'Ready when you are' })).toBeVisible();
  await page.getByRole('radio', { name: 'stopped' }).click();
  const skip = page.getByRole('button', { name: 'Skip the wait' });
  const verdict = page.getByRole('heading', { name: /came wrong|came out right/ });
  const goOn = async () => {
    if (await skip.isEnabled().catch(() => false)) await skip.click();
    await page.keyboard.press('PageDown');
    await deadTime(page);
  };
  // To the first wait: a finger finds what is really there, and it is reported to the bench.
  for (let i = 0; i < 40 && !(await skip.isEnabled()); i++) await goOn();
  await page.getByRole('button', { name: 'Put a finger to it' }).click();
  const felt = page.getByRole('dialog', { name: 'A finger on it' });
  await expect(felt.getByText(/asked is/).first()).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await felt
    .getByRole('button', { name: /tell the bench/ })
    .first()
    .click();
  await expect(page.getByText(/Nothing until/)).toBeVisible();
  // A reload goes on where it stood.
  const done = page.getByText(/of \d+ done/);
  const where = await done.textContent();
  await page.reload();
  await expect(done).toHaveText(where ?? '');
  // From here on nothing is felt any more: in a damp kitchen that spoils.
  for (let i = 0; i < 120 && !(await verdict.isVisible()); i++) await goOn();
  await expect(verdict).toContainText('came wrong');
  await expect(page.getByText(/The rule: /).first()).toBeVisible();
  await expect(page.getByText(/Right from .* later/).first()).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  // Back to the moment it could have been saved.
  await page.getByRole('button', { name: 'Go back to before it' }).first().click();
  await expect(page.getByText('Rehearsal: nothing is kept')).toBeVisible();
  await expect(done).not.toHaveText(/^0 of/);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('button', { name: 'To the bench' })).toBeVisible();
  // Played a thousand times, it says where most are lost; the worst of those evenings is stepped into at that moment.
  await page.getByRole('button', { name: 'Work fifty evenings' }).click();
  const fifty = page.getByRole('region', { name: 'Fifty evenings, planned again' });
  await fifty.getByRole('button', { name: 'Stop' }).click();
  await expect(fifty.getByRole('button', { name: 'Work fifty evenings' })).toBeVisible();
  await page.getByRole('button', { name: 'Play it a thousand times' }).click();
  const thousand = page.getByRole('region', { name: 'A thousand evenings' });
  await expect(thousand.getByText(/of the cookies come out right/)).toBeVisible({ timeout: 60_000 });
  expect(await violationsOf(page)).toEqual([]);
  await thousand.getByRole('button', { name: 'Step into the worst' }).first().click();
  await expect(page.getByText('Rehearsal: nothing is kept')).toBeVisible();
  await expect(done).not.toHaveText(/^0 of/);
  expect(await known()).toEqual(before);
  await request.delete(`/api/orders/${order.id}`);
  expect(errors.filter((e) => !/404/.test(e))).toEqual([]);
});

test('a lesson played to its score: the telephone rings in wet work, answered it costs the marks, let ring it does not', async ({
  page,
}) => {
  test.setTimeout(240_000);
  // On a tablet at the bench; the rehearsal of an order is played at 1280.
  await page.setViewportSize({ width: 1024, height: 768 });
  const errors = watchForErrors(page);
  await page.goto('/practice');
  await expect(page.getByRole('listitem')).toHaveCount(12);
  expect(await violationsOf(page)).toEqual([]);
  const play = async (answer: string) => {
    await page.goto('/practice');
    await page.getByRole('link', { name: /^11 The telephone/ }).click();
    await page.getByRole('button', { name: 'To the bench' }).click();
    await expect(page.getByRole('heading', { name: 'Ready when you are' })).toBeVisible();
    await page.getByRole('radio', { name: 'stopped' }).click();
    const verdict = page.getByRole('heading', { name: /came wrong|came out right/ });
    const call = page.getByRole('dialog', { name: 'The telephone rings' });
    const skip = page.getByRole('button', { name: 'Skip the wait' });
    for (let i = 0; i < 60 && !(await verdict.isVisible()); i++) {
      if (await call.isVisible()) {
        // Let ring behind one, it is answered behind the next.
        await call.getByRole('button', { name: i < 10 ? answer : 'Answer it now' }).click();
        await expect(call).toBeHidden();
      }
      if (await skip.isEnabled().catch(() => false)) await skip.click();
      await page.keyboard.press('PageDown');
      await deadTime(page);
    }
    await expect(verdict).toBeVisible();
    await expect(page.getByText('Finish the cookie that is wet, then answer.')).toBeVisible();
    return Number(await page.locator('dd').first().textContent());
  };
  const [answered, finished] = [await play('Answer it now'), await play('Finish this first')];
  expect(finished).toBeGreaterThan(answered + 5);
  await page.getByRole('link', { name: 'To the lessons' }).click();
  await expect(page.getByText(`best: ${finished} of 100`)).toBeVisible();
  await page.goto('/practice/nothing');
  await expect(page.getByText('There is no such lesson')).toBeVisible();
  expect(errors).toEqual([]);
});

test('surfaces are named, and what was said of them is counted on this device', async ({ page }) => {
  const errors = watchForErrors(page);
  await page.goto('/practice');
  await page.getByRole('link', { name: /Know your surfaces/ }).click();
  await expect(page.getByText(/^Flooded .* ago/)).toBeVisible();
  for (let i = 1; i <= 3; i++) {
    await page.getByRole('button', { name: 'crusted, it dents' }).click();
    await expect(page.getByText(new RegExp(`of ${i} right`))).toBeVisible();
    // The next one by its key: the button has the focus.
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('button', { name: 'crusted, it dents' })).toBeVisible();
  await page.goto('/practice');
  await expect(page.getByText(/So far \d of 3 right/)).toBeVisible();
  expect(errors).toEqual([]);
});
