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

/**
 * From a press until what it does is on the screen, ms, as the browser itself counts it (Event Timing, W3C): from the moment the
 * finger came down or went up to the next picture after everything that listened had run.
 */
async function painted(page: Page, act: () => Promise<void>, shown: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const w = window as unknown as { counted: number[]; counter?: PerformanceObserver };
    w.counter?.disconnect();
    w.counted = [];
    w.counter = new PerformanceObserver((list) => {
      for (const e of list.getEntries()) if (['pointerup', 'click', 'keydown'].includes(e.name)) w.counted.push(e.duration);
    });
    w.counter.observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
  await act();
  await shown();
  await page.waitForTimeout(1500);
  // What took less than a frame is not listed.
  return page.evaluate(() => Math.max(16, ...(window as unknown as { counted: number[] }).counted));
}

test('a drawing of 300 parts: brought, looked at, edited', async ({ page, request }) => {
  test.setTimeout(240_000);
  await page.goto('/designs');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  const began = Date.now();
  await page
    .locator('input[type=file][accept*=svg]')
    .setInputFiles({ name: 'Quilt.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(QUILT) });
  await expect(page.getByRole('heading', { level: 1, name: 'Quilt' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('tab', { name: 'part' })).toBeVisible({ timeout: 60_000 });
  const broughtS = (Date.now() - began) / 1000;
  await page.waitForTimeout(3000);
  const nodes = await page.evaluate(() => document.querySelectorAll('*').length);
  const rows: string[] = [];
  const measure = async (what: string, act: () => Promise<void>, shown: () => Promise<void>) => {
    rows.push(`| ${what} | ${Math.round(await painted(page, act, shown))} ms |`);
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
  await page.getByRole('group', { name: 'Pipe on it' }).getByRole('button', { name: 'dots', exact: true }).click();
  const surface = page.getByRole('application', { name: /The cookie, to pipe on/ });
  for (const which of ['first', 'second', 'third']) {
    const fresh = page.locator('[data-painted] path[data-fresh], [data-painted=true]');
    await measure(
      `a dot piped on it, the ${which}`,
      () => surface.click({ position: { x: which.length * 20, y: which.length * 18 } }),
      () => expect(fresh.first()).toBeAttached(),
    );
  }
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
