import { NOTHING_KNOWN } from '@kestfog/core/labelling';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { firstDayOfWeek, setClock } from '../../app/clock.js';
import { setLetters, useKey } from '../../app/keys.js';
import { unitsOfLanguage } from '../../app/units.js';
import { clockTime, dayClock } from '../../text/time.js';
import { Choice } from '../../ui/Choice.js';
import { Asking } from '../../ui/Sheet.js';
import { Toasts } from '../../ui/Toasts.js';
import { say } from '../../ui/toasts.js';
import { blankOrder, FIRST_BENCH, nextOpening } from '../orders/order-draft.js';
import { Allergens } from './Allergens.js';
import { Archive } from './Archive.js';
import { type FromKitchen, setUpChange, taken, toTakeOver } from './taken-over.js';
import { UsualWeek } from './UsualWeek.js';

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe('a change of the kitchen', () => {
  const before: FromKitchen = { ...FIRST_BENCH, air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 } };
  const after: FromKitchen = { ...before, margin: 'careful', fan: { places: 1, airMPerS: 1 }, air: { ...before.air, humidityPct: 61 } };
  it('reaches what an order has as the kitchen had it, and nothing that was made different on purpose', () => {
    expect(toTakeOver(before, before, after)).toEqual(['fanPlaces', 'margin', 'air']);
    expect(toTakeOver({ ...before, margin: 'bold' }, before, after)).toEqual(['fanPlaces', 'air']);
    expect(toTakeOver({ ...before, trays: [{ id: 'Z', places: 3 }] }, before, after)).toEqual(['fanPlaces', 'margin', 'air']);
    expect(toTakeOver(after, before, after)).toEqual([]);
    expect(taken(before, ['fanPlaces', 'margin', 'air'], after)).toEqual({ fan: after.fan, margin: 'careful', air: after.air });
  });

  it('of fan and dehydrator reaches every order that counts on them, however many trays it gives them, and the usual bench', () => {
    const kitchen = {
      usual: { ...FIRST_BENCH, fan: { places: 2, airMPerS: 0.6 }, dehydrator: { places: 1, tempC: 40, airMPerS: 1 } },
      air: before.air,
      fan: { distanceM: 3, setting: 'medium', measuredMPerS: null } as const,
      dehydrator: { tempC: 35, airMPerS: 1 },
    };
    // A jet of 2.5 m/s, 3 m off: 0.4 × 2.5 × 6.2 × 0.3 / 3 = 0.62 m/s at the tray.
    const change = setUpChange(kitchen, kitchen, { fan: { ...kitchen.fan, measuredMPerS: 1.4 }, dehydrator: { tempC: 38, airMPerS: 1 } });
    const take = (order: FromKitchen) => taken(order, toTakeOver(order, change.before, change.after), change.after);
    const counting = { ...before, fan: { places: 3, airMPerS: 0.6 }, dehydrator: { places: 2, tempC: 35, airMPerS: 1 } };
    expect(take(counting)).toEqual({ fan: { places: 3, airMPerS: 1.4 }, dehydrator: { places: 2, tempC: 38, airMPerS: 1 } });
    // Hers was set to 40 °C on purpose; and who has neither is left alone.
    expect(take({ ...kitchen.usual, air: kitchen.air })).toEqual({ fan: { places: 2, airMPerS: 1.4 } });
    expect(take(before)).toEqual({});
  });
});

describe('allergens', () => {
  const shown = () =>
    render(
      <QueryClientProvider client={new QueryClient()}>
        <Allergens
          kitchen={{ allergens: NOTHING_KNOWN } as never}
          laid={[{ kind: 'pen', item: 'pen #000000', what: 'edible pen, black', colour: '#000000' }]}
        />
      </QueryClientProvider>,
    );
  const kept = () => JSON.parse(localStorage.getItem('kestfog.form.kitchen.allergens') ?? 'null')?.value?.known;
  it('nothing ticked says that nobody looked; none of these has to be said', () => {
    shown();
    const cookie = within(screen.getByRole('group', { name: 'in the cookie', hidden: true }));
    const tick = (name: string) => fireEvent.click(cookie.getByRole('checkbox', { name, hidden: true }));
    tick('milk');
    tick('wheat');
    expect(kept().cookie).toEqual(['wheat', 'milk']);
    tick('milk');
    tick('wheat');
    // Back where it began: there is nothing typed any more.
    expect(kept()).toBeUndefined();
    tick('none of these');
    expect(kept().cookie).toEqual([]);
    const pen = within(screen.getByRole('group', { name: 'in edible pen, black', hidden: true }));
    fireEvent.click(pen.getByRole('checkbox', { name: 'soya', hidden: true }));
    expect(kept().laidOn).toEqual({ 'pen #000000': ['soya'] });
    fireEvent.click(pen.getByRole('checkbox', { name: 'soya', hidden: true }));
    expect(kept().laidOn).toEqual({});
  });
});

describe('the archive', () => {
  it('is taken in; what clashes is asked about, and the same file sent again as was chosen', async () => {
    const asked: [string, string, number][] = [];
    vi.stubGlobal('fetch', async (path: string, { method, body }: { method: string; body: Blob }) => {
      asked.push([method, path, body.size]);
      return path.endsWith('refuse')
        ? new Response(JSON.stringify({ code: 'archive-clash', message: 'an order (Regatta) is here already.' }), { status: 409 })
        : new Response(JSON.stringify({ rows: 3, files: 1, already: 0, kept: 0, replaced: 1 }), { status: 201 });
    });
    render(
      <QueryClientProvider client={new QueryClient()}>
        <Archive />
        <Toasts />
      </QueryClientProvider>,
    );
    expect(screen.getByRole('link', { name: 'Save an archive' }).getAttribute('href')).toBe('/api/archive');
    fireEvent.change(screen.getByLabelText('Take an archive in'), { target: { files: [new File(['12345'], 'a.zip')] } });
    expect(await screen.findByText('an order (Regatta) is here already.')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take the archive’s' }));
    expect(await screen.findByText('The archive was taken in: 3 things, 1 photo or recording.')).toBeTruthy();
    expect(screen.queryByRole('alert')).toBeNull();
    expect(asked).toEqual([
      ['POST', '/api/archive?clashes=refuse', 5],
      ['POST', '/api/archive?clashes=replace', 5],
    ]);
    vi.unstubAllGlobals();
  });
});

describe('the usual week', () => {
  const day = (from: string, to: string) => ({ from, to });
  // Wednesday and Saturday. 4 June 2026 is a Thursday.
  const week = [null, null, day('18:00', '23:00'), null, null, day('08:00', '12:30'), null];
  const nowMs = new Date(2026, 5, 4, 12).getTime();
  const at = (d: number, h: number, m = 0) => new Date(2026, 5, d, h, m).toISOString();
  it('gives a new order the next two days that are open, and the end of the second to be packed by', () => {
    const o = blankOrder([], nowMs, { air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 }, usual: null, week });
    expect(o.openingHours).toEqual([
      { from: at(6, 8), to: at(6, 12, 30) },
      { from: at(10, 18), to: at(10, 23) },
    ]);
    expect(o.packBy).toBe(at(10, 23));
  });
  it('where nothing is usual a new order begins tomorrow afternoon', () => {
    expect(
      nextOpening(
        week.map(() => null),
        nowMs,
      ),
    ).toBeNull();
    expect(
      blankOrder([], nowMs, { air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 }, usual: null, week: null }).openingHours[0]?.from,
    ).toBe(at(5, 14));
  });
  it('an emptied time is not kept as the earliest of all', () => {
    const kitchen = { week: [day('14:00', '22:00'), null, null, null, null, null, null] } as never;
    render(
      <QueryClientProvider client={new QueryClient()}>
        <UsualWeek kitchen={kitchen} />
      </QueryClientProvider>,
    );
    const keep = screen.getByRole('button', { name: 'Keep the usual week' }) as HTMLButtonElement;
    expect(keep.disabled).toBe(false);
    fireEvent.change(screen.getByLabelText('Monday from'), { target: { value: '' } });
    expect(screen.getByRole('alert').textContent).toMatch(/On Monday it must close after it opens/);
    expect(keep.disabled).toBe(true);
  });
  it('is listed from the first day of the week of the language', () => {
    // Unicode CLDR, weekData: Sunday in the United States, Monday in the United Kingdom.
    expect([firstDayOfWeek('en-US'), firstDayOfWeek('en-GB')]).toEqual([6, 0]);
    expect(['en-US', 'es-US', 'en-GB', 'de-DE', 'en'].map((l) => unitsOfLanguage(l))).toEqual(['us', 'us', 'metric', 'metric', 'metric']);
    // As a browser says it where the machine has no language of its own, and what is none at all.
    expect([unitsOfLanguage('en-US@posix'), unitsOfLanguage('?'), firstDayOfWeek('en-US@posix'), firstDayOfWeek('')]).toEqual([
      'us',
      'metric',
      6,
      0,
    ]);
  });
});

describe('the clock', () => {
  const ms = new Date(2026, 5, 5, 14, 5).getTime();
  it('has twenty-four hours or twelve, as it is said on this device', () => {
    setClock(24);
    expect([clockTime(ms), dayClock(ms)]).toEqual(['14:05', 'Fri 14:05']);
    setClock(12);
    expect([clockTime(ms), dayClock(ms), dayClock(ms, ms)]).toEqual(['2:05 pm', 'Fri 2:05 pm', '2:05 pm']);
  });
});

function Keyed({ act, asking = false }: { readonly act: (key: string) => void; readonly asking?: boolean }) {
  useKey('o', () => act('o'));
  useKey('mod+z', () => act('undo'));
  return (
    <>
      <input aria-label="a field" />
      {asking && <Asking onClose={() => {}}>asked</Asking>}
    </>
  );
}
describe('keys of a place', () => {
  const done: string[] = [];
  const press = (key: string, more = {}, on: Element = document.body) =>
    fireEvent.keyDown(on, { key, code: `Key${key.toUpperCase()}`, ...more });
  beforeEach(() => done.splice(0));
  it('letters can be switched off; with Ctrl a key is no letter', () => {
    render(<Keyed act={(k) => done.push(k)} />);
    press('o');
    expect(done).toEqual(['o']);
    cleanup();
    setLetters(false);
    render(<Keyed act={(k) => done.push(k)} />);
    press('o');
    press('z', { ctrlKey: true });
    expect(done).toEqual(['o', 'undo']);
  });
  it('none fires in a field or while something is asked', () => {
    render(<Keyed act={(k) => done.push(k)} />);
    press('o', {}, screen.getByLabelText('a field'));
    cleanup();
    render(<Keyed asking act={(k) => done.push(k)} />);
    press('o');
    press('z', { ctrlKey: true });
    expect(done).toEqual([]);
  });
});

describe('what was just done', () => {
  it('is shown with the way back, and leaves the keys to the page', async () => {
    const act = vi.fn();
    const pressed: string[] = [];
    render(
      <>
        <Keyed act={(k) => pressed.push(k)} />
        <Toasts />
      </>,
    );
    say('Regatta is in the trash for 30 days.', { label: 'Put it back', act });
    const back = await screen.findByRole('button', { name: 'Put it back' });
    fireEvent.keyDown(document.body, { key: 'o', code: 'KeyO' });
    expect(pressed).toEqual(['o']);
    fireEvent.click(back);
    expect(act).toHaveBeenCalledOnce();
  });
});

describe('one of a few', () => {
  it('says which is chosen, and takes another', () => {
    const taken: string[] = [];
    render(
      <Choice
        label="Fan"
        value="low"
        options={[
          { id: 'low', label: 'low' },
          { id: 'high', label: 'high' },
        ]}
        onChange={(id) => taken.push(id)}
      />,
    );
    expect(screen.getByRole('radiogroup', { name: 'Fan' })).toBeTruthy();
    expect(screen.getByRole('radio', { name: 'low' }).getAttribute('aria-checked')).toBe('true');
    fireEvent.click(screen.getByRole('radio', { name: 'high' }));
    fireEvent.click(screen.getByRole('radio', { name: 'low' }));
    expect(taken).toEqual(['high']);
  });
});
