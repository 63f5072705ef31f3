import { randomUUID } from 'node:crypto';
import type { StockView } from '@kestfog/core/wire';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Started, startApp } from './harness.js';
import { beginRun } from './run-harness.js';

let s: Started;
beforeAll(async () => {
  s = await startApp();
});
afterAll(() => s.stop());
const ask = (method: string, path: string, body?: object) =>
  fetch(`${s.url}/api/stock${path}`, {
    method,
    ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
  });
const stock = async (): Promise<StockView> => (await ask('GET', '')).json() as Promise<StockView>;
const amounts = async () => Object.fromEntries((await stock()).items.map((t) => [t.item, t.amount]));
const sugar = { item: 'sugar', what: 'powdered sugar', unit: 'g', usedUp: true };

describe('the stock', () => {
  it('keeps what there is, and does not write over somebody else’s count', async () => {
    expect((await ask('PUT', '/things', { ...sugar, amount: 1000, revision: 0 })).status).toBe(200);
    const refused = await ask('PUT', '/things', { ...sugar, amount: 700, revision: 0 });
    expect([refused.status, (await refused.json()) as object]).toMatchObject([409, { now: { items: [{ item: 'sugar', amount: 1000 }] } }]);
    // The same said twice, its answer lost, is no quarrel.
    expect((await ask('PUT', '/things', { ...sugar, amount: 1000, revision: 0 })).status).toBe(200);
    expect((await ask('PUT', '/things', { ...sugar, amount: 900, revision: 1 })).status).toBe(200);
    expect(await amounts()).toEqual({ sugar: 900 });
    for (const wrong of [{ amount: -1 }, { amount: 'much' }, { unit: 'cups' }, { item: 'a\nb' }, { item: '' }])
      expect([wrong, (await ask('PUT', '/things', { ...sugar, amount: 5, ...wrong })).status]).toEqual([wrong, 400]);
  });
  it('what a run used is taken off once, never more than there is, and put back whole', async () => {
    const run = await beginRun(s.url);
    await ask('PUT', '/things', { ...sugar, amount: 900 });
    await ask('PUT', '/things', { item: 'gel navy', what: 'gel colour, navy', unit: 'g', usedUp: true, amount: 0.3 });
    const booking = {
      runId: run.id,
      lines: [
        { item: 'sugar', amount: 340 },
        { item: 'gel navy', amount: 0.5 },
        { item: 'what nobody counts', amount: 3 },
      ],
    };
    // Five taps at once count as one.
    const answers = await Promise.all([1, 2, 3, 4, 5].map(() => ask('POST', '/bookings', booking)));
    expect(answers.map((a) => a.status)).toEqual([201, 201, 201, 201, 201]);
    expect(await amounts()).toEqual({ sugar: 560, 'gel navy': 0 });
    expect((await stock()).bookings).toMatchObject([
      {
        runId: run.id,
        lines: [
          { item: 'gel navy', amount: 0.3 },
          { item: 'sugar', amount: 340 },
        ],
      },
    ]);
    // Sugar was bought meanwhile: what is put back comes to that.
    await ask('PUT', '/things', { ...sugar, amount: 1560 });
    expect((await ask('DELETE', `/bookings/${run.id}`)).status).toBe(204);
    expect(await amounts()).toEqual({ sugar: 1900, 'gel navy': 0.3 });
    expect((await ask('DELETE', `/bookings/${run.id}`)).status).toBe(404);
    expect((await ask('POST', '/bookings', { ...booking, runId: randomUUID() })).status).toBe(404);
    // Nothing is un-eaten by deleting the order.
    await ask('POST', '/bookings', booking);
    await fetch(`${s.url}/api/orders/${run.orderId}`, { method: 'DELETE' });
    expect((await fetch(`${s.url}/api/orders/${run.orderId}/for-good`, { method: 'DELETE' })).ok).toBe(true);
    expect([(await amounts()).sugar, (await stock()).bookings.length]).toEqual([1560, 1]);
  });
  it('a thing is counted no more when it is taken off the list', async () => {
    await ask('PUT', '/things', { item: 'tip round 2/3 %', what: 'round 2/3', unit: 'pieces', usedUp: false, amount: 2 });
    expect((await ask('DELETE', `/things/${encodeURIComponent('tip round 2/3 %')}`)).status).toBe(204);
    expect((await ask('DELETE', `/things/${encodeURIComponent('tip round 2/3 %')}`)).status).toBe(404);
    expect(Object.keys(await amounts())).not.toContain('tip round 2/3 %');
  });
});
