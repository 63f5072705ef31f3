import { randomUUID } from 'node:crypto';
import type { OrderView, PlanView, RunView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { advance, deadTime, nowMs, order, run, violationsOf, watchForErrors } from './support.js';

test('a slip at the bench is planned around at once, said in one line, and can be refused', async ({ page, request }) => {
  test.setTimeout(180_000);
  const errors = watchForErrors(page);
  const whole = await order(request, /six dozen/);
  const { designs, trays, handGapMm, air, fan, dehydrator, decorators, school, margin } = whole;
  const day = Math.ceil((await nowMs(request)) / 86_400_000) * 86_400_000 + 86_400_000;
  const at = (days: number, hour: number) => new Date(day + days * 86_400_000 + hour * 3_600_000).toISOString();
  const openingHours = [
    { from: at(0, 14), to: at(0, 22) },
    { from: at(1, 7), to: at(1, 19) },
  ];
  const items = designs.map(({ designId, count, spares }) => ({ designId, count, spares }));
  const data = {
    name: 'Slips',
    designs: items,
    trays,
    handGapMm,
    openingHours,
    air,
    fan,
    dehydrator,
    decorators,
    school,
    margin,
    packBy: at(1, 19),
  };
  const made = (await (await request.post('/api/orders', { data })).json()) as OrderView;
  const { plan } = (await (await request.post(`/api/orders/${made.id}/plan`, { timeout: 30_000 })).json()) as PlanView;
  const begun = (await (await request.post(`/api/orders/${made.id}/run`)).json()) as RunView;
  const epochMs = Date.parse(plan.epoch as string);
  await advance(request, (epochMs - (await nowMs(request))) / 1000);
  const device = randomUUID();
  let seq = 0;
  const send = async (type: string, more: object, atS: number) => {
    seq += 1;
    const event = { id: randomUUID(), deviceId: device, deviceSeq: seq, atMs: Math.round(epochMs + atS * 1000), type, data: more };
    expect((await request.post(`/api/runs/${begun.id}/events`, { data: event })).ok()).toBe(true);
  };
  await send('runStarted', {}, 0);
  // Another device worked the first steps on time; then the telephone rang for twenty minutes.
  for (const t of plan.tasks.slice(0, 5)) await send('taskDone', { taskId: t.id }, t.endS);
  await advance(request, (plan.tasks[5]?.endS as number) + 1200);
  await page.goto(`/runs/${begun.id}`);
  const line = page.getByRole('status').filter({ hasText: /Re-planned/ });
  const forward = page.getByRole('button', { name: /^(Begin|Done|Go on)/ });
  await expect(forward).toBeVisible();
  for (let i = 0; i < 12 && !(await line.isVisible()); i++) {
    await forward.click();
    await page.waitForTimeout(1500);
    await advance(request, 2100);
  }
  await expect(line).toContainText(/sooner than by just going on/);
  const log = async () => (await run(request, begun.id)).events;
  expect((await log()).some((e) => e.type === 'planRevised')).toBe(true);
  expect(await violationsOf(page)).toEqual([]);
  await line.getByRole('button', { name: 'as it was' }).click();
  await expect(line).toBeHidden();
  await expect
    .poll(async () => {
      const events = await log();
      const revised = events.findLast((e) => e.type === 'planRevised');
      return events.some((e) => e.type === 'undone' && e.data.eventId === revised?.id);
    })
    .toBe(true);
  // A finger finds the next one still wet: it is put down and looked at again later.
  const wet = page.getByLabel('Reports').getByRole('button', { name: /not \w+ yet$/ });
  for (let i = 0; i < 80 && !(await wet.isVisible()); i++) {
    if ((await forward.textContent()) === 'Begin already') await advance(request, 120);
    else await forward.click();
    await deadTime(page);
  }
  await wet.click();
  await expect.poll(async () => (await log()).some((e) => e.type === 'touched')).toBe(true);
  await request.delete(`/api/orders/${made.id}`);
  expect(errors).toEqual([]);
});
