import type { DesignSummary, OrderInput } from '@kestfog/core';
import { readDesign } from '@kestfog/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Cookie, finishedLook } from '../../ui/Cookie.js';
import { OrderForm } from './OrderForm.js';
import { blankOrder, draftOf, inputOf } from './order-draft.js';

const drawing = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="a" width="30" height="60" fill="#ffffff"/><rect id="b" x="30" width="30" height="60" fill="#b3261e"/></svg>',
  'Flag',
);
const flag: DesignSummary = { id: '11111111-1111-4111-8111-111111111111', name: 'Flag', rounds: 2, sections: 2, version: 1, handsOnS: 60, drawing };
const initial = blankOrder([flag], Date.parse('2026-06-04T12:00:00Z'));

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe('what the form holds', () => {
  it('there and back is the same order, in either units', () => {
    const order: OrderInput = { ...initial, name: 'x', air: { tempC: 21.5, humidityPct: 48, airMPerS: 0.2 }, fan: { places: 2, airMPerS: 0.8 } };
    expect(inputOf(draftOf(order, 'metric'), 'metric')).toEqual(order);
    const us = inputOf(draftOf(order, 'us'), 'us');
    expect(us.air.tempC).toBeCloseTo(21.5, 1);
    expect({ ...us, air: order.air }).toEqual(order);
  });
  it('no trays before the fan means no fan', () => expect(inputOf({ ...draftOf(initial, 'metric'), fanPlaces: 0 }, 'metric').fan).toBeNull());
  it('a blank order opens tomorrow afternoon and leaves a night to dry', () => {
    expect(initial.bench).toHaveLength(2);
    expect(Date.parse(initial.bench[1]?.from ?? '') - Date.parse(initial.bench[0]?.to ?? '')).toBe(9 * 3_600_000);
  });
});

describe('the form', () => {
  const show = (failure: string | null = null) => {
    const onSubmit = vi.fn();
    render(
      <QueryClientProvider client={new QueryClient()}>
        <OrderForm initial={initial} designs={[flag]} saving={false} failure={failure} submitText="Keep the order" onSubmit={onSubmit} />
      </QueryClientProvider>,
    );
    return onSubmit;
  };
  it('says what is missing beside the field, keeps what was typed, and sends nothing', async () => {
    const onSubmit = show();
    fireEvent.change(screen.getByLabelText(/humidity/), { target: { value: '140' } });
    fireEvent.change(screen.getByLabelText('cookies'), { target: { value: '0' } });
    fireEvent.click(screen.getByText('Keep the order'));
    await waitFor(() => expect(screen.getByText('Give the order a name.')).toBeTruthy());
    expect(screen.getByText('Humidity goes from 1 to 100.')).toBeTruthy();
    expect(screen.getByText('The count goes from 1 to 500.')).toBeTruthy();
    expect((screen.getByLabelText(/humidity/) as HTMLInputElement).value).toBe('140');
    expect(onSubmit).not.toHaveBeenCalled();
  });
  it('sends the order once it is right', async () => {
    const onSubmit = show();
    fireEvent.change(screen.getByLabelText('Name of the order'), { target: { value: ' Pier flags ' } });
    fireEvent.click(screen.getByText('another tray'));
    fireEvent.click(screen.getByText('Keep the order'));
    await waitFor(() => expect(onSubmit).toHaveBeenCalledTimes(1));
    expect(onSubmit.mock.calls[0]?.[0]).toMatchObject({
      name: 'Pier flags',
      designs: [{ designId: flag.id, count: 12 }],
      trays: [{ id: 'A' }, { id: 'B' }, { id: 'C' }],
    });
  });
  it('shows what the server refused', () => {
    show('The bench is closed then.');
    expect(screen.getByRole('alert').textContent).toContain('The bench is closed then.');
  });
});

describe('a cookie', () => {
  it('shows only what is on it, each surface in its finish', () => {
    const { container, rerender } = render(<Cookie design={drawing} look={{ sections: { a: 'wet' }, lines: {}, marks: [] }} label="after the first flood" />);
    expect(screen.getByRole('img', { name: 'after the first flood' })).toBeTruthy();
    expect(container.querySelectorAll('.finish-wet')).toHaveLength(1);
    expect(container.querySelectorAll('[fill="#b3261e"]')).toHaveLength(0);
    rerender(<Cookie design={drawing} look={finishedLook(drawing)} lit={['b']} label="done" />);
    expect(container.querySelectorAll('.finish-dry')).toHaveLength(2);
    expect(container.querySelectorAll('[fill="#b3261e"]')).toHaveLength(1);
  });
  it('keeps its true size beside others', () => {
    const { container } = render(<Cookie design={drawing} look={finishedLook(drawing)} pxPerMm={2} label="true size" />);
    // 60 mm of icing, 2 mm of bare rim and 2 mm of air on each side.
    expect(Number(container.querySelector('svg')?.getAttribute('width'))).toBeCloseTo(136, 1);
  });
});
