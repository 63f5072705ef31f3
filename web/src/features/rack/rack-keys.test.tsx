import { readDesign } from '@kestfog/core/design';
import { parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { capital } from '../../text/words.js';
import { Rack } from './Rack.js';

const pennant = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="70mm" height="50mm" viewBox="0 0 70 50"><path id="hoist" d="M5 5H30V45H5Z" fill="#1f4e79"/><path id="fly" d="M30 5L65 25L30 45Z" fill="#f2c14e"/></svg>',
  'Pennant',
);
const plan = planOrder({
  order: parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: 'pennant.svg', count: 7 }],
    trays: ['A', 'B'].map((id) => ({ id, places: 4 })),
    openingHours: [['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z']],
  }),
  designs: [pennant],
  passes: 20,
});

beforeEach(() => {
  // jsdom lays nothing out: the rack is drawn as on a laptop.
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(1200);
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});
const show = () => {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Rack plan={plan} serverNowMs={Date.parse(plan.epoch as string)} onPin={null}>
        {null}
      </Rack>
    </QueryClientProvider>,
  );
  const rack = screen.getByRole('region', { name: /^The rack/ });
  const detail = within(screen.getByRole('region', { name: 'The step' }));
  return {
    press: (key: string) => fireEvent.keyDown(rack, { key }),
    title: () => detail.getByRole('heading', { level: 2 }).textContent,
    detail,
    rack,
  };
};

describe('the rack by keys', () => {
  it('reaches every step, in its order, and comes back', () => {
    const { press, title } = show();
    const seen = plan.tasks.map((_, i) => {
      if (i > 0) press('ArrowRight');
      return title();
    });
    expect(seen).toEqual(plan.tasks.map((t) => capital(t.title)));
    press('Home');
    expect(title()).toBe(capital(plan.tasks[0]?.title ?? ''));
    press('End');
    expect(title()).toBe(capital(plan.tasks.at(-1)?.title ?? ''));
  });
  it('goes to the next tray, tells all of a step, shows every round, and widens the hours', () => {
    const { press, detail, rack } = show();
    press('ArrowDown');
    expect(detail.getByText(/^tray B/)).toBeTruthy();
    press('ArrowUp');
    expect(detail.getByText(/^tray A/)).toBeTruthy();
    press('Enter');
    expect(detail.getByRole('button', { name: 'less' })).toBeTruthy();
    press(' ');
    expect(screen.getByRole('button', { name: 'tray A: every round' }).getAttribute('aria-expanded')).toBe('true');
    expect(screen.getByRole('button', { name: 'tray B: every round' }).getAttribute('aria-expanded')).toBe('false');
    const width = () => Number(rack.querySelector('svg')?.getAttribute('width'));
    const before = width();
    press('+');
    expect(width()).toBeGreaterThan(1.2 * before);
    press('0');
    expect(width()).toBe(before);
  });
  it('tells what a pointer rests on, and what was chosen once it leaves', () => {
    const { title, rack } = show();
    const last = within(rack).getAllByRole('button', { name: /^tray B: Pack|^tray B: pack/ })[0] as HTMLElement;
    fireEvent.pointerEnter(last);
    expect(title()).toMatch(/^Pack/);
    fireEvent.pointerLeave(last);
    expect(title()).toBe(capital(plan.tasks[0]?.title ?? ''));
  });
  it('is a list of words on paper', () => {
    show();
    const rows = within(document.querySelector('.on-paper') as HTMLElement).getAllByRole('row', { hidden: true });
    const days = new Set(plan.tasks.map((t) => new Date(Date.parse(plan.epoch as string) + t.startS * 1000).getDate())).size;
    expect(rows).toHaveLength(plan.tasks.length + days);
  });
});
