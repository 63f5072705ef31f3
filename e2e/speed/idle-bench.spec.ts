import { type CDPSession, expect, test } from '@playwright/test';
import { advance, deadTime, forwardOf, nowMs, order, untilReady } from '../tests/support.js';
import { intoBook } from './book.js';

/** How long the bench is looked at: an hour by `IDLE_MINUTES=60`. */
const MINUTES = Number(process.env['IDLE_MINUTES'] ?? 4);

const STEPS_DONE = 30;
const PARTS = 4;

/** All in seconds; the third is every thread of the page's process, also what paints. */
const NAMES = ['TaskDuration', 'ScriptDuration', 'ProcessTime', 'Timestamp'] as const;
const metrics = async (client: CDPSession): Promise<ReadonlyMap<string, number>> => {
  const all = await client.send('Performance.getMetrics');
  return new Map(all.metrics.map((m) => [m.name, m.value]));
};
const heapMB = async (client: CDPSession): Promise<number> => {
  for (let k = 0; k < 3; k++) await client.send('HeapProfiler.collectGarbage');
  return ((await metrics(client)).get('JSHeapUsedSize') as number) / 1e6;
};

test('what a bench that waits takes of one core, and whether it grows', async ({ page, request }) => {
  test.setTimeout((MINUTES + 3) * 60_000);
  const whole = await order(request, /six dozen/);
  await advance(request, (Date.parse(whole.plan?.startsAt as string) - (await nowMs(request))) / 1000);
  await page.goto(`/orders/${whole.id}`);
  await page.getByRole('button', { name: 'Go to the bench' }).click();
  await page.waitForURL(/\/runs\//);
  await expect(page.getByRole('button', { name: 'Begin the run' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Done/ })).toBeVisible();
  // In the middle of the evening: trays lie about, windows are open, something is in hand.
  const forward = forwardOf(page);
  for (let n = 0; n < 2 * STEPS_DONE || (await forward.textContent()) !== 'Done'; n++) {
    await untilReady(page, request);
    await deadTime(page);
    await page.keyboard.press('Space');
    await advance(request, 60);
  }
  // Time goes on as in a kitchen: the clock, the stopwatch and every window move.
  await request.post('/api/clock', { data: { speed: 1 } });
  const client = await page.context().newCDPSession(page);
  await client.send('Performance.enable');
  await page.waitForTimeout(10_000);
  await page.waitForTimeout(30_000);
  const spent = { TaskDuration: 0, ScriptDuration: 0, ProcessTime: 0, Timestamp: 0 };
  const first = await heapMB(client);
  const heaps: number[] = [];
  for (let k = 0; k < PARTS; k++) {
    // What is measured is the bench, not the collecting of garbage this test asks for.
    const before = await metrics(client);
    await page.waitForTimeout((MINUTES / PARTS) * 60_000);
    const after = await metrics(client);
    for (const name of NAMES) spent[name] += (after.get(name) as number) - (before.get(name) as number);
    heaps.push(await heapMB(client));
  }
  const share = (name: (typeof NAMES)[number]) => `${((spent[name] / spent.Timestamp) * 100).toFixed(1)} %`;
  intoBook(
    'The bench, idle',
    `Made by \`npm run speed\`: the demo's run after ${STEPS_DONE} steps, trays lying about, windows open and a step in hand, nobody touching it for
${MINUTES} minutes; shares of one core.

| main thread | of it script | all threads of the page's process | heap before | heap after each of ${PARTS} parts |
|---|---|---|---|---|
| ${share('TaskDuration')} | ${share('ScriptDuration')} | ${share('ProcessTime')} | ${first.toFixed(1)} MB | ${heaps.map((x) => x.toFixed(1)).join(', ')} MB |`,
  );
});
