import { readDesign } from '@kestfog/core/design';
import { parseOrder } from '@kestfog/core/formats';
import type { DesignSummary, OrderInput, OrderView } from '@kestfog/core/wire';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { changedFields } from '../../api/order-input.js';
import { setUnits } from '../../app/units.js';
import { Cookie } from '../../ui/Cookie.js';
import { beginsBefore, inputFromFile, isOwnChange } from './fit.js';
import { dropDraft, keepDraft, keptDraft } from './kept-draft.js';
import { curesOf } from './NoPlan.js';
import { OrderForm } from './OrderForm.js';
import { blankOrder, draftOf, inputOf, sameAgain, transferOrder } from './order-draft.js';
import { transfersNeeded } from './Transfers.js';

const drawing = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="a" width="30" height="60" fill="#ffffff"/><rect id="b" x="30" width="30" height="60" fill="#b3261e"/></svg>',
  'Flag',
);
const flag: DesignSummary = {
  id: '11111111-1111-4111-8111-111111111111',
  name: 'Flag',
  rounds: 2,
  sections: 2,
  version: 1,
  edits: 0,
  handsOnS: 60,
  transfer: false,
  problem: null,
};
const initial = blankOrder([flag], Date.parse('2026-06-04T12:00:00Z'));

/** A sensor that speaks once, when it is asked to. */
let speak: (reading: object) => void = () => {};
class OneReading {
  addEventListener(_kind: string, heard: (e: { data: string }) => void): void {
    speak = (reading) => heard({ data: JSON.stringify(reading) });
  }
  close(): void {}
}

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal('EventSource', OneReading);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('what the form holds', () => {
  it('there and back is the same order, in either units', () => {
    const order: OrderInput = {
      ...initial,
      name: 'x',
      air: { tempC: 21.5, humidityPct: 48, airMPerS: 0.2 },
      fan: { places: 2, airMPerS: 0.8 },
    };
    expect(inputOf(draftOf(order, 'metric'), 'metric')).toEqual(order);
    const us = inputOf(draftOf(order, 'us'), 'us');
    expect(us.air.tempC).toBeCloseTo(21.5, 1);
    expect({ ...us, air: order.air }).toEqual(order);
  });
  it('the whole bench there and back, in either units', () => {
    const order: OrderInput = {
      ...initial,
      name: 'x',
      trays: [{ id: 'A', widthMm: 419.1, depthMm: 304.8 }],
      handGapMm: 12.7,
      dehydrator: { places: 2, tempC: 35, airMPerS: 1 },
      decorators: [
        { id: 'Ada', pace: 1 },
        { id: 'Bo', pace: 0.8 },
      ],
      openBags: 5,
      pins: [
        { kind: 'away', from: '2026-06-05T12:00:00.000Z', to: '2026-06-05T12:30:00.000Z', label: 'lunch', who: 'Bo' },
        { kind: 'tray-first', tray: 'A' },
        { kind: 'not-before', tray: 'A', at: '2026-06-05T13:00:00.000Z' },
      ],
      notes: 'by the quay',
      hostId: '22222222-2222-4222-8222-222222222222',
    };
    for (const units of ['metric', 'us'] as const) expect(inputOf(draftOf(order, units), units)).toEqual(order);
  });
  it('the same again is tomorrow, at the same clock times, with nothing of an old version or a host', () => {
    const old: OrderInput = { ...initial, hostId: flag.id, designs: [{ designId: flag.id, count: 6, spares: 1, version: 3 }] };
    const again = sameAgain(old, Date.parse('2026-09-01T09:00:00Z'));
    expect(again.designs).toEqual([{ designId: flag.id, count: 6, spares: 1 }]);
    expect(again.hostId).toBeNull();
    expect(again.openingHours[0]?.from.slice(0, 10)).toBe('2026-09-02');
    const length = (o: OrderInput) => Date.parse(o.packBy) - Date.parse(o.openingHours[0]?.from ?? '');
    expect(length(again)).toBe(length(old));
  });
  it('transfers are an order of the day before, lifted when the order begins', () => {
    const made = transferOrder({ ...initial, name: 'Regatta' }, 'parent', flag.id, 24, 4);
    expect(made).toMatchObject({
      name: 'Transfers for Regatta',
      designs: [{ designId: flag.id, count: 24, spares: 4 }],
      packBy: initial.openingHours[0]?.from,
    });
    const dries = Date.parse(made.openingHours[1]?.from ?? '') - Date.parse(made.openingHours[0]?.to ?? '');
    // Between piping and lifting lie the 12 to 18 hours a transfer takes (common practice, no published source).
    expect(dries).toBeGreaterThan(18 * 3_600_000);
  });
  it('counts what is glued on, spares included', () => {
    const glued = readDesign(
      '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="a" width="60" height="60" fill="#ffffff"/><circle id="buoy" cx="20" cy="20" r="6" fill="#b3261e" data-part="line" data-technique="glued-transfer"/></svg>',
      'Glued',
    );
    expect(transfersNeeded({ designs: [{ count: 10, spares: 2, drawing: glued }] } as unknown as OrderView)).toBe(12);
  });
  it('no trays before the fan means no fan', () =>
    expect(inputOf({ ...draftOf(initial, 'metric'), fanPlaces: 0 }, 'metric').fan).toBeNull());
  it('a blank order opens tomorrow afternoon and leaves a night to dry', () => {
    expect(initial.openingHours).toHaveLength(2);
    expect(Date.parse(initial.openingHours[1]?.from ?? '') - Date.parse(initial.openingHours[0]?.to ?? '')).toBe(9 * 3_600_000);
  });
});

describe('what was typed and not kept', () => {
  const fresh = draftOf(initial, 'metric');
  it('is there again on this device, for the form it was typed into and what that began with, and gone when it is let go', () => {
    keepDraft('new', fresh, 'metric', { ...fresh, name: 'Half' });
    expect(keptDraft('new', fresh, 'metric')?.draft.name).toBe('Half');
    expect(keptDraft('new', fresh, 'us')).toBeNull();
    keepDraft('an order', fresh, 'metric', { ...fresh, name: 'Half' });
    // Changed elsewhere since: what was typed into what it was then is of no use.
    expect(keptDraft('an order', { ...fresh, notes: 'theirs' }, 'metric')).toBeNull();
    localStorage.setItem('kestfog.draft.order.new', 'no JSON');
    expect(keptDraft('new', fresh, 'metric')).toBeNull();
    dropDraft('an order');
    expect(keptDraft('an order', fresh, 'metric')).toBeNull();
  });
  it('is named field by field where somebody else has changed the order', () => {
    const theirs = {
      ...initial,
      notes: 'theirs',
      designs: initial.designs.map((d) => ({ ...d, version: 1, guestOf: null })),
    } as unknown as OrderView;
    expect(changedFields({ ...initial, name: 'mine' }, theirs).map((f) => f.what)).toEqual(['its name', 'notes']);
    expect(changedFields(initial, { ...theirs, notes: initial.notes })).toEqual([]);
  });
});

describe('sharing and fitting', () => {
  it('a suggestion becomes the order it stands for', () => {
    const order = {
      ...initial,
      designs: [{ designId: flag.id, count: 12, spares: 0, version: 1, guestOf: null }],
      openingHours: initial.openingHours,
    } as unknown as OrderView;
    const file = parseOrder({
      format: 'kestfog-order/3',
      epoch: '2026-06-05T13:30:00Z',
      designs: [{ file: 'flag.svg', count: 9 }],
      trays: [{ id: 'A', places: 8 }],
      openingHours: [['2026-06-05T13:30:00Z', '2026-06-05T22:00:00Z']],
      fan: { places: 1, airMPerS: 1 },
      margin: 'bold',
      pins: [{ kind: 'away', from: '2026-06-05T14:00:00Z', to: '2026-06-05T14:30:00Z', label: 'lunch' }],
    });
    expect(inputFromFile(order, file)).toMatchObject({
      designs: [{ designId: flag.id, count: 9 }],
      openingHours: [{ from: '2026-06-05T13:30:00.000Z', to: '2026-06-05T22:00:00.000Z' }],
      fan: { places: 1, airMPerS: 1 },
      margin: 'bold',
      pins: [{ kind: 'away', from: '2026-06-05T14:00:00.000Z', to: '2026-06-05T14:30:00.000Z', label: 'lunch', who: null }],
    });
    // What was learned of the hands is the kitchen's, and no field of an order: the server refuses it.
    const learned = { ...file, decorators: [{ id: 'me', pace: 0.9, takes: { flood: 0.5 } }] };
    expect(inputFromFile(order, learned).decorators).toEqual([{ id: 'me', pace: 0.9 }]);
    expect(isOwnChange(order, file)).toBe(true);
    const guest = {
      ...order,
      designs: [{ ...order.designs[0], guestOf: { id: 'g', name: 'Other', packBy: '', pieces: false } }],
    } as OrderView;
    expect(isOwnChange(guest, file)).toBe(false);
    // A start that is past is no suggestion; as late as it was, it is.
    const beginsMs = Date.parse(file.epoch as string) + (file.openingHours[0]?.[0] ?? 0) * 1000;
    const earlier = { ...file, epoch: new Date(Date.parse(file.epoch as string) - 3_600_000).toISOString() };
    expect(beginsBefore(earlier, file, beginsMs - 1)).toBe(true);
    expect(beginsBefore(earlier, file, beginsMs - 7_200_000)).toBe(false);
    expect(beginsBefore(file, file, beginsMs + 1)).toBe(false);
  });
});

describe('an order that cannot be planned', () => {
  it('is offered what helps with one touch, and nothing that does not', () => {
    const view = {
      ...initial,
      id: 'o',
      revision: 3,
      designs: [{ count: 20, spares: 2 }],
      margin: 'normal',
      dehydrator: null,
      openBags: 3,
    } as unknown as OrderView;
    const texts = (code: string, more: Partial<OrderView> = {}) =>
      curesOf(code, { ...view, ...more }, { dehydrator: { tempC: 38, airMPerS: 1 } });
    expect(texts('never-dries')[0]?.change.dehydrator).toEqual({ places: 1, tempC: 38, airMPerS: 1 });
    expect(texts('never-dries', { dehydrator: { places: 1, tempC: 38, airMPerS: 1 } })).toEqual([]);
    expect(texts('too-many-bags')[0]?.change.openBags).toBeNull();
    const [trays] = texts('trays-full');
    expect(trays?.text).toBe('Add 1 tray of 8');
    expect(trays?.change.trays.map((t) => t.id)).toEqual(['A', 'B', 'C']);
    expect(trays?.change.basedOn).toBe(3);
    expect(texts('window-too-short')[0]?.change.margin).toBe('bold');
    expect(texts('window-too-short', { margin: 'bold' })).toEqual([]);
    expect(texts('unsolved')).toEqual([]);
  });
});

describe('the form', () => {
  const show = (failure: string | null = null) => {
    const onSubmit = vi.fn();
    render(
      <QueryClientProvider client={new QueryClient()}>
        <OrderForm
          form="new"
          initial={initial}
          designs={[flag]}
          hosts={[]}
          saving={false}
          failure={failure}
          submitText="Keep the order"
          onSubmit={onSubmit}
        />
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
  it('another choice of units turns what was typed, and the order stays the same', async () => {
    const onSubmit = show();
    fireEvent.change(screen.getByLabelText('Name of the order'), { target: { value: 'Pier flags' } });
    fireEvent.click(screen.getByText('by their size'));
    const width = () => (screen.getAllByLabelText(/^width/)[0] as HTMLInputElement).value;
    fireEvent.change(screen.getAllByLabelText(/^width/)[0] as HTMLElement, { target: { value: '381' } });
    fireEvent.change(screen.getByLabelText(/^temperature/), { target: { value: '25' } });
    act(() => setUnits('us'));
    await waitFor(() => expect(width()).toBe('15'));
    expect((screen.getByLabelText('temperature, °F') as HTMLInputElement).value).toBe('77');
    // As it was left is as it comes again.
    cleanup();
    const later = show();
    expect(width()).toBe('15');
    fireEvent.click(screen.getByText('Keep the order'));
    await waitFor(() => expect(later).toHaveBeenCalledTimes(1));
    expect(later.mock.calls[0]?.[0]).toMatchObject({ air: { tempC: 25 }, trays: [{ widthMm: 381 }, { widthMm: expect.closeTo(420, 0) }] });
    expect(onSubmit).not.toHaveBeenCalled();
    act(() => setUnits('metric'));
  });
  it('takes the air from the sensor', async () => {
    const onSubmit = show();
    expect(screen.queryByText(/take it from the sensor/)).toBeNull();
    act(() => speak({ atMs: 0, tempC: 24.26, humidityPct: 58.4, simulated: null }));
    fireEvent.click(screen.getByText('take it from the sensor: 24.3 °C, 58 %'));
    fireEvent.change(screen.getByLabelText('Name of the order'), { target: { value: 'Pier flags' } });
    fireEvent.click(screen.getByText('Keep the order'));
    await waitFor(() => expect(onSubmit).toHaveBeenCalledTimes(1));
    expect(onSubmit.mock.calls[0]?.[0].air).toEqual({ tempC: 24.3, humidityPct: 58, airMPerS: 0.1 });
  });
  it('an emptied date says so, also of what is insisted on, and nothing goes wrong in silence', async () => {
    const onSubmit = show();
    fireEvent.change(screen.getByLabelText('Name of the order'), { target: { value: 'Pier flags' } });
    fireEvent.change(screen.getAllByLabelText('to')[0] as HTMLElement, { target: { value: '' } });
    fireEvent.click(screen.getByText('something to insist on'));
    fireEvent.change(screen.getAllByLabelText('from').at(-1) as HTMLElement, { target: { value: '' } });
    fireEvent.click(screen.getByText('Keep the order'));
    await waitFor(() => expect(screen.getByText(/Not kept yet/)).toBeTruthy());
    expect(screen.getByText('When does it close?')).toBeTruthy();
    expect(screen.getByText('From when?')).toBeTruthy();
    expect(onSubmit).not.toHaveBeenCalled();
  });
  it('a time that is past is not taken', async () => {
    // The server's clock counts: a tablet's own may stand anywhere.
    const clock = { nowMs: Date.parse('2026-06-07T00:00:00Z'), speed: 0 };
    vi.stubGlobal('fetch', async (path: string) => (path.endsWith('/health') ? Response.json(clock) : Response.json({}, { status: 404 })));
    const onSubmit = show();
    fireEvent.change(screen.getByLabelText('Name of the order'), { target: { value: 'Pier flags' } });
    // Until the server has said its time there is nothing to hold against.
    await act(() => new Promise((done) => setTimeout(done, 50)));
    fireEvent.click(screen.getByText('Keep the order'));
    await waitFor(() => expect(screen.getAllByText('These hours are past.')).toHaveLength(2));
    expect(screen.getByText('That time is past.')).toBeTruthy();
    expect(onSubmit).not.toHaveBeenCalled();
  });
  it('shows what the server refused', () => {
    show('The bench is closed then.');
    expect(screen.getByRole('alert').textContent).toContain('The bench is closed then.');
  });
});

describe('a cookie', () => {
  it('has a name, and an edge round what is at hand: dashed while that is not there yet', () => {
    const { container, rerender } = render(
      <Cookie design={drawing} look={{ sections: { a: 'wet' }, lines: {}, marks: [] }} lit={['b']} label="next" />,
    );
    expect(screen.getByRole('img', { name: 'next' })).toBeTruthy();
    // Apricot dashes on slate; where it is not there yet the slate has gaps too.
    const [slate, apricot] = container.querySelectorAll('[data-lit=b] path');
    expect([slate?.hasAttribute('stroke-dasharray'), apricot?.hasAttribute('stroke-dasharray')]).toEqual([true, true]);
    rerender(<Cookie design={drawing} look="dry" lit={['b']} label="done" />);
    expect(screen.getByRole('img', { name: 'done' })).toBeTruthy();
    const [there, dashes] = container.querySelectorAll('[data-lit=b] path');
    expect([there?.hasAttribute('stroke-dasharray'), dashes?.hasAttribute('stroke-dasharray')]).toEqual([false, true]);
  });
  it('keeps its true size beside others', () => {
    const { container } = render(<Cookie design={drawing} look="dry" pxPerMm={2} label="true size" />);
    // 60 mm of icing, 2 mm of bare rim and 2 mm of air on each side.
    expect(Number(container.querySelector('svg')?.getAttribute('width'))).toBeCloseTo(136, 1);
  });
});
