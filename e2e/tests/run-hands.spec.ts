import type { DesignSummary, KitchenView, OrderView } from '@kestfog/core/wire';
import { type APIRequestContext, expect, type Page, test } from '@playwright/test';
import {
  advance,
  benchReady,
  comingDays,
  deadTime,
  forwardOf,
  makeOrder,
  orderBody,
  run,
  untilReady,
  violationsOf,
  watchForErrors,
} from './support.js';

/** Pictures for looking at, where a folder is named; they are not kept. */
const look = async (page: Page, name: string) => {
  const folder = process.env['KESTFOG_LOOK'];
  if (!folder) return;
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}/${name}.png` });
};
const designsOf = async (request: APIRequestContext) => (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
const orderOf = async (request: APIRequestContext, id: string) => (await (await request.get(`/api/orders/${id}`)).json()) as OrderView;

test('small pools are quick-set in the warm-box school: planned, shown on the rack, worked; a tray carried unplanned is said', async ({
  page,
  request,
}) => {
  test.setTimeout(150_000);
  const errors = watchForErrors(page);
  const begun = await benchReady(
    request,
    'Quick set',
    { Sailboat: 3 },
    { school: 'warm-box', dehydrator: { places: 1, tempC: 35, airMPerS: 1 } },
  );
  const stay = begun.plan.stays.find((s) => s.why === 'pools');
  expect(stay).toMatchObject({ where: 'dehydrator' });
  const minutes = Math.round((stay?.forS ?? 0) / 60);
  expect(minutes).toBeGreaterThanOrEqual(3);
  await page.goto(`/orders/${begun.orderId}/rack`);
  await expect(page.getByText(new RegExp(`dehydrator ${minutes} min, sets small pools`)).first()).toBeVisible();
  await look(page, 'rack-quick-set');

  await page.goto(`/runs/${begun.id}`);
  const forward = forwardOf(page);
  await expect(forward).toBeVisible();
  await page.keyboard.press('Space');
  const { plan } = await run(request, begun.id);
  const carry = plan.tasks.findIndex((t) => t.id === `${stay?.id}.carry`);
  for (let i = 0; i <= carry; i++) {
    await untilReady(page, request);
    await deadTime(page);
    if ((await forward.textContent()) === 'Begin') {
      await page.keyboard.press('PageDown');
      await expect(forward).toHaveText('Done');
      await deadTime(page);
    }
    if (i === carry)
      await expect(page.getByRole('heading', { name: `Carry it to the dehydrator for ${minutes} min, level, no knocks` })).toBeVisible();
    await page.keyboard.press('PageDown');
    await expect(page.getByText(`${i + 1} of ${plan.tasks.length} done`)).toBeVisible();
  }
  await expect(page.getByText('then tray A comes out of the dehydrator')).toBeVisible();
  await look(page, 'bench-quick-set');
  await advance(request, minutes * 60 + 5);
  await expect(page.getByRole('heading', { name: /Take it out of the dehydrator/ })).toBeVisible();
  await deadTime(page);
  if ((await forward.textContent()) !== 'Done') {
    await page.keyboard.press('PageDown');
    await deadTime(page);
  }
  await page.keyboard.press('PageDown');

  // Three minutes more, though no plan says so: what it holds up hears of it; brought back, it stands on the bench again.
  await page.getByRole('region', { name: 'Trays' }).getByRole('button').first().click();
  const where = page.getByRole('region', { name: 'Where it stands' });
  await expect(where.getByText('Carried somewhere to dry?')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await look(page, 'tray-carry');
  await where.getByRole('button', { name: 'in the dehydrator, 10 min' }).click();
  await expect
    .poll(async () => (await run(request, begun.id)).events.findLast((e) => e.type === 'carried')?.data)
    .toEqual({ trayId: 'A', where: 'dehydrator', minutes: 10 });
  await expect(page.getByText(/tray A (comes )?out of the dehydrator/)).toBeVisible();
  await page.getByRole('region', { name: 'Trays' }).getByRole('button').first().click();
  await page.getByRole('button', { name: 'it is back on the bench' }).click();
  await expect.poll(async () => (await run(request, begun.id)).events.at(-1)?.type).toBe('broughtBack');
  expect(errors).toEqual([]);
});

test('transfers on the bench of their order: lifted before they are glued, and called to both', async ({ page, request }) => {
  test.setTimeout(120_000);
  const errors = watchForErrors(page);
  const designs = await designsOf(request);
  const plaque = designs.find((d) => /plaque/i.test(d.name));
  const parent = (await (
    await request.post('/api/orders', {
      data: orderBody({
        name: 'Plaques',
        designs: [{ designId: plaque?.id, count: 3 }],
        trays: ['A', 'B'].map((id) => ({ id, places: 12 })),
      }),
    })
  ).json()) as OrderView;
  await page.goto(`/orders/${parent.id}`);
  const transfers = page.getByRole('region', { name: 'Transfers' });
  await expect(transfers.getByText(/are put on, and \d+ spares are usual/)).toBeVisible();
  await transfers.getByRole('button', { name: 'Make them on this bench' }).click();
  await expect(transfers.getByText(/on this bench; planned with this order/)).toBeVisible();
  await page.getByRole('button', { name: /^Plan/ }).first().click();
  await expect(page.getByText('It fits.')).toBeVisible({ timeout: 30_000 });
  await expect(transfers.getByText(/on this bench; lifted /)).toBeVisible();
  await look(page, 'order-transfers');
  const { plan } = (await (await request.get(`/api/orders/${parent.id}/plan`)).json()) as { plan: import('@kestfog/core/formats').Plan };
  const pieces = new Set(plan.designs.filter((d) => d.pieces).map((d) => d.id));
  const lots = new Set(plan.trays.flatMap((t) => t.lots).flatMap((l) => (pieces.has(l.designId) ? [l.id] : [])));
  const lifted = Math.max(...plan.tasks.filter((t) => t.kind === 'pack' && lots.has(t.lotId ?? '')).map((t) => t.endS));
  const glued = plan.tasks.filter((t) => t.motions.some((m) => m.technique === 'glued-transfer'));
  expect(lots.size).toBeGreaterThan(0);
  expect(glued.length).toBeGreaterThan(0);
  for (const g of glued) expect(g.startS).toBeGreaterThanOrEqual(lifted);

  // The day before, on a bench of its own: the order knows when they can be lifted, and plans nothing with them before.
  const other = (await (
    await request.post('/api/orders', {
      data: orderBody({ name: 'Plaques again', designs: [{ designId: plaque?.id, count: 3 }], trays: [{ id: 'A', places: 12 }] }),
    })
  ).json()) as OrderView;
  await page.goto(`/orders/${other.id}`);
  await page.getByRole('button', { name: 'Make them the day before' }).click();
  await expect(page.getByRole('heading', { name: 'Transfers for Plaques again' })).toBeVisible();
  await expect.poll(async () => (await orderOf(request, other.id)).transfers).toMatchObject([{ shared: false, liftAt: null }]);
  const [child] = (await orderOf(request, other.id)).transfers;
  expect((await request.post(`/api/orders/${child?.id}/plan`)).ok()).toBe(true);
  const known = (await orderOf(request, other.id)).transfers[0]?.liftAt as string;
  expect((await request.post(`/api/orders/${other.id}/plan`)).ok()).toBe(true);
  const second = ((await (await request.get(`/api/orders/${other.id}/plan`)).json()) as { plan: import('@kestfog/core/formats').Plan })
    .plan;
  const epoch = Date.parse(second.epoch as string);
  for (const t of second.tasks.filter((x) => x.motions.some((m) => m.technique === 'glued-transfer')))
    expect(epoch + t.startS * 1000).toBeGreaterThanOrEqual(Date.parse(known));
  expect(errors).toEqual([]);
});

test('a tip changed in the kitchen changes Designs, Icing and Bench alike', async ({ page, request }) => {
  test.setTimeout(120_000);
  const errors = watchForErrors(page);
  const { revision: _, ...before } = (await (await request.get('/api/kitchen')).json()) as KitchenView;
  try {
    await page.goto('/kitchen');
    const tips = page.getByRole('region', { name: 'Tips' });
    await expect(tips.getByLabel('name').first()).toHaveValue('round tip 0');
    await look(page, 'kitchen');
    expect(await violationsOf(page)).toEqual([]);
    // Only one round tip is left: every outline goes through it.
    for (const name of ['round tip 0', 'round tip 1', 'round tip 2', 'round tip 4', 'round tip 5'])
      await tips.getByRole('button', { name: `Remove ${name}` }).click();
    await tips.getByLabel('name').first().fill('');
    await expect(tips.getByText('Name it.')).toBeVisible();
    await expect(tips.getByRole('button', { name: 'Keep the tips' })).toBeDisabled();
    await tips.getByLabel('name').first().fill('my round tip');
    await tips.getByLabel('opening, mm').first().fill('2.2');
    await tips.getByRole('button', { name: 'Keep the tips' }).click();
    // It says so though what it begins with is another now.
    await expect(tips.getByRole('status')).toHaveText('Kept.');
    await expect
      .poll(async () => ((await (await request.get('/api/kitchen')).json()) as { tips: { name: string }[] }).tips[0]?.name)
      .toBe('my round tip');

    const design = (await designsOf(request)).find((d) => d.name === 'Lighthouse');
    await page.goto(`/designs/${design?.id}`);
    await expect(page.getByText(/my round tip \(2\.2 mm\)/).first()).toBeVisible();
    const begun = await benchReady(request, 'Tips', { Lighthouse: 2 });
    await page.goto(`/orders/${begun.orderId}/icing`);
    await expect(
      page
        .getByRole('region', { name: 'Bags' })
        .getByText(/my round tip \(2\.2 mm\)/)
        .first(),
    ).toBeVisible();
    await page.goto(`/runs/${begun.id}`);
    await page.keyboard.press('Space');
    const forward = forwardOf(page);
    for (
      let i = 0;
      i < 6 &&
      !(await page
        .getByText(/, my round tip \(2\.2 mm\)/)
        .first()
        .isVisible());
      i++
    ) {
      await untilReady(page, request);
      await deadTime(page);
      if ((await forward.textContent()) === 'Begin') {
        await page.keyboard.press('PageDown');
        await deadTime(page);
        if (
          await page
            .getByText(/, my round tip \(2\.2 mm\)/)
            .first()
            .isVisible()
        )
          break;
      }
      await page.keyboard.press('PageDown');
      await deadTime(page);
    }
    await expect(page.getByText(/, my round tip \(2\.2 mm\)/).first()).toBeVisible();
    await look(page, 'bench-hands');
  } finally {
    await request.put('/api/kitchen', { data: before });
  }
  expect(errors).toEqual([]);
});

test('a defect to be covered is a step in the plan', async ({ page, request }) => {
  test.setTimeout(120_000);
  const errors = watchForErrors(page);
  const begun = await benchReady(request, 'Cover', { Lighthouse: 2 });
  await page.goto(`/runs/${begun.id}`);
  const forward = forwardOf(page);
  await expect(forward).toBeVisible();
  await page.keyboard.press('Space');
  const wet = begun.plan.tasks.findIndex((t) => t.kind === 'wet');
  for (let i = 0; i < wet; i++) {
    await untilReady(page, request);
    await deadTime(page);
    if ((await forward.textContent()) === 'Begin') {
      await page.keyboard.press('PageDown');
      await deadTime(page);
    }
    await page.keyboard.press('PageDown');
    await expect(page.getByText(`${i + 1} of ${begun.plan.tasks.length} done`)).toBeVisible();
  }
  await page.getByRole('button', { name: 'a defect' }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('button', { name: 'a dent, a poke, a smudge' }).click();
  await sheet.getByRole('radio', { name: 'a skin, it wrinkles' }).click();
  await expect(sheet.getByText(/It looks like this: a print, a hole or a shiny smear/)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await look(page, 'rescue-card');
  await sheet.getByRole('button', { name: 'to be covered' }).click();
  await expect(page.getByText(`${wet} of ${begun.plan.tasks.length + 1} done`)).toBeVisible();
  // It is taken back like any other tap.
  await deadTime(page);
  await page.keyboard.press('PageUp');
  await expect(page.getByText(`${wet} of ${begun.plan.tasks.length} done`)).toBeVisible();
  expect(errors).toEqual([]);
});

test('left-over icing is used once, taken back, and thrown away', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const from = await makeOrder(request, 'Made before', { Mackerel: 2 });
  const { id } = await makeOrder(request, 'Made after', { Mackerel: 4, Lighthouse: 2 });
  const left = (await (
    await request.post('/api/leftovers', { data: { colour: '#22343c', seconds: 20, grams: 12, orderId: from.id } })
  ).json()) as {
    id: string;
  };
  await page.goto(`/orders/${id}/icing`);
  const bags = page.getByRole('region', { name: 'Bags' });
  const offer = bags.getByText(/12 g like it are left over/).first();
  await expect(offer).toBeVisible();
  await look(page, 'leftovers');
  const row = offer.locator('xpath=ancestor::li[1]');
  const before = await row.getByRole('checkbox').locator('xpath=..').textContent();
  await row.getByRole('button', { name: /^use / }).click();
  await expect(bags.getByText(/12 g of left-over icing goes into this bag/)).toBeVisible();
  const filled = bags.getByText(/12 g of left-over icing goes into this bag/).locator('xpath=ancestor::li[1]');
  await expect(filled.getByRole('checkbox').locator('xpath=..')).not.toHaveText(before ?? '');
  // Used up, it is offered to nobody else.
  await expect(bags.getByText(/like it are left over/)).toHaveCount(0);
  await bags.getByRole('button', { name: 'take it back' }).click();
  await expect(bags.getByText(/12 g like it are left over/).first()).toBeVisible();
  // The page shows it gone at once; the server is asked once it has answered.
  const told = page.waitForResponse((r) => r.request().method() === 'DELETE' && r.url().endsWith(`/api/leftovers/${left.id}`));
  await bags.getByRole('button', { name: 'it was thrown away' }).first().click();
  await expect(bags.getByText(/like it are left over/)).toHaveCount(0);
  await told;
  expect((await request.delete(`/api/leftovers/${left.id}`)).status()).toBe(404);
  // A touch too many has a way back.
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(bags.getByText(/12 g like it are left over/).first()).toBeVisible();
  expect((await request.delete(`/api/leftovers/${left.id}`)).status()).toBe(204);
  expect(errors).toEqual([]);
});

test('a crater that is to be expected comes with the stay that helps, one touch away', async ({ page, request }) => {
  const errors = watchForErrors(page);
  const boat = (await designsOf(request)).find((d) => d.name === 'Sailboat');
  const made = (await (
    await request.post('/api/orders', {
      data: {
        ...orderBody(
          { name: 'Small pools', designs: [{ designId: boat?.id, count: 3 }], trays: [{ id: 'A', places: 4 }] },
          await comingDays(request),
        ),
        dehydrator: { places: 1, tempC: 35, airMPerS: 1 },
        // All that dries besides is out of the way, so that only the small pool is warned of.
        margin: 'bold',
      },
    })
  ).json()) as OrderView;
  expect((await request.post(`/api/orders/${made.id}/plan`)).ok()).toBe(true);
  await page.goto(`/orders/${made.id}`);
  const risks = page.getByRole('region', { name: 'What may go wrong' });
  await expect(risks.getByText(/Sailboat: crater/)).toBeVisible();
  await risks.scrollIntoViewIfNeeded();
  expect(await violationsOf(page)).toEqual([]);
  await look(page, 'planned-checks');
  await risks.getByRole('button', { name: /into the dehydrator for 3 min after that round/ }).click();
  await expect
    .poll(async () => (await orderOf(request, made.id)).pins)
    .toMatchObject([{ kind: 'stay', tray: 'A', where: 'dehydrator', minutes: 3 }]);
  const planned = async () =>
    ((await (await request.get(`/api/orders/${made.id}/plan`)).json()) as { plan: import('@kestfog/core/formats').Plan }).plan;
  await expect.poll(async () => (await planned()).stays.some((s) => s.why === 'asked'), { timeout: 30_000 }).toBe(true);
  await page.getByRole('link', { name: 'See the rack' }).click();
  await expect(page.getByText(/dehydrator 3 min, as you asked/).first()).toBeVisible();
  await look(page, 'rack-asked');
  // What was asked for is taken back in the order.
  await page.goto(`/orders/${made.id}`);
  await page.getByRole('button', { name: 'Change the order' }).click();
  await expect(page.getByLabel('minutes')).toHaveValue('3');
  await page.getByRole('button', { name: 'Remove what you insist on, 1' }).click();
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect.poll(async () => (await orderOf(request, made.id)).pins).toEqual([]);
  expect(errors).toEqual([]);
});
