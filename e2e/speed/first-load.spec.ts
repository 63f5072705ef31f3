import type { DesignSummary, Page as ListPage, OrderSummary } from '@kestfog/core/wire';
import { type Browser, expect, test } from '@playwright/test';
import { intoBook } from './book.js';

const TIMES = 5;

interface Load {
  /** script as it was sent, bytes */
  readonly scriptBytes: number;
  /** everything of this page's own as it was sent, bytes */
  readonly bytes: number;
  /** largest contentful paint, ms (W3C Largest Contentful Paint) */
  readonly paintMs: number;
}

/** A place opened on a device that has never seen it, and once more as one that has. */
async function load(browser: Browser, path: string): Promise<{ readonly cold: Load; readonly warm: Load }> {
  const context = await browser.newContext();
  const page = await context.newPage();
  const measured = async (): Promise<Load> => {
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    return page.evaluate(
      () =>
        new Promise<Load>((done) => {
          let paintMs = 0;
          new PerformanceObserver((list) => {
            for (const e of list.getEntries()) paintMs = Math.max(paintMs, e.startTime);
          }).observe({ type: 'largest-contentful-paint', buffered: true });
          setTimeout(() => {
            const own = performance.getEntriesByType('resource') as PerformanceResourceTiming[];
            const sum = (list: readonly PerformanceResourceTiming[]) => list.reduce((s, r) => s + r.transferSize, 0);
            done({ scriptBytes: sum(own.filter((r) => r.name.endsWith('.js') && r.initiatorType !== 'other')), bytes: sum(own), paintMs });
          }, 1500);
        }),
    );
  };
  await page.goto(path);
  const cold = await measured();
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.reload();
  const warm = await measured();
  await context.close();
  return { cold, warm };
}

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] as number;

test('what a first load of each place takes', async ({ browser, request }) => {
  test.setTimeout(600_000);
  const { items } = (await (await request.get('/api/orders?state=open')).json()) as ListPage<OrderSummary>;
  const order = items.find((o) => o.name.includes('six dozen'))?.id;
  const [design] = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const places: readonly (readonly [string, string])[] = [
    ['Orders', '/orders'],
    ['an order', `/orders/${order}`],
    ['Rack', `/orders/${order}/rack`],
    ['Icing', `/orders/${order}/icing`],
    ['Designs', '/designs'],
    ['a design', `/designs/${design?.id}`],
    ['Kitchen', '/kitchen'],
  ];
  const rows: string[] = [];
  for (const [name, path] of places) {
    const loads: Awaited<ReturnType<typeof load>>[] = [];
    for (let k = 0; k < TIMES; k++) loads.push(await load(browser, path));
    const kB = (bytes: number) => `${Math.round(bytes / 1000)} kB`;
    const s = (of: (l: (typeof loads)[number]) => number) => `${(median(loads.map(of)) / 1000).toFixed(2)} s`;
    const [first] = loads as [(typeof loads)[number]];
    rows.push(
      `| ${name} | ${kB(first.cold.scriptBytes)} | ${kB(first.cold.bytes)} | ${s((l) => l.cold.paintMs)} | ${s((l) => l.warm.paintMs)} |`,
    );
  }
  intoBook(
    'The page',
    `Made by \`npm run speed\`: headless Chromium and the server on the same two cores, demo data, median of ${TIMES}. Bytes as they are sent
(brotli). Cold: a device that has never seen the page; warm: one that has it kept. The page's fonts are in all, not in script.

| place | script | all | largest paint, cold | warm |
|---|---|---|---|---|
${rows.join('\n')}`,
  );
});
