import { randomUUID } from 'node:crypto';
import type { CalendarAddress, DesignView, OrderView } from '@kestfog/core/wire';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { deviceGate } from '../src/lan/device-gate.js';
import type { DevicesService } from '../src/lan/devices.service.js';
import type { Lan } from '../src/lan/lan.js';
import { drawing, orderInput, type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';

let s: Started;
beforeAll(async () => {
  s = await startApp();
});
afterAll(() => s.stop());
const ask = (method: string, path: string, body?: object) =>
  fetch(`${s.url}${path}`, { method, ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}) });
const json = async <T>(method: string, path: string, body?: object): Promise<T> => (await (await ask(method, path, body)).json()) as T;

describe('the calendar by its address', () => {
  it('has every open order that is planned, follows the next plan under the same names, and forgets what is deleted', async () => {
    const first = await Promise.all([1, 2, 3].map(() => json<CalendarAddress>('GET', '/api/calendar')));
    expect(new Set(first.map((a) => a.path)).size).toBe(1);
    const { path } = first[0] as CalendarAddress;
    expect(path).toMatch(/^\/api\/calendar\/[\w-]{32}\/orders\.ics$/);
    const design = await json<DesignView>('POST', '/api/designs', { name: 'Flag', svg: drawing('signal-flag.svg') });
    const order = await json<OrderView>('POST', '/api/orders', orderInput(design.id));
    expect(await (await ask('GET', path)).text()).not.toContain(order.id);
    expect((await ask('POST', `/api/orders/${order.id}/plan`)).ok).toBe(true);
    const answer = await ask('GET', path);
    expect(answer.headers.get('content-type')).toBe('text/calendar; charset=utf-8');
    const text = await answer.text();
    const uids = (of: string) => [...of.matchAll(/UID:(\S+)/g)].map((m) => m[1]).sort();
    expect(uids(text)).toContain(`due.${order.id}@kestfog`);
    expect((await ask('POST', `/api/orders/${order.id}/plan`)).ok).toBe(true);
    const again = await (await ask('GET', path)).text();
    expect(uids(again)).toEqual(uids(text));
    expect(new Set(uids(again)).size).toBe(uids(again).length);
    // A guest is worked on its host's bench, and planned with it: its own earlier plan is not listed beside that.
    const guest = await json<OrderView>('POST', '/api/orders', orderInput(design.id));
    expect((await ask('POST', `/api/orders/${guest.id}/plan`)).ok).toBe(true);
    expect(await (await ask('GET', path)).text()).toContain(guest.id);
    await json('PUT', `/api/orders/${guest.id}`, orderInput(design.id, { hostId: order.id }));
    expect(await (await ask('GET', path)).text()).not.toContain(guest.id);
    await ask('DELETE', `/api/orders/${guest.id}`);
    await ask('DELETE', `/api/orders/${order.id}`);
    expect(await (await ask('GET', path)).text()).not.toContain(order.id);
  });
  it('follows what the bench re-plans, under the same names and with a higher number', async () => {
    const { path } = await json<CalendarAddress>('GET', '/api/calendar');
    const run = await beginRun(s.url);
    const read = async () => {
      const text = await (await ask('GET', path)).text();
      const event = text.split('BEGIN:VEVENT').find((e) => e.includes(`UID:packing.${run.orderId}@kestfog`)) ?? '';
      return {
        startMs: Date.parse((/DTSTART:(\S+)/.exec(event)?.[1] ?? '').replace(/(....)(..)(..T..)(..)(..Z)/, '$1-$2-$3:$4:$5')),
        number: Number(/SEQUENCE:(\d+)/.exec(event)?.[1]),
      };
    };
    const before = await read();
    const tasks = run.plan.tasks.filter((t) => t.kind === 'pack');
    const starts = Object.fromEntries(tasks.map((t) => [t.id, t.startS + 1800]));
    const answer = await ask('POST', `/api/runs/${run.id}/events`, event(randomUUID(), 1, 'planRevised', { baseSeq: 0, starts }));
    expect(answer.status).toBe(201);
    const after = await read();
    expect([after.startMs - before.startMs, after.number > before.number]).toEqual([1_800_000, true]);
    await ask('DELETE', `/api/runs/${run.id}`);
    expect(await read()).toEqual(before);
    await ask('DELETE', `/api/orders/${run.orderId}`);
  });
  it('is found by nobody who does not know it, nor by who knows the last one', async () => {
    const { path } = await json<CalendarAddress>('GET', '/api/calendar');
    for (const wrong of [
      path.replace(/.\/orders/, 'x/orders'),
      '/api/calendar/x/orders.ics',
      `/api/calendar/${'%27'.repeat(32)}/orders.ics`,
    ])
      expect([wrong, (await ask('GET', wrong)).status]).toEqual([wrong, wrong === path ? 200 : 404]);
    const renewed = await json<CalendarAddress>('POST', '/api/calendar/renew');
    expect(renewed.path).not.toBe(path);
    expect([(await ask('GET', path)).status, (await ask('GET', renewed.path)).status]).toEqual([404, 200]);
  });
  it('on the kitchen’s network it asks for no passphrase, and everything beside it does', async () => {
    const gate = deviceGate({ address: 'https://kitchen.test' } as Lan, { of: async () => null } as unknown as DevicesService);
    const open = async (path: string): Promise<boolean> => {
      let isOpen = false;
      const res = { status: () => res, json: () => res };
      await gate({ path, headers: {} } as never, res as never, () => {
        isOpen = true;
      });
      return isOpen;
    };
    expect(await open(`/api/calendar/${'a'.repeat(32)}/orders.ics`)).toBe(true);
    for (const path of ['/api/calendar', '/api/calendar/renew', `/api/calendar/${'a'.repeat(32)}/orders.ics/../../orders`, '/api/orders'])
      expect([path, await open(path)]).toEqual([path, false]);
  });
});
