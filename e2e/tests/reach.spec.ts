import type { DesignSummary } from '@kestfog/core/wire';
import { expect, type Page, test } from '@playwright/test';
import { advance, deadTime, forwardOf, nowMs, order, violationsOf, watchForErrors } from './support.js';

const THEMES = ['fog', 'lamp'] as const;
const COLOUR_RULES = ['color-contrast', 'link-in-text-block'];

test('every view keeps WCAG 2.2 AA as far as a machine can tell, by day and by night, wide and on a phone', async ({ page, request }) => {
  test.setTimeout(300_000);
  const whole = await order(request, /six dozen/);
  const [design] = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const views: readonly (readonly [string, string])[] = [
    ...(
      [
        '/orders',
        '/orders?state=trash',
        '/orders/new',
        `/orders/${whole.id}`,
        `/orders/${whole.id}/rack`,
        ...['', '/mixing', '/count', '/air'].map((part) => `/orders/${whole.id}/icing${part}`),
        '/designs',
        ...['', '?tab=checks', '?tab=school', '?tab=reading'].map((tab) => `/designs/${design?.id}${tab}`),
        '/kitchen',
        '/notebook',
        '/notebook?ask=crust',
        '/notebook?ask=honest',
        '/practice',
        '/practice/surfaces',
        '/practice/dots',
        `/orders/${whole.id}/rehearse`,
        '/not-kept',
        '/nowhere',
      ] as const
    ).map((path) => ['wide', path] as const),
    ...(['/orders', '/notebook', '/practice', `/orders/${whole.id}`, `/orders/${whole.id}/icing/mixing`] as const).map(
      (path) => ['phone', path] as const,
    ),
  ];
  const found: string[] = [];
  for (const [size, path] of views) {
    await page.setViewportSize(size === 'phone' ? { width: 390, height: 844 } : { width: 1280, height: 800 });
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.waitForTimeout(300);
    // The theme is changed in place: what fades would be looked at half way.
    await page.evaluate(() => document.styleSheets[0]?.insertRule('* { transition: none !important; }', 0));
    for (const theme of THEMES) {
      await page.evaluate((t) => document.documentElement.setAttribute('data-theme', t), theme);
      // By night only what colours bear on can be otherwise.
      for (const v of await violationsOf(page, theme === 'fog' ? undefined : COLOUR_RULES)) found.push(`${theme}, ${size}, ${path}: ${v}`);
    }
  }
  expect(found).toEqual([]);
});

/** Goes on with Tab alone until something of this role and name has the keyboard. */
async function tabTo(page: Page, role: Parameters<Page['getByRole']>[0], name: string | RegExp): Promise<void> {
  const wanted = page.getByRole(role, { name, ...(typeof name === 'string' ? { exact: true } : {}) }).first();
  await expect(wanted).toBeVisible();
  for (let k = 0; k < 150; k++) {
    if (await wanted.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab never came to ${role} ${String(name)}`);
}

test('an order is made, planned, read on the rack and begun with the keyboard alone, by the names a screen reader says', async ({
  page,
  request,
}) => {
  const errors = watchForErrors(page);
  await page.goto('/orders');
  await expect(page.getByRole('heading', { level: 1, name: 'Orders' })).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.getByRole('heading', { level: 1, name: 'New order' })).toBeVisible();
  await tabTo(page, 'textbox', 'Name of the order');
  await page.keyboard.type('By keys');
  await tabTo(page, 'combobox', 'Design 1');
  await page.keyboard.type('Mackerel');
  await tabTo(page, 'spinbutton', 'cookies');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('4');
  await tabTo(page, 'button', 'Keep the order');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'By keys' })).toBeVisible();
  await tabTo(page, 'button', 'Plan it');
  await page.keyboard.press('Enter');
  await expect(page.getByText('It fits.', { exact: true })).toBeVisible({ timeout: 20_000 });
  await tabTo(page, 'link', 'See the rack');
  await page.keyboard.press('Enter');
  await tabTo(page, 'region', /^The rack\./);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(
    page
      .getByRole('dialog')
      .or(page.getByRole('region', { name: /tray|step/i }))
      .first(),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  // What is looked at is in the address.
  await expect(page).toHaveURL(/\?step=/);
  await page.goBack();
  const made = await order(request, /By keys/);
  await advance(request, Math.max(0, (Date.parse(made.plan?.startsAt as string) - (await nowMs(request))) / 1000));
  await tabTo(page, 'button', 'Go to the bench');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/runs\//);
  const forward = forwardOf(page);
  await expect(forward).toHaveText('Begin the run');
  await page.keyboard.press('Space');
  await deadTime(page);
  await expect(forward).not.toHaveText('Begin the run');
  await page.keyboard.press('Space');
  await expect(forward).toHaveText(/^Done/);
  // Both themes at the bench, wide and on a phone, while something is in hand.
  for (const theme of THEMES) {
    await page.evaluate((t) => localStorage.setItem('kestfog.theme', t), theme);
    for (const size of [
      { width: 1280, height: 800 },
      { width: 390, height: 844 },
    ]) {
      await page.setViewportSize(size);
      await page.reload();
      await expect(forward).toHaveText(/^Done/);
      expect(await violationsOf(page)).toEqual([]);
    }
  }
  await request.delete(page.url().replace(/.*\/runs\//, '/api/runs/'));
  await request.delete(`/api/orders/${made.id}`);
  expect(errors).toEqual([]);
});

test('letters do nothing once they are switched off, and nothing while something is asked', async ({ page }) => {
  await page.goto('/orders');
  await expect(page.getByRole('heading', { level: 1, name: 'Orders' })).toBeVisible();
  await page.keyboard.press('?');
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await expect(keys.getByText('new order')).toBeVisible();
  await page.keyboard.press('n');
  await expect(keys).toBeVisible();
  await expect(page).toHaveURL(/\/orders$/);
  await keys.getByRole('checkbox', { name: 'letters are keys, on this device' }).uncheck();
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await page.keyboard.press('n');
  await page.waitForTimeout(300);
  await expect(page).toHaveURL(/\/orders$/);
  await page.getByRole('button', { name: 'Keys' }).click();
  await keys.getByRole('checkbox').check();
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  await expect(page).toHaveURL(/\/orders\/new$/);
});
