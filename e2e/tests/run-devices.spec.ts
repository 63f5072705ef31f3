import { expect, type Page, test } from '@playwright/test';
import { advance, benchReady, deadTime, forwardOf, nowMs, run, watchForErrors } from './support.js';

test.use({ serviceWorkers: 'allow' });

const done = (page: Page, n: number, of: number) => expect(page.getByText(`${n} of ${of} done`)).toBeVisible();
const loadFailures = (errors: readonly string[]) => errors.filter((e) => !/ERR_INTERNET_DISCONNECTED|net::/.test(e));

test('two devices at one bench: what one does the other sees, both pressing at once make one step, and a clock ten minutes off does no harm', async ({
  browser,
  request,
}) => {
  test.setTimeout(120_000);
  const begun = await benchReady(request, 'Two devices', { Mackerel: 4 });
  const total = begun.plan.tasks.length;
  const open = async (skewMs: number) => {
    const context = await browser.newContext();
    await context.addInitScript((skew) => {
      const real = Date.now.bind(Date);
      Date.now = () => real() + skew;
    }, skewMs);
    const page = await context.newPage();
    const errors = watchForErrors(page);
    await page.goto(`/runs/${begun.id}`);
    await expect(forwardOf(page)).toBeVisible();
    return { page, errors, context };
  };
  const [tablet, phone] = [await open(0), await open(600_000)];
  await tablet.page.keyboard.press('Space');
  await expect(forwardOf(phone.page)).toHaveText('Done');
  await advance(request, 60);
  await deadTime(tablet.page);
  await deadTime(phone.page);
  await Promise.all([tablet.page.keyboard.press('Space'), phone.page.keyboard.press('PageDown')]);
  await done(tablet.page, 1, total);
  await done(phone.page, 1, total);
  await advance(request, 120);
  await deadTime(phone.page);
  await phone.page.keyboard.press('Space');
  await done(tablet.page, 2, total);
  const { events } = await run(request, begun.id);
  expect(new Set(events.map((e) => e.deviceId)).size).toBe(2);
  // Both speak of the server's time, whatever their own clocks say.
  const now = await nowMs(request);
  for (const e of events) expect(Math.abs(now - e.atMs)).toBeLessThan(300_000);
  expect(events.some((e) => e.doubtful)).toBe(false);
  expect([...tablet.errors, ...phone.errors]).toEqual([]);
  await tablet.context.close();
  await phone.context.close();
  await request.delete(`/api/orders/${begun.orderId}`);
});

test('two pairs of hands, each with a device of its own', async ({ browser, request }) => {
  test.setTimeout(120_000);
  const begun = await benchReady(
    request,
    'Two pairs of hands',
    { Mackerel: 4, Lighthouse: 4 },
    {
      decorators: [
        { id: 'Left', pace: 1 },
        { id: 'Right', pace: 1 },
      ],
    },
  );
  const of = (who: string) => begun.plan.tasks.filter((t) => t.by === who);
  expect([of('Left').length > 3, of('Right').length > 3]).toEqual([true, true]);
  const open = async (who: string) => {
    const context = await browser.newContext();
    const page = await context.newPage();
    await page.goto(`/runs/${begun.id}`);
    await page.getByRole('button', { name: 'how this device is used' }).click();
    await page.getByRole('radio', { name: who, exact: true }).click();
    await page.getByRole('button', { name: 'close' }).click();
    return page;
  };
  const [left, right] = [await open('Left'), await open('Right')];
  await left.keyboard.press('Space');
  const title = (page: Page) => page.getByRole('heading', { level: 1 });
  await expect(forwardOf(right)).toHaveText('Done');
  await expect(left.getByText(`tray ${of('Left')[0]?.trayId}`, { exact: false }).first()).toBeVisible();
  await expect(right.getByText(`tray ${of('Right')[0]?.trayId}`, { exact: false }).first()).toBeVisible();
  await expect(left.getByRole('region', { name: 'The others' })).toContainText(`tray ${of('Right')[0]?.trayId}`);
  await advance(request, 90);
  await deadTime(right);
  await right.keyboard.press('Space');
  // Right has gone on, Left is where it was.
  await expect(title(right)).not.toHaveText(/open and knead/i);
  await expect(title(left)).toHaveText(/open and knead/i);
  // The page goes on at once; the server has it a moment later.
  const done = async () =>
    (await run(request, begun.id)).events.filter((e) => e.type === 'taskDone').map((e) => (e.data as { taskId: string }).taskId);
  await expect.poll(done).toEqual([of('Right')[0]?.id]);
  await left.context().close();
  await right.context().close();
  await request.delete(`/api/orders/${begun.orderId}`);
});

test('an hour without the network: timers go on, taps are kept through a reload, and all comes together after', async ({
  page,
  request,
  context,
}) => {
  test.setTimeout(180_000);
  const errors = watchForErrors(page);
  const begun = await benchReady(request, 'Without the network', { Mackerel: 4, Lighthouse: 4 });
  const total = begun.plan.tasks.length;
  await page.goto(`/runs/${begun.id}`);
  // The page is kept on the device before the network goes.
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
  });
  const forward = forwardOf(page);
  await expect(forward).toHaveText('Begin the run');
  await page.keyboard.press('Space');
  await expect(forward).toHaveText('Done');
  // A clock that runs: sixty seconds of the bench in each of the wall.
  await request.post('/api/clock', { data: { speed: 60 } });
  await deadTime(page);
  const clock = page.getByRole('time').or(page.locator('time')).first();
  const shown = async () => (await clock.textContent()) as string;
  await context.setOffline(true);
  const at = await shown();
  await expect.poll(shown, { timeout: 20_000 }).not.toBe(at);
  for (let n = 1; n <= 3; n++) {
    await deadTime(page);
    if ((await forward.textContent()) !== 'Done') {
      await page.keyboard.press('Space');
      await deadTime(page);
    }
    await page.keyboard.press('Space');
    await done(page, n, total);
  }
  await expect(page.getByText(/taps? not saved yet/)).toBeVisible();
  // What is reported is planned around here and now, by the device itself.
  await page.getByRole('button', { name: 'cookie broken' }).click();
  await page.getByRole('button', { name: /it is out/ }).click();
  await expect(page.getByRole('status').filter({ hasText: /is out/ })).toBeVisible();
  // Reloaded with the network gone: the run is there, and what was tapped.
  await page.reload();
  await done(page, 3, total);
  await expect(page.getByText(/taps? not saved yet/)).toBeVisible();
  expect((await run(request, begun.id)).events.filter((e) => e.type === 'taskDone')).toHaveLength(0);
  // Meanwhile somebody at the laptop has seen to the fourth step.
  const fourth = begun.plan.tasks[3]?.id as string;
  const other = {
    id: crypto.randomUUID(),
    deviceId: crypto.randomUUID(),
    deviceSeq: 1,
    atMs: await nowMs(request),
    type: 'taskDone',
    data: { taskId: fourth },
  };
  expect((await request.post(`/api/runs/${begun.id}/events`, { data: other })).ok()).toBe(true);
  await advance(request, 3600 - 600);
  await context.setOffline(false);
  await done(page, 4, total);
  await expect(page.getByText(/not saved yet/)).toBeHidden();
  await request.post('/api/clock', { data: { speed: 0 } });
  const { events } = await run(request, begun.id);
  expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
  expect(events.filter((e) => e.type === 'defect')).toHaveLength(1);
  const kept = events.filter((e) => e.type === 'taskDone' && e.deviceId !== other.deviceId);
  expect(kept.map((e) => (e.data as { taskId: string }).taskId)).toEqual(begun.plan.tasks.slice(0, 3).map((t) => t.id));
  // They are dated when they were tapped, not when they came in.
  for (const e of kept) expect(e.atMs).toBeLessThan(other.atMs);
  expect(loadFailures(errors)).toEqual([]);
  await request.delete(`/api/orders/${begun.orderId}`);
});

test('a tablet that slept for an hour knows the time and the trays when it wakes', async ({ page, request, context }) => {
  test.setTimeout(120_000);
  const begun = await benchReady(request, 'Asleep', { Mackerel: 4 });
  const total = begun.plan.tasks.length;
  await page.goto(`/runs/${begun.id}`);
  await expect(forwardOf(page)).toHaveText('Begin the run');
  await page.keyboard.press('Space');
  await expect(forwardOf(page)).toHaveText('Done');
  await expect(page.getByText(/not saved yet/)).toBeHidden();
  await context.setOffline(true);
  const device = crypto.randomUUID();
  const send = async (deviceSeq: number, i: number) => {
    const e = {
      id: crypto.randomUUID(),
      deviceId: device,
      deviceSeq,
      atMs: await nowMs(request),
      type: 'taskDone',
      data: { taskId: begun.plan.tasks[i]?.id },
    };
    expect((await request.post(`/api/runs/${begun.id}/events`, { data: e })).ok()).toBe(true);
  };
  await advance(request, 200);
  await send(1, 0);
  await advance(request, 300);
  await send(2, 1);
  // The head and the tail are flooded one after the other: only then is there nothing but waiting.
  await advance(request, 150);
  await send(3, 2);
  await advance(request, 3100);
  await context.setOffline(false);
  await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
  await done(page, 3, total);
  const expected = new Date(await nowMs(request)).toISOString().slice(11, 16);
  await expect(page.locator('time').first()).toHaveText(expected);
  await expect(page.getByRole('list', { name: 'The trays now' })).toContainText(/crusted|set/);
  await request.delete(`/api/orders/${begun.orderId}`);
});
