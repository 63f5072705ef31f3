import { USUAL_TIPS } from '@kestfog/core/steps';
import type { Kitchen } from '@kestfog/core/wire';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { setUnits } from '../../app/units.js';
import { RecipeForm } from '../icing/BaseRecipe.js';
import { PricesForm } from '../orders/PricesForm.js';
import { FanSetUp } from './FanSetUp.js';
import { Tips } from './Tips.js';

const kitchen = {
  tips: USUAL_TIPS.slice(0, 2),
  prices: { currency: 'EUR', handsPerHour: 20, icingPerKg: 6, cookieEach: 0.4, cartonEach: 0.8 },
  carton: { name: 'small', widthMm: 254, depthMm: 200, layers: 2 },
  mix: { sugarG: 500, egg: 'dried', eggG: 20, waterG: 90, lemonG: 0, mixing: '' },
  eggWhite: 'dried',
  recipe: 'mine',
  air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  dehydrator: { tempC: 35, airMPerS: 1 },
  usual: null,
} as unknown as Kitchen;
/** What was sent to be kept. */
let sent: Record<string, unknown>[] = [];
const show = (form: ReactNode) => render(<QueryClientProvider client={new QueryClient()}>{form}</QueryClientProvider>);
/** By its label, which goes on with what is wrong where something is. */
const field = (name: string, which = 0) => screen.getAllByLabelText((text) => text.startsWith(name))[which] as HTMLInputElement;
const type = (name: string, value: string, which = 0) => fireEvent.change(field(name, which), { target: { value } });
const button = (name: string) => screen.getByRole('button', { name }) as HTMLButtonElement;

beforeEach(() => {
  localStorage.clear();
  sent = [];
  vi.stubGlobal(
    'fetch',
    vi.fn(async (_: unknown, request?: RequestInit) => {
      if (request?.body) sent.push(JSON.parse(String(request.body)));
      return new Response(JSON.stringify(kitchen), { status: 200 });
    }),
  );
  act(() => setUnits('metric'));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('measures of the kitchen, while units are changed in the middle of typing', () => {
  it('an opening that was typed is turned, kept in mm, and there after a reload in whatever units', async () => {
    const first = show(<Tips kitchen={kitchen} />);
    type('opening, mm', '2,54');
    act(() => setUnits('us'));
    expect(field('opening, in').value).toBe('0.1');
    first.unmount();
    act(() => setUnits('metric'));
    show(<Tips kitchen={kitchen} />);
    // As it was typed.
    expect(field('opening, mm').value).toBe('2,54');
    await waitFor(() => expect(button('Keep the tips').disabled).toBe(false));
    fireEvent.click(button('Keep the tips'));
    await waitFor(() => expect(sent[0]).toMatchObject({ tips: [{ name: USUAL_TIPS[0]?.name, openingMm: 2.54 }, USUAL_TIPS[1]] }));
  });
  it('a tip that was taken away is away after a reload too', async () => {
    const first = show(<Tips kitchen={kitchen} />);
    fireEvent.click(button(`Remove ${USUAL_TIPS[0]?.name}`));
    await waitFor(() => expect(screen.getAllByLabelText('name')).toHaveLength(1));
    first.unmount();
    show(<Tips kitchen={kitchen} />);
    expect(screen.getAllByLabelText('name').map((i) => (i as HTMLInputElement).value)).toEqual([USUAL_TIPS[1]?.name]);
  });
  it('two tips of one name are named, and no longer once either is changed', async () => {
    show(<Tips kitchen={kitchen} />);
    const [one, two] = [field('name').value, field('name', 1).value];
    type('name', ` ${two.toUpperCase()} `);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Twice.'));
    expect(button('Keep the tips').disabled).toBe(true);
    type('name', one);
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    expect(button('Keep the tips').disabled).toBe(false);
  });
  it('a carton is typed in inches where inches are used; prices take a comma', async () => {
    act(() => setUnits('us'));
    show(<PricesForm kitchen={kitchen} />);
    expect(field('carton width, in').value).toBe('10');
    type('carton width, in', '8');
    type('a baked cookie', '0,45');
    act(() => setUnits('metric'));
    expect(field('carton width, mm').value).toBe('203');
    type('carton depth, mm', '20');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('The depth goes from 40 to 1000 mm.'));
    expect(button('Keep these').disabled).toBe(true);
    type('carton depth, mm', '180');
    await waitFor(() => expect(button('Keep these').disabled).toBe(false));
    fireEvent.click(button('Keep these'));
    await waitFor(() =>
      expect(sent[0]).toEqual({
        prices: { ...kitchen.prices, cookieEach: 0.45 },
        carton: { name: 'small', widthMm: 203, depthMm: 180, layers: 2 },
      }),
    );
  });
  it('fan and dehydrator are turned, and what cannot be is named', async () => {
    show(<FanSetUp kitchen={kitchen} onKept={() => undefined} />);
    type('dehydrator, °C', '40');
    type('fan stands off, m', '1');
    act(() => setUnits('us'));
    expect([field('dehydrator, °F').value, field('fan stands off, ft').value, field('or measured, ft/s').value]).toEqual([
      '104',
      '3.3',
      '',
    ]);
    for (const name of ['dehydrator, °F', 'fan stands off, ft', 'or measured, ft/s']) {
      const was = field(name).value;
      for (const nothing of ['', 'x', '0']) type(name, nothing);
      type(name, was);
    }
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    type('dehydrator, °F', '300');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('The dehydrator goes from 68 to 176 °F.'));
    type('dehydrator, °F', '95');
    await waitFor(() => expect(button('Keep').disabled).toBe(false));
    fireEvent.click(button('Keep'));
    await waitFor(() => expect(sent[0]).toMatchObject({ dehydrator: { tempC: 35 }, fan: { setting: 'medium', measuredMPerS: null } }));
    expect((sent[0] as { fan: { distanceM: number } }).fan.distanceM).toBeCloseTo(1, 1);
  });
  it('a recipe is turned between grams and cups, and what is no number yet stays as it is', async () => {
    show(<RecipeForm kitchen={kitchen} />);
    type('powdered sugar, g', '480');
    type('water, g', '');
    act(() => setUnits('us'));
    // A cup of powdered sugar is 120 g (USDA FoodData Central, 19336; from memory).
    expect(Number(field('powdered sugar, cups').value)).toBeCloseTo(4, 1);
    act(() => setUnits('metric'));
    expect([field('powdered sugar, g').value, field('water, g').value]).toEqual(['480', '']);
    expect(button('Keep the recipe').disabled).toBe(true);
    type('water, g', '85');
    await waitFor(() => expect(button('Keep the recipe').disabled).toBe(false));
    fireEvent.click(button('Keep the recipe'));
    await waitFor(() => expect(sent[0]).toMatchObject({ mix: { sugarG: 480, waterG: 85, eggG: 20 }, eggWhite: 'dried', recipe: 'mine' }));
  });
});
