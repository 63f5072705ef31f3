import { foldRun, type RunEvent, runIndex } from '@kestfog/core/bench';
import { readDesign } from '@kestfog/core/design';
import { type Plan, parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import type { TechniqueId } from '@kestfog/core/steps';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openingsText } from '../../text/amounts.js';
import { storedSettings } from './bench-settings.js';
import { HandsLines } from './HandsLines.js';
import { ToolCount } from './ToolCount.js';
import { TraySheet } from './TraySheet.js';
import type { Run } from './use-run.js';

const plan: Plan = planOrder({
  order: parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: 'buoy.svg', count: 2 }],
    trays: [{ id: 'A', places: 4 }],
    openingHours: [['2026-06-05T14:00:00Z', '2026-06-06T14:00:00Z']],
    fan: { places: 1 },
    dehydrator: { places: 1 },
  }),
  designs: [
    readDesign(
      '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path id="left" d="M4 4H56V56H4Z" fill="#ffffff"/></svg>',
      'Buoy',
    ),
  ],
  passes: 20,
});
const EPOCH = Date.parse(plan.epoch as string);

function runWith(more: readonly Pick<RunEvent, 'type' | 'data'>[]) {
  const sent: Pick<RunEvent, 'type' | 'data'>[] = [];
  const log = [{ type: 'runStarted', data: {} }, ...more].map((e, i) => ({
    id: `e${i}`,
    deviceId: 'd',
    deviceSeq: i + 1,
    atMs: EPOCH + i * 1000,
    ...e,
  })) as RunEvent[];
  const state = foldRun(plan, log);
  const bench = { run: { plan }, state, nowMs: EPOCH + 60_000, send: (b: (typeof sent)[number]) => void sent.push(b) } as unknown as Run;
  return { bench, state, sent };
}
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name, hidden: true }));

beforeEach(() => {
  localStorage.clear();
});
afterEach(cleanup);

describe('the hands’ words', () => {
  const words = [
    { technique: 'flood' as TechniqueId, label: 'flood', lines: ['fill to a dome'], mind: 'too full runs off' },
    {
      technique: 'drag' as TechniqueId,
      label: 'drag with the scribe',
      lines: ['wipe it'],
      mind: 'an unwiped scribe drags the wrong colour',
    },
  ];
  it('are shown in the order of the hands, hidden once known, and asked for again', () => {
    const said: unknown[] = [];
    const { rerender } = render(<HandsLines words={words} known={[]} onKnown={(t, on) => said.push([t, on])} />);
    expect(screen.getAllByRole('heading').map((h) => h.textContent)).toEqual(['Flood', 'Drag with the scribe']);
    expect(screen.getByText('Mind: too full runs off.')).toBeTruthy();
    fireEvent.click(screen.getAllByRole('button', { name: 'I know this' })[0] as HTMLElement);
    rerender(<HandsLines words={words} known={['flood']} onKnown={(t, on) => said.push([t, on])} />);
    expect(screen.queryByText('fill to a dome')).toBeNull();
    press('how is it done: flood?');
    expect(said).toEqual([
      ['flood', true],
      ['flood', false],
    ]);
  });
  it('nothing is said where there is nothing, and settings kept by an earlier release know nothing yet', () => {
    const { container } = render(<HandsLines words={[]} known={[]} onKnown={() => {}} />);
    expect(container.textContent).toBe('');
    localStorage.setItem('kestfog.bench', JSON.stringify({ quiet: true }));
    expect(storedSettings()).toMatchObject({ quiet: true, known: [] });
  });
});

describe('sharp tools', () => {
  it('are counted out with a knuckle, and in; what is missing is shown until it is found', () => {
    const first = runWith([]);
    render(<ToolCount bench={first.bench} index={runIndex(first.state)} dayOver={false} />);
    press('one sharp tool more');
    press('one sharp tool more');
    press('one sharp tool less');
    press('counted out');
    expect(first.sent).toEqual([{ type: 'toolsCounted', data: { out: true, sharps: 1, offcuts: 0 } }]);
    cleanup();
    const out = runWith([{ type: 'toolsCounted', data: { out: true, sharps: 3, offcuts: 0 } }]);
    const { container, rerender } = render(<ToolCount bench={out.bench} index={runIndex(out.state)} dayOver={false} />);
    expect(container.textContent).toBe('');
    rerender(<ToolCount bench={out.bench} index={runIndex(out.state)} dayOver />);
    expect(screen.getByText(/3 sharp tools went out, and 0 bags were cut/)).toBeTruthy();
    press('one sharp tool less');
    press('counted in');
    expect(out.sent.at(-1)).toEqual({ type: 'toolsCounted', data: { out: false, sharps: 2, offcuts: 0 } });
    cleanup();
    const short = runWith([
      { type: 'toolsCounted', data: { out: true, sharps: 3, offcuts: 0 } },
      out.sent.at(-1) as Pick<RunEvent, 'type' | 'data'>,
    ]);
    render(<ToolCount bench={short.bench} index={runIndex(short.state)} dayOver />);
    expect(screen.getByRole('alert').textContent).toMatch(/1 sharp tool missing/);
  });
});

describe('a tray carried away', () => {
  it('is said with its minutes, and brought back', () => {
    const here = runWith([]);
    render(<TraySheet bench={here.bench} trayId="A" onCookie={() => {}} onClose={() => {}} />);
    press('before the fan, 20 min');
    expect(here.sent).toEqual([{ type: 'carried', data: { trayId: 'A', where: 'fan', minutes: 20 } }]);
    cleanup();
    const away = runWith([{ type: 'carried', data: { trayId: 'A', where: 'dehydrator', minutes: 3 } }]);
    render(<TraySheet bench={away.bench} trayId="A" onCookie={() => {}} onClose={() => {}} />);
    expect(screen.getByText('It is in the dehydrator')).toBeTruthy();
    press('it is back on the bench');
    expect(away.sent).toEqual([{ type: 'broughtBack', data: { trayId: 'A' } }]);
  });
});

describe('openings in words', () => {
  it('name each tip once, in either unit', () => {
    const snips = [
      { name: 'tipless bag', openingMm: 1.5 },
      { name: 'tipless bag', openingMm: 2.5 },
    ];
    expect(openingsText(snips, 'metric')).toBe('tipless bag (1.5 mm, then 2.5 mm)');
    expect(openingsText([{ name: 'round tip 2', openingMm: 1.5 }, ...snips.slice(1)], 'us')).toBe(
      'round tip 2 (0.06 in), then tipless bag (0.10 in)',
    );
    expect(openingsText([], 'metric')).toBe('');
  });
});
