import type { KitchenView, OrderView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { makeOrder, nowMs, order, violationsOf, watchForErrors } from './support.js';

const pennant = `<svg xmlns="http://www.w3.org/2000/svg" width="70mm" height="50mm" viewBox="0 0 70 50">
  <path id="hoist" d="M5 5H30V45H5Z" fill="#1f4e79"/><path id="fly" d="M30 5L65 25L30 45Z" fill="#f2c14e"/></svg>`;

test('a drawing is brought, an order made, shown not to fit, mended, planned', async ({ page, request }) => {
  const errors = watchForErrors(page);
  await page.goto('/orders/new');
  const bring = page.locator('input[type=file]');

  // A drawing that would run code is refused where it is brought; nothing typed is lost.
  await page.getByLabel('Name of the order').fill('Pennants for the pier');
  await bring.setInputFiles({
    name: 'bad.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(pennant.replace('</svg>', '<script/></svg>')),
  });
  await expect(page.getByRole('alert').filter({ hasText: 'script' })).toBeVisible();
  await expect(page.getByLabel('Name of the order')).toHaveValue('Pennants for the pier');

  await bring.setInputFiles({ name: 'Pennant.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(pennant) });
  await expect(page.getByRole('combobox', { name: 'Design 2' })).toHaveValue(/.+/);
  await page.getByRole('button', { name: 'Remove design 1' }).click();
  await page.getByLabel('cookies').fill('40');
  await expect(page.getByText('24 too few')).toBeVisible();

  // Humidity of 140 % is refused where it is typed.
  await page.getByLabel('humidity, %').fill('140');
  await page.getByRole('button', { name: 'Keep the order' }).click();
  await expect(page.getByText('Humidity goes from 1 to 100.').first()).toBeVisible();
  await page.getByLabel('humidity, %').fill('50');
  await page.getByRole('button', { name: 'Keep the order' }).click();
  await expect(page.getByRole('heading', { name: 'Pennants for the pier' })).toBeVisible();
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText('40 cookies do not fit on 2 trays with 16 places')).toBeVisible();

  await page.getByRole('button', { name: 'Change the order' }).click();
  await page.getByLabel('cookies').fill('12');
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText('It fits.')).toBeVisible();
  expect((await order(request, /Pennants/)).plan?.stale).toBe(false);
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('heading', { name: 'Orders' })).toBeVisible();
  await expect(page.getByText('Pennants for the pier is in the trash')).toBeVisible();
  await expect(page.getByRole('link', { name: /Pennants for the pier/ })).toHaveCount(0);
  expect(errors).toEqual([]);
});

test('every place opens by its address, with its name in the tab; one that cannot be fetched says so', async ({ browser, request }) => {
  const regatta = await order(request, /six dozen/);
  const [design] = (await (await request.get('/api/designs/choices')).json()) as { id: string }[];
  const places: readonly (readonly [string, RegExp])[] = [
    ['/orders', /^Orders,/],
    ['/orders/new', /^New order,/],
    [`/orders/${regatta.id}`, /six dozen,/],
    [`/orders/${regatta.id}/icing`, /^Icing of/],
    [`/orders/${regatta.id}/rack`, /^Rack of/],
    ['/designs', /^Designs,/],
    [`/designs/${design?.id}`, /^Lighthouse,/],
    ['/kitchen', /^Kitchen,/],
    ['/not-kept', /^Not kept yet,/],
  ];
  for (const [path, title] of places) {
    // A device of its own: nothing of the page is there yet.
    const context = await browser.newContext();
    const page = await context.newPage();
    const errors = watchForErrors(page);
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page).toHaveTitle(title);
    expect(errors).toEqual([]);
    await context.close();
  }
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto('/orders');
  await expect(page.getByRole('heading', { level: 1, name: 'Orders' })).toBeVisible();
  await page.route('**/assets/KitchenPage-*.js', (r) => r.abort());
  await page.getByRole('link', { name: 'Kitchen' }).click();
  await expect(page.getByText('This place could not be fetched')).toBeVisible();
  // The frame around it stays, and so does the way to the others.
  await page.getByRole('link', { name: 'Designs' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Designs' })).toBeVisible();
  await expect(page.locator('#main')).toBeFocused();
  await context.close();
});

test('addresses that lead nowhere, the keys, the lamp and the units', async ({ page }) => {
  await page.goto('/orders/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText('There is no such order')).toBeVisible();
  await page.goto('/runs/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText('There is no such run')).toBeVisible();
  await page.goto('/somewhere');
  await expect(page.getByText('There is nothing at this address')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('l');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamp');
  await page.getByRole('button', { name: /change units/ }).click();
  await page.goto('/orders/new');
  await expect(page.getByLabel('temperature, °F')).toHaveValue('71.6');
});

const METRIC = { clock: '14:35', packed: /19:00/, units: /grams/, temperature: 'temperature, °C' };
const AMERICAN = { clock: '2:35 pm', packed: /7:00 pm/, units: /cups/, temperature: 'temperature, °F' };
test('another language of the browser has another clock, week, money and measures; what is chosen on a device counts more', async ({
  browser,
  request,
}) => {
  const { revision: _, ...kitchen } = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  await request.put('/api/kitchen', { data: { prices: { ...kitchen.prices, currency: 'EUR' } } });
  const places = [
    { locale: 'en-US', firstDay: 'Sunday', money: 'as €1,234.50', has: AMERICAN, chosen: METRIC },
    { locale: 'de-DE', firstDay: 'Monday', money: 'as 1.234,50\u00a0€', has: METRIC, chosen: AMERICAN },
  ];
  for (const place of places) {
    const context = await browser.newContext({ locale: place.locale });
    const page = await context.newPage();
    const errors = watchForErrors(page);
    await page.goto('/kitchen');
    await expect(page.getByRole('region', { name: 'The usual week' }).getByRole('checkbox').first()).toHaveAccessibleName(place.firstDay);
    await expect(page.getByText(place.money)).toBeVisible();
    await page.goto('/orders/new');
    await expect(page.getByLabel(place.has.temperature)).toHaveCount(1);
    await page.goto('/orders');
    await expect(page.getByText(place.has.packed).first()).toBeVisible();
    // Chosen, it stays so on this device, whatever the language.
    await page.goto('/kitchen');
    const device = page.getByRole('region', { name: 'This device' });
    await device.getByRole('radio', { name: place.chosen.clock }).click();
    await device.getByRole('radio', { name: place.chosen.units }).click();
    await page.goto('/orders');
    await expect(page.getByText(place.chosen.packed).first()).toBeVisible();
    await page.goto('/orders/new');
    await expect(page.getByLabel(place.chosen.temperature)).toHaveCount(1);
    expect(errors).toEqual([]);
    await context.close();
  }
  await request.put('/api/kitchen', { data: kitchen });
});

test('the usual bench is said once: a new order begins with it and asks only for designs and times; a repeat is planned in a few touches', async ({
  page,
  request,
}) => {
  const errors = watchForErrors(page);
  await page.goto('/kitchen');
  const usual = page.getByRole('region', { name: 'The usual bench' });
  await usual.getByRole('button', { name: 'another tray' }).click();
  await usual.getByLabel('trays before the fan').fill('1');
  await usual.getByLabel('margin').selectOption('careful');
  expect(await violationsOf(page)).toEqual([]);
  await usual.getByRole('button', { name: 'Keep the usual bench' }).click();
  await expect.poll(async () => ((await (await request.get('/api/kitchen')).json()) as KitchenView).usual?.trays.length).toBe(3);
  await page.goto('/orders/new');
  await expect(page.getByText(/three trays, me, .*careful margin, .*a fan for one tray/)).toBeVisible();
  await expect(page.getByText('as your kitchen', { exact: true })).toBeVisible();
  await expect(page.getByLabel('trays before the fan')).toBeHidden();
  await page.getByLabel('Name of the order').fill('Every week');
  await page.getByRole('combobox', { name: 'Design 1' }).selectOption({ label: 'Mackerel' });
  await page.getByLabel('cookies', { exact: true }).fill('6');
  // What differs this time is opened, and shown.
  await page.getByText('The bench', { exact: true }).click();
  await page.getByLabel('trays before the fan').fill('0');
  await expect(page.getByText('as your kitchen, but for: fan')).toBeVisible();
  await page.getByRole('button', { name: 'Keep the order' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Every week' })).toBeVisible();
  const made = await order(request, /Every week/);
  expect(made).toMatchObject({ fan: null, margin: 'careful', trays: [{ id: 'A' }, { id: 'B' }, { id: 'C' }] });
  // The same again: two touches, and the plan.
  await page.getByRole('link', { name: 'The same again' }).click();
  await expect(page.getByLabel('Name of the order')).toHaveValue('Every week');
  await page.getByRole('button', { name: 'Keep the order' }).click();
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText(/^It fits/).first()).toBeVisible({ timeout: 20_000 });
  await request.put('/api/kitchen', { data: { usual: null } });
  await request.delete(`/api/orders/${made.id}`);
  await request.delete(page.url().replace(/.*\/orders\//, '/api/orders/'));
  expect(errors).toEqual([]);
});

test('a kitchen’s change reaches new orders, and open ones that are asked about; hours of the week, and a clock of twelve', async ({
  page,
  request,
}) => {
  const errors = watchForErrors(page);
  const { revision: _, ...kitchen } = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  const bench = {
    trays: [{ id: 'A', places: 8 }],
    handGapMm: 15,
    fan: { places: 1, airMPerS: 1 },
    dehydrator: null,
    decorators: [{ id: 'me', pace: 1 }],
    openBags: null,
    school: 'two-bags',
    margin: 'normal',
  };
  await request.put('/api/kitchen', { data: { usual: bench, fan: { distanceM: 1, setting: 'low', measuredMPerS: 1 } } });
  const follows = await makeOrder(request, 'As the kitchen', { Mackerel: 2 }, bench);
  const own = await makeOrder(request, 'On purpose', { Mackerel: 2 }, { ...bench, margin: 'bold' });
  await page.goto('/kitchen');
  const usual = page.getByRole('region', { name: 'The usual bench' });
  await usual.getByLabel('margin').selectOption('careful');
  await usual.getByRole('button', { name: 'Keep the usual bench' }).click();
  const asked = page.getByRole('dialog', { name: 'Take it over in open orders?' });
  await expect(asked.getByRole('checkbox', { name: /As the kitchen.*margin/ })).toBeChecked();
  await expect(asked.getByText('On purpose')).toBeHidden();
  // Others that happen to have it are left as they are.
  for (const box of await asked.getByRole('checkbox').all()) await box.uncheck();
  await expect(asked.getByRole('button', { name: 'Take it over' })).toBeDisabled();
  await asked.getByRole('checkbox', { name: /As the kitchen/ }).check();
  expect(await violationsOf(page)).toEqual([]);
  await asked.getByRole('button', { name: 'Take it over' }).click();
  await expect(page.getByText('Taken over in one order: plan it again.')).toBeVisible();
  const orderNow = async (id: string) => (await (await request.get(`/api/orders/${id}`)).json()) as OrderView;
  expect([(await orderNow(follows.id)).margin, (await orderNow(own.id)).margin]).toEqual(['careful', 'bold']);

  // A fan set up otherwise blows otherwise in every order that counts on it, and on the usual bench.
  const fan = page.getByRole('region', { name: 'Fan and dehydrator' });
  await fan.getByLabel('or measured, m/s').fill('1.4');
  await fan.getByRole('button', { name: 'Keep' }).click();
  await expect(asked.getByRole('checkbox', { name: /As the kitchen.*how hard the fan blows/ })).toBeChecked();
  for (const box of await asked.getByRole('checkbox', { name: /how hard the fan blows/ }).all()) await box.uncheck();
  await asked.getByRole('checkbox', { name: /On purpose/ }).check();
  await asked.getByRole('button', { name: 'Take it over' }).click();
  await expect(asked).toBeHidden();
  expect([(await orderNow(follows.id)).fan, (await orderNow(own.id)).fan]).toEqual([
    { places: 1, airMPerS: 1 },
    { places: 1, airMPerS: 1.4 },
  ]);
  expect(((await (await request.get('/api/kitchen')).json()) as KitchenView).usual?.fan).toEqual({ places: 1, airMPerS: 1.4 });

  const week = page.getByRole('region', { name: 'The usual week' });
  await week.getByLabel('Saturday', { exact: true }).check();
  await week.getByLabel('Saturday from').fill('08:00');
  await week.getByLabel('Saturday to').fill('07:00');
  await expect(week.getByRole('alert')).toHaveText(/On Saturday it must close after it opens/);
  await week.getByLabel('Saturday to').fill('12:30');
  await week.getByRole('button', { name: 'Keep the usual week' }).click();
  await expect(week.getByText('New orders begin with the next two of these days.')).toBeVisible();
  const today = Math.floor((await nowMs(request)) / 86_400_000) * 86_400_000;
  const saturday = (k: number, clock: string) => {
    const ahead = (6 - new Date(today).getUTCDay() || 7) + 7 * k;
    return `${new Date(today + ahead * 86_400_000).toISOString().slice(0, 10)}T${clock}`;
  };
  await page.goto('/orders/new');
  await expect(page.getByLabel('from').first()).toHaveValue(saturday(0, '08:00'));
  await expect(page.getByLabel('Packed by')).toHaveValue(saturday(1, '12:30'));
  await page.getByRole('button', { name: 'another opening' }).click();
  await expect(page.getByLabel('from').nth(2)).toHaveValue(saturday(2, '08:00'));

  await page.goto('/kitchen');
  await page.getByRole('radio', { name: '2:35 pm' }).click();
  await page.goto('/orders');
  await expect(page.getByText(/Saturday 6 June 7:00 pm/).first()).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await request.put('/api/kitchen', { data: kitchen });
  await request.delete(`/api/orders/${follows.id}`);
  await request.delete(`/api/orders/${own.id}`);
  expect(errors).toEqual([]);
});

test('a school is made one’s own in Kitchen, changed, and taken away', async ({ page }) => {
  const errors = watchForErrors(page);
  await page.goto('/kitchen#schools');
  const schools = page.getByRole('region', { name: 'Schools' });
  await expect(schools.getByRole('listitem')).toHaveCount(5);
  await schools.getByRole('button', { name: 'Copy Patient' }).click();
  const own = schools.getByRole('group', { name: 'Your own school' });
  await own.getByLabel('a neighbour waits, times crusting').fill('2');
  await own.getByRole('button', { name: /^Keep/ }).click();
  await expect(schools.getByText(/a neighbour waits, times crusting: 2 ×/)).toBeVisible();
  await schools.getByRole('button', { name: 'Close it' }).click();
  await expect(own).toBeHidden();
  expect(await violationsOf(page)).toEqual([]);
  await schools.getByRole('button', { name: 'Change Patient, mine' }).click();
  await own.getByRole('button', { name: /Delete/ }).click();
  await expect(schools.getByRole('listitem')).toHaveCount(5);
  expect(errors).toEqual([]);
});
