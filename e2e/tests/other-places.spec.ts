import { randomUUID } from 'node:crypto';
import type { OrderView, RunListItem, RunView, SchoolView } from '@kestfog/core/wire';
import { type APIRequestContext, expect, type Page, test } from '@playwright/test';
import { advance, benchReady, makeOrder, nowMs, violationsOf, watchForErrors } from './support.js';

test.use({ serviceWorkers: 'allow' });

/** Begun, and worked up to the first step that waits for icing to dry; the clock stands where that wait has passed. */
async function untilATrayIsReady(request: APIRequestContext, name: string): Promise<RunView> {
  const begun = await benchReady(request, name, { Mackerel: 4 });
  const device = randomUUID();
  let seq = 0;
  const tell = async (type: string, data: object = {}) => {
    const event = { id: randomUUID(), deviceId: device, deviceSeq: ++seq, atMs: Math.round(await nowMs(request)), type, data };
    expect((await request.post(`/api/runs/${begun.id}/events`, { data: event })).ok()).toBe(true);
  };
  await tell('runStarted');
  for (const t of begun.plan.tasks) {
    if (t.because.kind === 'drying') break;
    await tell('taskBegun', { taskId: t.id });
    await advance(request, t.endS - t.startS);
    await tell('taskDone', { taskId: t.id });
  }
  return begun;
}
const away = (request: APIRequestContext, run: RunView) => request.delete(`/api/orders/${run.orderId}`);

/** Whether the bench is in front is said by the test: a headless browser has every page in front. */
const putBehind = (page: Page) =>
  page.evaluate(() => {
    Object.defineProperty(document, 'visibilityState', { configurable: true, get: () => 'hidden' });
    document.dispatchEvent(new Event('visibilitychange'));
  });

test('what the bench calls out is called on every other page too, by the one in front, and by a notification where none is', async ({
  browser,
  request,
}) => {
  for (const r of (await (await request.get('/api/runs?state=going')).json()) as RunListItem[]) await request.delete(`/api/runs/${r.id}`);
  const begun = await untilATrayIsReady(request, 'Called elsewhere');
  const context = await browser.newContext({ permissions: ['notifications'] });
  await context.addInitScript(() => {
    localStorage.setItem('kestfog.bench', JSON.stringify({ notify: true }));
    const told: string[] = [];
    Object.assign(globalThis, { told });
    ServiceWorkerRegistration.prototype.showNotification = async (_title, what) => void told.push(String(what?.body));
  });
  const page = await context.newPage();
  const errors = watchForErrors(page);
  await page.goto('/orders');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  const told = () => page.evaluate(() => (globalThis as unknown as { told: string[] }).told);
  await putBehind(page);
  await advance(request, 4 * 3600);
  const strip = page.getByRole('region', { name: 'the bench of Called elsewhere' });
  await expect(strip.getByRole('alert')).toHaveText(/Tray A is ready/);
  await expect.poll(told).toEqual([expect.stringContaining('Tray A is ready')]);
  expect(await violationsOf(page)).toEqual([]);
  // A page that comes to the front takes it over, and says it there.
  const front = await context.newPage();
  await front.goto('/kitchen');
  await expect(front.getByRole('region', { name: 'the bench of Called elsewhere' })).toBeVisible();
  await expect(strip).toBeHidden();
  await front.getByRole('button', { name: 'Seen' }).click();
  await expect(front.getByRole('region', { name: 'the bench of Called elsewhere' })).toBeHidden();
  await front.close();
  await expect(strip).toBeVisible();
  await strip.getByRole('link', { name: 'To the bench' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  expect(errors).toEqual([]);
  await context.close();
  await away(request, begun);
});

test('a page from before the server was renewed says so, takes the new one up once nobody looks, and never at the bench', async ({
  page,
  request,
}) => {
  let renewed = 'ffff0000ffff0000';
  await page.route('**/api/**', async (r) => {
    if (r.request().url().includes('/stream')) return r.continue();
    const answer = await r.fetch();
    await r.fulfill({ response: answer, headers: { ...answer.headers(), ...(renewed ? { 'kestfog-page': renewed } : {}) } });
  });
  await page.goto('/kitchen');
  await expect(page.getByText(/Kestfog was renewed on the server/)).toBeVisible();
  // The sign may be there before the place it stands over.
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.evaluate(() => Object.assign(globalThis, { old: true }));
  const isOld = () => page.evaluate(() => 'old' in globalThis).catch(() => true);
  await page.getByRole('button', { name: 'Take up the new page' }).click();
  await expect.poll(isOld).toBe(false);
  await page.evaluate(() => Object.assign(globalThis, { old: true }));
  await putBehind(page);
  await expect.poll(isOld).toBe(false);
  renewed = '';
  const begun = await benchReady(request, 'Never at the bench', { Mackerel: 2 });
  await page.goto(`/runs/${begun.id}`);
  await expect(page.getByRole('button', { name: 'Begin the run' })).toBeVisible();
  await page.evaluate(() => Object.assign(globalThis, { old: true }));
  renewed = 'eeee0000eeee0000';
  await page.evaluate(() => fetch('/api/kitchen'));
  await putBehind(page);
  await page.waitForTimeout(2000);
  expect(await isOld()).toBe(true);
  await away(request, begun);
});

test('a run begun by mistake is thrown away and put back; a school of one’s own too', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const begun = await benchReady(request, 'Begun by mistake', { Mackerel: 2 });
  await page.goto(`/orders/${begun.orderId}`);
  await page.getByRole('button', { name: 'Throw the run away' }).click();
  await expect(page.getByText('The run of Begun by mistake is in the trash')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change the order' })).toBeVisible();
  await page.goto('/orders');
  await page.getByRole('link', { name: 'Trash' }).click();
  const row = page.getByRole('region', { name: 'Runs' }).getByRole('listitem').filter({ hasText: 'Begun by mistake' });
  await expect(row).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await row.getByRole('button', { name: 'Put it back' }).click();
  await expect(row).toBeHidden();
  expect(((await (await request.get(`/api/orders/${begun.orderId}`)).json()) as OrderView).run?.id).toBe(begun.id);
  await away(request, begun);

  const [preset] = (await (await request.get('/api/schools')).json()) as SchoolView[];
  const { preset: _p, revision: _r, ...school } = preset as SchoolView;
  const own = (await (await request.post('/api/schools', { data: { school: { ...school, label: 'Thrown away' } } })).json()) as SchoolView;
  await request.delete(`/api/schools/${own.id}`);
  await page.goto('/designs');
  await page.getByRole('link', { name: 'Trash' }).click();
  const schoolRow = page.getByRole('region', { name: 'Schools' }).getByRole('listitem').filter({ hasText: 'Thrown away' });
  await schoolRow.getByRole('button', { name: 'Put it back' }).click();
  await expect(schoolRow).toBeHidden();
  expect(((await (await request.get('/api/schools')).json()) as SchoolView[]).map((x) => x.id)).toContain(own.id);
  await request.delete(`/api/schools/${own.id}`);
  await request.delete(`/api/schools/${own.id}/for-good`);
  expect(errors).toEqual([]);
});

test('a drawing with too many points is refused with the limit, and taken in a simpler reading', async ({ page, request }) => {
  const at = (k: number) => `${(40 + 30 * Math.cos(k / 15_916)).toFixed(3)} ${(40 + 30 * Math.sin(k / 15_916)).toFixed(3)}`;
  const path = [...Array(100_000).keys()].map(at).join('L');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><path data-part="cookie" d="M5 5H75V75H5Z" fill="#c98f4e"/><path d="M${path}Z" fill="#b3261e"/></svg>`;
  await page.goto('/designs');
  await page.getByLabel('Bring a drawing').setInputFiles({ name: 'Detailed.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await expect(page.getByText('more than 40000 points')).toBeVisible();
  await page.getByRole('button', { name: 'Read it so' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Detailed' })).toBeVisible();
  await request.delete(page.url().replace(/.*\/designs\//, '/api/designs/'));
});

test('on a phone nothing lies beyond the edge, however long a name is', async ({ page, request }) => {
  const long = 'Lighthousekeeperschildrenschristeninganniversarywithoutasinglespaceinallofitsname';
  const made = await makeOrder(request, long.slice(0, 80), { Mackerel: 4 });
  const [design] = (await (await request.get('/api/designs/choices')).json()) as { id: string }[];
  const wide: string[] = [];
  for (const width of [390, 320]) {
    await page.setViewportSize({ width, height: 780 });
    for (const path of [
      '/orders',
      '/orders/new',
      `/orders/${made.id}`,
      `/orders/${made.id}/rack`,
      `/orders/${made.id}/icing`,
      '/designs',
      `/designs/${design?.id}`,
      '/kitchen',
      '/not-kept',
    ]) {
      await page.goto(path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.waitForTimeout(400);
      const [has, of] = await page.evaluate(() => {
        const { scrollWidth, clientWidth } = document.documentElement;
        const beyond = [...document.querySelectorAll('main *, header *')].filter(
          (e) => e.getBoundingClientRect().right > clientWidth + 1 && !e.closest('.overflow-x-auto'),
        );
        return [
          scrollWidth - clientWidth,
          beyond
            .slice(0, 3)
            .map((e) => `${e.tagName}.${e.className}`.slice(0, 80))
            .join(' | '),
        ] as const;
      });
      if (has > 0) wide.push(`${width} ${path}: ${has} px, ${of}`);
    }
  }
  expect(wide).toEqual([]);
  await request.delete(`/api/orders/${made.id}`);
});
