import type { Page as ListPage, NotebookRun, OrderSummary, OrderView, RunView } from '@kestfog/core/wire';
import { type APIRequestContext, expect, type Page } from '@playwright/test';
import axe from 'axe-core';

/** Moves the simulated clock on; the page hears of it over its stream. */
export async function advance(request: APIRequestContext, seconds: number): Promise<void> {
  const answer = await request.post('/api/clock', { data: { advance: seconds } });
  expect(answer.ok()).toBe(true);
}

export const nowMs = async (request: APIRequestContext): Promise<number> =>
  ((await (await request.get('/api/clock')).json()) as { nowMs: number }).nowMs;

export async function order(request: APIRequestContext, name: RegExp): Promise<OrderView> {
  const pages = await Promise.all(
    ['open', 'packed'].map(async (state) => (await (await request.get(`/api/orders?state=${state}`)).json()) as ListPage<OrderSummary>),
  );
  const id = pages.flatMap((p) => p.items).find((o) => name.test(o.name))?.id;
  return (await (await request.get(`/api/orders/${id}`)).json()) as OrderView;
}

export const run = async (request: APIRequestContext, id: string): Promise<RunView> =>
  (await (await request.get(`/api/runs/${id}`)).json()) as RunView;

/** Errors of the page are failures of the journey. */
export function watchForErrors(page: Page): string[] {
  const seen: string[] = [];
  page.on('pageerror', (e) => seen.push(e.message));
  page.on('console', (m) => {
    // A refused request is logged by the browser itself; the page shows its sentence.
    if (m.type() === 'error' && !/Failed to load resource/.test(m.text())) seen.push(m.text());
  });
  return seen;
}

/**
 * Lets what is left of the bench's dead time pass, in the page's own time: on a busy machine it is not the test's. The first time on a
 * page nobody has watched for touches yet, and the whole of it is waited for.
 */
export const deadTime = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    const DEAD_MS = 450;
    const watched = window as unknown as { touchedMs?: number };
    const since = watched.touchedMs ?? performance.now();
    if (watched.touchedMs === undefined)
      for (const type of ['keydown', 'pointerdown', 'click'])
        window.addEventListener(type, () => Object.assign(watched, { touchedMs: performance.now() }), true);
    watched.touchedMs = since;
    const leftMs = since + DEAD_MS - performance.now();
    if (leftMs > 0) await new Promise((done) => setTimeout(done, leftMs));
  });

interface Wanted {
  readonly name: string;
  readonly designs: readonly { readonly designId: string | undefined; readonly count: number }[];
  readonly trays: readonly { readonly id: string; readonly places: number }[];
}

/** An order for an afternoon and the morning after it, as the server takes it. */
export const orderBody = (wanted: Wanted, openings: readonly (readonly [string, string])[] = AFTERNOON_AND_MORNING) => ({
  openingHours: openings.map(([from, to]) => ({ from, to })),
  air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
  fan: null,
  school: 'two-bags',
  margin: 'normal',
  packBy: openings.at(-1)?.[1],
  ...wanted,
});
const AFTERNOON_AND_MORNING = [
  ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
  ['2026-06-06T07:00:00Z', '2026-06-06T19:00:00Z'],
] as const;

/** An afternoon and the morning after it that are still to come: journeys before may have moved the clock past the usual ones. */
export async function comingDays(request: APIRequestContext): Promise<readonly (readonly [string, string])[]> {
  const now = await nowMs(request);
  if (now < Date.parse(AFTERNOON_AND_MORNING[0][0])) return AFTERNOON_AND_MORNING;
  const day = Math.ceil(now / 86_400_000) * 86_400_000 + 86_400_000;
  const at = (days: number, hour: number) => new Date(day + days * 86_400_000 + hour * 3_600_000).toISOString();
  return [
    [at(0, 14), at(0, 22)],
    [at(1, 7), at(1, 19)],
  ];
}

/** Such an order, made and not yet planned. */
export async function sendOrder(request: APIRequestContext, wanted: Wanted): Promise<OrderView> {
  const answer = await request.post('/api/orders', { data: orderBody(wanted, await comingDays(request)) });
  expect(answer.ok()).toBe(true);
  return (await answer.json()) as OrderView;
}

/** An order of its own for a journey, planned: so many of each named design of the demo on trays of eight. */
export async function makeOrder(
  request: APIRequestContext,
  name: string,
  counts: Readonly<Record<string, number>>,
  more: object = {},
): Promise<OrderView> {
  const designs = (await (await request.get('/api/designs/choices')).json()) as { id: string; name: string }[];
  const cookies = Object.values(counts).reduce((a, b) => a + b, 0);
  const made = await sendOrder(request, {
    name,
    designs: Object.entries(counts).map(([n, count]) => ({ designId: designs.find((d) => d.name === n)?.id, count })),
    trays: [...'ABCDEFGH'].slice(0, Math.ceil(cookies / 8)).map((id) => ({ id, places: 8 })),
    ...more,
  });
  expect((await request.post(`/api/orders/${made.id}/plan`)).ok()).toBe(true);
  return made;
}

/**
 * An order of its own, planned and ready to be begun: so many of each named design, worked on the day after next. The clock is moved
 * to its beginning.
 */
export async function benchReady(
  request: APIRequestContext,
  name: string,
  counts: Readonly<Record<string, number>>,
  more: object = {},
): Promise<RunView> {
  const designs = (await (await request.get('/api/designs/choices')).json()) as { id: string; name: string }[];
  const day = Math.ceil((await nowMs(request)) / 86_400_000) * 86_400_000 + 86_400_000;
  const at = (days: number, hour: number) => new Date(day + days * 86_400_000 + hour * 3_600_000).toISOString();
  const wanted = {
    name,
    designs: Object.entries(counts).map(([n, count]) => ({ designId: designs.find((d) => d.name === n)?.id, count })),
    trays: Object.values(counts).map((count, i) => ({ id: 'ABCDEFGH'[i] as string, places: count })),
  };
  const openings = [
    [at(0, 14), at(0, 22)],
    [at(1, 7), at(1, 19)],
  ] as const;
  const answer = await request.post('/api/orders', { data: { ...orderBody(wanted, openings), ...more } });
  expect(answer.ok()).toBe(true);
  const made = (await answer.json()) as OrderView;
  const planned = await request.post(`/api/orders/${made.id}/plan`, { timeout: 30_000 });
  expect([planned.status(), planned.ok() ? '' : await planned.text()]).toEqual([201, '']);
  const begun = (await (await request.post(`/api/orders/${made.id}/run`)).json()) as RunView;
  await advance(request, (Date.parse(begun.plan.epoch as string) - (await nowMs(request))) / 1000);
  return begun;
}

/** The big button of the bench. */
export const forwardOf = (page: Page) => page.getByRole('button', { name: /^(Begin|Done|Go on)/ });

/** Waits on the simulated clock until the bench has something to do. */
export async function untilReady(page: Page, request: APIRequestContext): Promise<void> {
  const forward = forwardOf(page);
  for (let guard = 0; guard < 900 && (await forward.textContent()) === 'Begin already'; guard++) {
    await advance(request, guard > 60 ? 900 : 180);
    await page.waitForTimeout(40);
  }
}

/** Leaves every finished run out of the learning: what journeys before this one taught would move the times it is played by. */
export async function byTheBook(request: APIRequestContext): Promise<void> {
  for (let page = 0, pages = 1; page < pages; page++) {
    const runs = (await (await request.get(`/api/notebook/runs?page=${page}`)).json()) as ListPage<NotebookRun>;
    pages = runs.pages;
    for (const { runId, leftOut, simulated } of runs.items)
      if (!leftOut && !simulated) expect((await request.put(`/api/bench-touches/${runId}`, { data: { leftOut: true } })).ok()).toBe(true);
  }
  expect(await (await request.get('/api/paces')).json()).toEqual({});
}

/**
 * What axe finds wrong, by all its rules or by some, in the colours that things come to: half-way between two no contrast can be measured.
 * Colours are put at their end instead of waited for, since the browser lets no time pass in what is folded away.
 */
export async function violationsOf(page: Page, rules?: string[]): Promise<string[]> {
  await page.evaluate(() => {
    for (const a of document.getAnimations()) if (a instanceof CSSTransition) a.finish();
  });
  // Put in once a page; only what is wrong is gathered, since all that is right takes as long again.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  const violations = await page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: typeof import('axe-core') };
    const found = await axe.run(document, { resultTypes: ['violations'], ...(only ? { runOnly: { type: 'rule', values: only } } : {}) });
    return found.violations.map((v) => ({ id: v.id, where: v.nodes.map((n) => n.target.join(' ')) }));
  }, rules);
  return violations.map((v) => `${v.id}: ${v.where.join(', ')}`);
}
