import { driesOtherwise } from '@kestfog/core/bench';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../../api/client.js';
import { DeviceGate } from '../../app/DeviceGate.js';
import { pressPedal } from '../../devices/simulated-pedal.js';
import { deviceId, earlierTaps, newEvent } from '../../outbox/taps.js';
import { mayTakeOver } from '../../workers/may-take-over.js';
import { clockSince, type KeptRun } from './run-store.js';
import { ServerClock } from './server-clock.js';
import { DEAD_MS, useOneAction } from './use-one-action.js';

beforeEach(() => localStorage.clear());

describe('taps not acknowledged yet', () => {
  it('of an earlier release are taken over; a store that was spoilt is left where it is', () => {
    const e = newEvent([], { type: 'paused', data: {} }, 5);
    localStorage.setItem('kestfog.outbox.r', JSON.stringify([e]));
    localStorage.setItem('kestfog.outbox.s', '{"not": "a list"}');
    localStorage.setItem('kestfog.outbox.t', 'no JSON');
    const found = earlierTaps();
    expect(found.map((f) => [f.runId, f.events])).toEqual([['r', [e]]]);
    for (const f of found) f.done();
    expect(
      Object.keys(localStorage)
        .filter((k) => k.startsWith('kestfog.outbox'))
        .sort(),
    ).toEqual(['kestfog.outbox.s', 'kestfog.outbox.t']);
  });
  it('count up on this device', () => {
    const first = newEvent([], { type: 'paused', data: {} }, 1);
    const second = newEvent([first], { type: 'resumed', data: {} }, 2);
    expect([first.deviceSeq, second.deviceSeq]).toEqual([1, 2]);
    expect(deviceId()).toBe(first.deviceId);
  });
});

describe('the server’s clock', () => {
  it('a wall clock ten minutes off does no harm; a steady clock that slept is made good', () => {
    let perf = 0;
    let wall = 600_000;
    const clock = new ServerClock(
      { nowMs: 50_000, speed: 1 },
      () => perf,
      () => wall,
    );
    perf += 1000;
    wall += 1000;
    expect(clock.nowMs()).toBe(51_000);
    wall += 3_600_000;
    expect(clock.nowMs()).toBe(3_651_000);
    // Set back by hand: the steady clock counts.
    wall -= 7_200_000;
    expect(clock.nowMs()).toBe(51_000);
  });
  it('a run kept on the device goes on from when it was kept', () => {
    const kept = { keptAtMs: 1000, clock: { nowMs: 90_000, speed: 1 } } as KeptRun;
    expect(clockSince(kept, 61_000).nowMs).toBe(150_000);
    expect(clockSince(kept, 0).nowMs).toBe(90_000);
  });
  it('goes on from what the server said, at its speed, and jumps when it is set', () => {
    let perf = 1000;
    const clock = new ServerClock({ nowMs: 50_000, speed: 1 }, () => perf);
    perf += 400;
    expect(clock.nowMs()).toBe(50_400);
    clock.set({ nowMs: 90_000, speed: 60 });
    perf += 1000;
    expect(clock.nowMs()).toBe(150_000);
    clock.set({ nowMs: 90_000, speed: 0 });
    perf += 1000;
    expect(clock.nowMs()).toBe(90_000);
  });
});

function Probe({ forward, back, press }: { readonly forward: () => void; readonly back: () => void; readonly press: () => void }) {
  useOneAction({ forward, back });
  return (
    <button type="button" onClick={press}>
      focused
    </button>
  );
}

describe('the one action', () => {
  afterEach(cleanup);
  /** A key as the browser sends it, with the moment it was pressed. */
  const key = (target: EventTarget, type: 'keydown' | 'keyup', name: string, atMs: number, repeat = false) => {
    const e = new KeyboardEvent(type, { key: name, bubbles: true, cancelable: true, repeat });
    Object.defineProperty(e, 'timeStamp', { value: atMs });
    fireEvent(target as Element, e);
  };
  it('takes space and the pedal once within the dead time, and never presses what has the focus', () => {
    const [forward, back, press] = [vi.fn(), vi.fn(), vi.fn()];
    render(<Probe forward={forward} back={back} press={press} />);
    const button = screen.getByText('focused');
    button.focus();
    for (let i = 0; i < 5; i++) {
      key(button, 'keydown', ' ', 10_000 + i * 40);
      key(button, 'keyup', ' ', 10_020 + i * 40);
    }
    expect(forward).toHaveBeenCalledTimes(1);
    expect(press).not.toHaveBeenCalled();
    key(window.document.body, 'keydown', 'PageDown', 10_000 + DEAD_MS);
    key(window.document.body, 'keydown', 'PageUp', 10_000 + 2 * DEAD_MS);
    key(window.document.body, 'keydown', ' ', 20_000, true);
    expect([forward.mock.calls.length, back.mock.calls.length]).toEqual([2, 1]);
  });
});

describe('a page-turner pedal', () => {
  it('bounces as a worn one does, and makes one step all the same; the left one takes back', () => {
    vi.useFakeTimers();
    const steps: string[] = [];
    function Probe() {
      useOneAction({ forward: () => steps.push('forward'), back: () => steps.push('back') });
      return null;
    }
    render(<Probe />);
    pressPedal('forward', [0, 20, 60, 120, 190]);
    vi.advanceTimersByTime(300);
    expect(steps).toEqual(['forward']);
    vi.advanceTimersByTime(DEAD_MS);
    pressPedal('back');
    vi.advanceTimersByTime(300);
    vi.useRealTimers();
    expect(steps).toEqual(['forward', 'back']);
  });
  it('leaves the keys to a sheet that lies over the bench', () => {
    const forward = vi.fn();
    function Probe() {
      useOneAction({ forward, back: () => {} });
      return <div role="dialog">asked</div>;
    }
    render(<Probe />);
    fireEvent.keyDown(document.body, { key: ' ' });
    expect(forward).not.toHaveBeenCalled();
  });
});

describe('a newer page', () => {
  it('never takes over while a bench is open on any tab', () => {
    expect(mayTakeOver(['http://127.0.0.1:3000/orders', 'http://127.0.0.1:3000/runs/1'])).toBe(false);
    expect(mayTakeOver(['http://127.0.0.1:3000/orders'])).toBe(true);
    expect(mayTakeOver([])).toBe(true);
  });
});

describe('a device that is not known', () => {
  it('is asked for the passphrase, shown what was wrong, and shown nothing else', async () => {
    const fetches: string[] = [];
    vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
      fetches.push(`${init?.method ?? 'GET'} ${path}`);
      const wrong = init?.method === 'POST';
      return new Response(
        JSON.stringify(
          wrong ? { code: 'wrong-passphrase', message: 'That is not the passphrase.' } : { code: 'unknown-device', message: 'not known' },
        ),
        {
          status: wrong ? 403 : 401,
        },
      );
    });
    render(
      <DeviceGate>
        <p>the orders</p>
      </DeviceGate>,
    );
    expect(screen.getByText('the orders')).toBeDefined();
    await act(async () => {
      await api('/orders').catch(() => undefined);
    });
    expect(screen.queryByText('the orders')).toBeNull();
    fireEvent.change(screen.getByLabelText(/The passphrase/), { target: { value: 'guess' } });
    await act(async () => {
      fireEvent.click(screen.getByText('Let this device in'));
    });
    expect(screen.getByRole('alert').textContent).toBe('That is not the passphrase.');
    expect(fetches).toEqual(['GET /api/orders', 'POST /api/devices']);
    vi.unstubAllGlobals();
  });
});

describe('the air at the bench', () => {
  it('counts as changed where icing dries clearly faster or slower, not for a sway', () => {
    const air = { tempC: 22, humidityFrac: 0.5, airMPerS: 0.1 };
    expect(driesOtherwise(air, { ...air, tempC: 22.1, humidityFrac: 0.505 })).toBe(false);
    expect(driesOtherwise(air, { ...air, humidityFrac: 0.6 })).toBe(true);
    expect(driesOtherwise(air, { ...air, tempC: 25 })).toBe(true);
  });
});
