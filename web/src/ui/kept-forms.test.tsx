import { type DesignEdit, readDesign } from '@kestfog/core/design';
import { PRIOR_FACTORS } from '@kestfog/core/drying';
import type { Point } from '@kestfog/core/geometry';
import { schoolById } from '@kestfog/core/steps';
import type { Kitchen, OrderView, SchoolView } from '@kestfog/core/wire';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { setUnits } from '../app/units.js';
import { OwnSchool } from '../features/designs/OwnSchool.js';
import { SizePanel } from '../features/designs/SizePanel.js';
import { AirPanel } from '../features/icing/AirPanel.js';
import { Thinning } from '../features/icing/Thinning.js';
import { Touches } from '../features/icing/Touches.js';
import { shownIn } from './use-length.js';

const kitchen = {
  mix: { sugarG: 500, egg: 'dried', eggG: 20, waterG: 90, lemonG: 0, mixing: '' },
  eggWhite: 'dried',
  recipe: 'mine',
  floodCount: 15,
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  dehydrator: { tempC: 35, airMPerS: 1 },
  air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
} as unknown as Kitchen;
const order = { id: 'o', air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 }, fan: null, bags: [] } as unknown as OrderView;
/** A sensor that says nothing. */
class SilentSource {
  addEventListener(): void {}
  close(): void {}
}
// Node.js has it from 21 on, browsers have it.
Map.groupBy ??= ((items: Iterable<unknown>, of: (item: unknown, k: number) => unknown) => {
  const groups = new Map<unknown, unknown[]>();
  for (const [k, item] of [...items].entries()) groups.set(of(item, k), [...(groups.get(of(item, k)) ?? []), item]);
  return groups;
}) as typeof Map.groupBy;
/** What was sent, by its address. */
let sent: [string, Record<string, unknown>][] = [];

beforeEach(() => {
  localStorage.clear();
  sent = [];
  vi.stubGlobal(
    'fetch',
    vi.fn(async (address: string, request?: RequestInit) => {
      if (request?.body) sent.push([String(address), JSON.parse(String(request.body))]);
      return new Response(JSON.stringify(/kitchen/.test(String(address)) ? kitchen : []), { status: 200 });
    }),
  );
  vi.stubGlobal('EventSource', SilentSource);
  act(() => setUnits('metric'));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});
const show = (form: ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>{form}</MemoryRouter>
    </QueryClientProvider>,
  );
const field = (name: string) => screen.getAllByLabelText((text) => text.startsWith(name))[0] as HTMLInputElement;
const type = (name: string, value: string) => fireEvent.change(field(name), { target: { value } });
const button = (name: string) => screen.getByRole('button', { name }) as HTMLButtonElement;

describe('what is typed about icing, while units are changed in the middle of it', () => {
  // Before, 200 g became 200 oz.
  it('icing to be thinned is turned, and there after a reload', async () => {
    const first = show(<Thinning bags={[]} order={order} />);
    type('icing, g', '567');
    type('counts now, s', '40');
    act(() => setUnits('us'));
    await waitFor(() => expect(field('icing, oz').value).toBe('20.00'));
    expect(field('counts now, s').value).toBe('40');
    first.unmount();
    act(() => setUnits('metric'));
    show(<Thinning bags={[]} order={order} />);
    expect(field('icing, g').value).toBe('567');
    type('icing, g', '-3');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('The icing goes from 1 to 20000 g.'));
  });

  // Before, 25 °C stood there as 25 °F, and was refused.
  it('air that was typed is turned, and planned with in °C', async () => {
    const asked: OrderView['air'][] = [];
    show(<AirPanel order={order} saving={false} failure={null} onAir={(air) => asked.push(air)} />);
    await screen.findByLabelText(/typed, °C/);
    expect(screen.queryByRole('button', { name: 'Plan with what I typed' })).toBeNull();
    type('typed, °C', '25');
    act(() => setUnits('us'));
    await waitFor(() => expect(field('typed, °F').value).toBe('77'));
    type('humidity, %', '140');
    await waitFor(() => expect(button('Plan with what I typed').disabled).toBe(true));
    type('humidity, %', '61');
    await waitFor(() => expect(button('Plan with what I typed').disabled).toBe(false));
    fireEvent.click(button('Plan with what I typed'));
    await waitFor(() => expect(asked).toEqual([{ ...order.air, tempC: 25, humidityPct: 61 }]));
  });
});

describe('the size of a cookie', () => {
  const design = readDesign(
    '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><path id="cookie" data-part="cookie" d="M0 0H80V40H0Z" fill="#d9a566"/><path id="face" d="M4 4H76V36H4Z" fill="#1f4e79"/></svg>',
    'Slab',
  );
  // Before, 100 mm became 100 in.
  it('is turned with the units, and goes by two points where they are picked', async () => {
    const edits: DesignEdit[] = [];
    const panel = (picked: readonly Point[]) => (
      <SizePanel design={design} picking={picked.length > 0} picked={picked} onPicking={() => undefined} onEdit={(e) => edits.push(e)} />
    );
    const first = show(panel([]));
    expect(screen.queryByRole('button', { name: 'Set it' })).toBeNull();
    type('cookie’s width, mm', '101,6');
    act(() => setUnits('us'));
    await waitFor(() => expect(field('cookie’s width, in').value).toBe('4'));
    await waitFor(() => expect(button('Set it').disabled).toBe(false));
    fireEvent.click(button('Set it'));
    await waitFor(() => expect(edits).toEqual([{ type: 'resize', widthMm: 101.6 }]));
    first.unmount();
    act(() => setUnits('metric'));
    show(
      panel([
        { x: 0, y: 0 },
        { x: 40, y: 0 },
      ]),
    );
    expect(button('Set it').disabled).toBe(true);
    type('they are apart, mm', '50');
    await waitFor(() => expect(button('Set it').disabled).toBe(false));
    fireEvent.click(button('Set it'));
    await waitFor(() => expect(edits[1]).toEqual({ type: 'resize', widthMm: 100 }));
  });
});

describe('what a finger found', () => {
  it('is sent as minutes, either of them alone, and forgotten by the form once it is sent', async () => {
    show(
      <Touches
        question={{ seconds: 15, depthMm: 2.5, on: 'cookie' } as never}
        air={{ tempC: 22, humidityFrac: 0.5, airMPerS: 0.1 }}
        factors={PRIOR_FACTORS}
      />,
    );
    expect(button('Learn from it').disabled).toBe(true);
    type('had come at, min', '12,5');
    await waitFor(() => expect(button('Learn from it').disabled).toBe(false));
    type('not yet after, min', 'soon');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('“Not yet” must be a number.'));
    expect(button('Learn from it').disabled).toBe(true);
    type('not yet after, min', '');
    await waitFor(() => expect(button('Learn from it').disabled).toBe(false));
    fireEvent.click(button('Learn from it'));
    await waitFor(() => expect(field('had come at, min').value).toBe(''));
    expect(sent.find(([address]) => /touches/.test(address))?.[1]).toMatchObject({ state: 'crusted', notYetMin: null, reachedMin: 12.5 });
  });
});

describe('a school of one’s own', () => {
  const school = { ...schoolById('two-bags'), id: 's', label: 'Mine', preset: false, revision: 1 } as unknown as SchoolView;
  it('keeps what is typed, ticked and chosen through a reload, and sends numbers as numbers', async () => {
    const first = show(<OwnSchool school={school} onRemoved={() => undefined} />);
    type('name', '');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Name it.'));
    type('name', ' Ours ');
    fireEvent.change(field('margin'), { target: { value: 'careful' } });
    first.unmount();
    show(<OwnSchool school={school} onRemoved={() => undefined} />);
    await waitFor(() => expect([field('name').value, field('margin').value]).toEqual([' Ours ', 'careful']));
    await waitFor(() => expect(button('Keep this school').disabled).toBe(false));
    fireEvent.click(button('Keep this school'));
    await waitFor(() => expect(sent.length).toBeGreaterThan(0));
    // What is measured is typed in inches where inches are used, and kept in mm.
    act(() => setUnits('us'));
    await waitFor(() => expect(field('stops short of its line, without a dam, in').value).toBe(shownIn(school.edgeMm, true)));
    expect(sent.at(-1)?.[1]['school']).toMatchObject({
      label: 'Ours',
      edgeMm: school.edgeMm,
      margin: 'careful',
      fill: school.fill,
      floodS: school.floodS,
    });
  });
});
