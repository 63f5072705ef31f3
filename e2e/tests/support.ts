import type { OrderView, RunView } from '@kestfog/core';
import { type APIRequestContext, expect, type Page } from '@playwright/test';

/** Moves the simulated clock on; the page hears of it over its stream. */
export async function advance(request: APIRequestContext, seconds: number): Promise<void> {
  const answer = await request.post('/api/clock', { data: { advance: seconds } });
  expect(answer.ok()).toBe(true);
}

export const nowMs = async (request: APIRequestContext): Promise<number> => ((await (await request.get('/api/clock')).json()) as { nowMs: number }).nowMs;

export async function order(request: APIRequestContext, name: RegExp): Promise<OrderView> {
  const all = (await (await request.get('/api/orders')).json()) as OrderView[];
  return all.find((o) => name.test(o.name)) as OrderView;
}

export const run = async (request: APIRequestContext, id: string): Promise<RunView> => (await (await request.get(`/api/runs/${id}`)).json()) as RunView;

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

/** Lets the bench's dead time pass in the page's own time: on a busy machine it is not the test's. */
export const deadTime = (page: Page): Promise<void> => page.evaluate(() => new Promise<void>((done) => setTimeout(done, 450)));
