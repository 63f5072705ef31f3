import type { DesignSummary } from '@kestfog/core/wire';
import { expect, type Page, test } from '@playwright/test';
import { intoBook } from './book.js';

/** A quilt of 300 patches on a cookie of 100 × 75 mm: neighbours all round, in six colours. */
const COLUMNS = 20;
const ROWS = 15;
const COLOURS = ['#b3261e', '#f6f3ea', '#1f4e79', '#f2c14e', '#3f7f86', '#22343c'];
const patches = Array.from({ length: COLUMNS * ROWS }, (_, i) => {
  const [x, y] = [(i % COLUMNS) * 5, Math.floor(i / COLUMNS) * 5];
  return `<path id="patch-${i}" d="M${x} ${y}h5v5h-5z" fill="${COLOURS[(i * 7 + Math.floor(i / COLUMNS)) % COLOURS.length]}"/>`;
});
const QUILT = `<svg xmlns="http://www.w3.org/2000/svg" width="${COLUMNS * 5}mm" height="${ROWS * 5}mm" viewBox="0 0 ${COLUMNS * 5} ${ROWS * 5}">${patches.join('')}</svg>`;

/** From a press until what it does is painted: two frames after the page shows it, ms. */
async function painted(page: Page, act: () => Promise<void>, shown: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const w = window as unknown as { pressedAt?: number; paintedAt?: number };
    w.pressedAt = undefined;
    for (const type of ['pointerdown', 'keydown', 'change'] as const)
      window.addEventListener(type, () => (w.pressedAt ??= performance.now()), { capture: true, once: true });
  });
  await act();
  await shown();
  // How long the thread was held after the press: the sum of what was said to be long, or what a frame took.
  return page.evaluate(
    () =>
      new Promise<number>((done) =>
        requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - ((window as unknown as { pressedAt?: number }).pressedAt ?? 0)))),
      ),
  );
}

test('a drawing of 300 parts: brought, looked at, edited', async ({ page, request }) => {
  test.setTimeout(240_000);
  await page.goto('/designs');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  const began = Date.now();
  await page.locator('input[type=file]').setInputFiles({ name: 'Quilt.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(QUILT) });
  await expect(page.getByRole('heading', { level: 1, name: 'Quilt' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('tab', { name: 'part' })).toBeVisible({ timeout: 60_000 });
  const broughtS = (Date.now() - began) / 1000;
  await page.waitForTimeout(3000);
  const nodes = await page.evaluate(() => document.querySelectorAll('*').length);
  const rows: string[] = [];
  const measure = async (what: string, act: () => Promise<void>, shown: () => Promise<void>) => {
    rows.push(`| ${what} | ${Math.round(await painted(page, act, shown))} ms |`);
    await page.waitForTimeout(1500);
  };
  const tab = (name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) });
  for (const name of ['checks', 'school', 'reading', 'part']) {
    await measure(
      `tab ${name}`,
      () => tab(name).click(),
      () => expect(tab(name)).toHaveAttribute('aria-selected', 'true'),
    );
  }
  await measure(
    'an edit (it becomes a transfer)',
    () => page.getByRole('checkbox', { name: /a transfer/ }).click(),
    () => expect(page.getByRole('checkbox', { name: /a transfer/ })).toBeChecked(),
  );
  await measure(
    'another part',
    () => page.locator('[data-part-id]').nth(150).click({ force: true }),
    async () => undefined,
  );
  const made = ((await (await request.get('/api/designs/choices')).json()) as DesignSummary[]).find((d) => d.name === 'Quilt');
  await request.delete(`/api/designs/${made?.id}`);
  intoBook(
    'A drawing of 300 parts',
    `Made by \`npm run speed\`: a quilt of 300 patches, each with neighbours all round. Brought and shown in ${broughtS.toFixed(1)} s; the page holds ${nodes} elements.

| what is done | painted after |
|---|---|
${rows.join('\n')}`,
  );
});
