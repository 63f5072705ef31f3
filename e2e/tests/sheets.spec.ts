import { readFileSync } from 'node:fs';
import type { DesignSummary, DesignView } from '@kestfog/core/wire';
import { expect, type Page, test } from '@playwright/test';
import { makeOrder, order, violationsOf, watchForErrors } from './support.js';

/** What a press hands over as a file. */
async function fileOf(page: Page, press: () => Promise<void>): Promise<{ readonly name: string; readonly text: string }> {
  const download = page.waitForEvent('download');
  await press();
  const file = await download;
  return { name: file.suggestedFilename(), text: readFileSync(await file.path(), 'latin1') };
}

test('the run sheet, a calendar and tables of an order; what has no plan says so', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const regatta = await order(request, /six dozen/);
  await page.goto(`/orders/${regatta.id}/rack`);
  await page.getByRole('link', { name: 'Sheets' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Sheets' })).toBeVisible();
  const printed = page.getByRole('region', { name: 'As it is printed' });
  await expect(printed.getByRole('img', { name: /run sheet, page 1 of 2/ })).toBeVisible({ timeout: 30_000 });
  await expect(printed.getByText('nobody is at the bench until').first()).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  const pdf = await fileOf(page, () => page.getByRole('button', { name: 'Save as PDF' }).click());
  expect(pdf.name).toBe('Harbour-regatta-all-six-dozen-run-sheet.pdf');
  expect(pdf.text.slice(0, 5)).toBe('%PDF-');
  // Every kind can be looked at; what is chosen stays in the address.
  for (const [kind, words] of [
    ['mixing', /bowl and bag/],
    ['shopping', /powdered sugar/],
    ['tray cards', /Tray A/],
    ['bag labels', /counts/],
    ['offer', /together/],
  ] as const) {
    await page.getByRole('radio', { name: kind, exact: true }).click();
    await expect(printed.getByText(words).first()).toBeVisible({ timeout: 15_000 });
  }
  await page.getByRole('radio', { name: 'ingredients' }).click();
  await page.getByLabel('what the cookie is baked of').fill('wheat flour, butter, sugar, egg');
  await page.keyboard.press('Tab');
  await expect(printed.getByText(/Cookie: wheat flour/).first()).toBeVisible();
  // What the label must name is looked up once; until then it says that nobody has.
  await expect(printed.getByText(/Not known yet: what is in the cookie/).first()).toBeVisible();
  await page.getByText('in the cookie:').click();
  await page.getByRole('group', { name: 'in the cookie' }).getByLabel('wheat', { exact: true }).check();
  await page.getByRole('group', { name: 'in the cookie' }).getByLabel('milk').check();
  await page.getByRole('button', { name: 'Keep the allergens' }).click();
  await expect(printed.getByText(/Contains WHEAT \(the cookie\), EGG \(the icing\), MILK \(the cookie\)/).first()).toBeVisible({
    timeout: 15_000,
  });
  await page.reload();
  await expect(printed.getByText(/Cookie: wheat flour/).first()).toBeVisible({ timeout: 15_000 });
  await expect(page.getByText('in the cookie: wheat, milk')).toBeVisible();
  // What is in the house is left out of what is to be bought, from this order's list or from Kitchen.
  await page.getByRole('radio', { name: 'shopping' }).click();
  await page.getByLabel('powdered sugar in the house, g').fill('a lot');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This must be a number.')).toBeVisible();
  await page.getByLabel('powdered sugar in the house, g').fill('50000');
  await page.keyboard.press('Enter');
  await expect(printed.getByText('In the house already')).toBeVisible({ timeout: 15_000 });
  expect(await violationsOf(page)).toEqual([]);
  await page.goto('/kitchen#stock');
  const house = page.getByRole('region', { name: 'In the house' });
  await expect(house.getByLabel('powdered sugar in the house, g')).toHaveValue('50000');
  await house.getByLabel('count another thing').selectOption('a gel colour');
  await house.getByLabel('its name, as you mix by it').fill('navy');
  await page.keyboard.press('Enter');
  await expect(house.getByLabel('gel colour, navy in the house, g')).toHaveValue('0');
  await house.getByRole('button', { name: 'Count no more powdered sugar' }).click();
  await expect(house.getByLabel('powdered sugar in the house, g')).toBeHidden();
  expect(await violationsOf(page)).toEqual([]);
  const stock = await fileOf(page, () => house.getByRole('button', { name: 'Table of the stock' }).click());
  expect(stock.text).toBe('item,what,amount,unit,used up\r\ngel navy,"gel colour, navy",0,g,yes\r\n');
  await house.getByRole('button', { name: 'Count no more gel colour, navy' }).click();
  await expect(house.getByText('Nothing is counted yet')).toBeVisible();
  // A price that is asked, and what it leaves for the hour; on the offer stands only the price.
  await page.goto(`/orders/${regatta.id}/sheets?sheet=offer`);
  await page.getByLabel('one cookie, €').fill('3,50');
  await expect(printed.getByText('3.50 €').first()).toBeVisible({ timeout: 15_000 });
  await expect(page.getByText(/It leaves .* for each hour of hands/)).toBeVisible();
  await expect(printed.getByText(/hour of hands|decorating by hand/)).toHaveCount(0);
  await page.getByRole('radio', { name: 'at true size' }).click();
  await page.getByLabel('of the design').selectOption({ index: 1 });
  await page.getByRole('radio', { name: 'transfer sheet' }).click();
  await expect(printed.getByRole('img', { name: /transfers/ }).first()).toBeVisible({ timeout: 15_000 });
  await page.getByRole('radio', { name: 'run sheet' }).click();
  const calendar = await fileOf(page, () => page.getByRole('button', { name: 'Calendar' }).click());
  expect(calendar.name).toBe('Harbour-regatta-all-six-dozen.ics');
  expect(calendar.text).toContain(`UID:due.${regatta.id}@kestfog`);
  // Or a calendar program asks for it itself.
  const address = await page.getByLabel('address of the calendar').inputValue();
  // By now earlier journeys may have let the clock run past the regatta: an order of the coming days is in it.
  const coming = await makeOrder(request, 'In the calendar', { 'Signal flag': 2 });
  expect((await request.post(`/api/orders/${coming.id}/plan`, { timeout: 60_000 })).ok()).toBe(true);
  expect(await (await request.get(address)).text()).toContain(`UID:due.${coming.id}@kestfog`);
  await request.delete(`/api/orders/${coming.id}`);
  const table = await fileOf(page, () => page.getByRole('button', { name: 'Table of the plan' }).click());
  expect(table.text.split('\r\n')[0]).toBe('start,end,tray,who,design,cookies,round,kind,what,bags,done by,done within s');
  await page.goto('/');
  const orders = await fileOf(page, () => page.getByRole('button', { name: 'Table of these orders' }).click());
  expect([orders.name, orders.text]).toEqual(['orders.csv', expect.stringContaining('"Harbour regatta, all six dozen",')]);
  await page.goto('/orders/00000000-0000-4000-8000-000000000000/sheets');
  await expect(page.getByRole('alert')).toContainText('The sheets could not be made');
  expect(errors.filter((e) => !/404/.test(e))).toEqual([]);
});

test('a template, a guide and transfers of a design; gauges of the kitchen; a printer that prints small is corrected', async ({
  page,
  request,
}) => {
  const errors = watchForErrors(page);
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const badge = designs.find((d) => d.name === 'Compass badge');
  const copy = (await (await request.post(`/api/designs/${badge?.id}/copy`, { data: { name: 'Badge to print' } })).json()) as DesignView;
  await page.goto(`/designs/${copy.id}`);
  await page.getByRole('link', { name: 'Sheets' }).click();
  const printed = page.getByRole('region', { name: 'As it is printed' });
  await expect(printed.getByRole('img', { name: /cutting template, page 1 of 1/ })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('combobox', { name: 'template of' }).selectOption({ label: 'face' });
  await page.getByLabel('mirrored, to trace from behind').check();
  await expect(printed.getByText('cutting template of face, mirrored')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('radio', { name: 'guide to lay beneath' }).click();
  await page.getByRole('radio', { name: 'rings' }).click();
  await page.getByLabel('apart, mm').fill('6');
  await expect(printed.getByText('guide: rings 6 mm apart')).toBeVisible();
  // Printed, it is a step of the design as well: what it guides comes after it.
  await page.getByRole('button', { name: 'Make it a step of the design' }).click();
  await expect(page.getByText('The design has a step for it now')).toBeVisible();
  await expect
    .poll(
      async () =>
        ((await (await request.get(`/api/designs/${copy.id}`)).json()) as DesignView).drawing.parts.filter((p) => p.role === 'guide')
          .length,
    )
    .toBeGreaterThan(3);
  await page.getByLabel('apart, mm').fill('0');
  await expect(page.getByRole('alert')).toContainText('The distance goes from 1 to 100');
  await page.getByLabel('apart, mm').fill('6');
  // What the line measured is kept for the next sheet.
  const measured = page.getByLabel('the 100 mm line of the last print measured, mm');
  await measured.fill('98');
  await page.getByRole('radio', { name: 'transfer sheet' }).click();
  await page.getByLabel('pieces').fill('3');
  await expect(printed.getByText(/transfers, 3 and 2 spare/).first()).toBeVisible();
  await page.getByRole('radio', { name: 'US Letter' }).click();
  const pdf = await fileOf(page, () => page.getByRole('button', { name: 'Save as PDF' }).click());
  expect(pdf.text.slice(0, 5)).toBe('%PDF-');
  await page.goto('/kitchen');
  await page.getByRole('link', { name: /gauges/ }).click();
  await expect(printed.getByText('round tip 2').first()).toBeVisible({ timeout: 30_000 });
  await expect(measured).toHaveValue('98');
  await expect(page.getByRole('radio', { name: 'US Letter' })).toBeChecked();
  expect(await violationsOf(page)).toEqual([]);
  await request.delete(`/api/designs/${copy.id}`);
  expect(errors).toEqual([]);
});
