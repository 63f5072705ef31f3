import type { Alert } from '@kestfog/core/bench';
import type { PlanTask, StayPlace } from '@kestfog/core/formats';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { simulatedNotifier } from '../../devices/notifier.js';
import { FIRST_SETTINGS, useBenchSettings } from './bench-settings.js';
import { cautionOf, keepRead, readToday } from './cautions-today.js';
import { CALLS } from './knock.js';
import { wordsFor } from './speech.js';
import { useAlarms } from './use-alarms.js';
import { WIPE_S, WipeLock } from './WipeLock.js';

/** Tones that were begun, Hz, as the browser's sound would play them. */
let tones: number[] = [];
const param = (onSet?: (v: number) => void) => ({ setValueAtTime: (v: number) => onSet?.(v), exponentialRampToValueAtTime: () => {} });
class FakeAudio {
  currentTime = 0;
  destination = {};
  resume = async () => {};
  createOscillator = () => ({
    type: '',
    frequency: param((v) => tones.push(v)),
    connect: (x: unknown) => x,
    start: () => {},
    stop: () => {},
  });
  createGain = () => ({ gain: param(), connect: (x: unknown) => x });
}
vi.stubGlobal('AudioContext', FakeAudio);

beforeEach(() => {
  localStorage.clear();
  tones = [];
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

function Probe({ alerts }: { readonly alerts: readonly Alert[] }) {
  const [settings, setSettings] = useBenchSettings();
  useAlarms(alerts, settings, { place: '/runs/1' });
  return (
    <button type="button" onClick={() => setSettings({ quiet: !settings.quiet })}>
      {settings.quiet ? 'quiet' : 'loud'}
    </button>
  );
}
const alert = (id: string, kind: Alert['kind']): Alert => ({ id, kind, trayId: 'A', what: 'dots', text: id });

describe('calls', () => {
  it('can be told apart: in pitch, in number, in haste', () => {
    const kinds = Object.values(CALLS);
    expect(new Set(kinds.map((k) => k.length)).size).toBe(kinds.length);
    expect(new Set(kinds.map((k) => k[0]?.[0])).size).toBe(kinds.length);
  });
  it('sound once for each alert, the closing window first', () => {
    const { rerender } = render(<Probe alerts={[alert('out 1', 'take-out'), alert('w', 'window-closing')]} />);
    const struck = CALLS['window-closing'].length * 2;
    expect(tones).toHaveLength(struck);
    rerender(<Probe alerts={[alert('out 1', 'take-out'), alert('w', 'window-closing')]} />);
    expect(tones).toHaveLength(struck);
    rerender(<Probe alerts={[alert('out 2', 'take-out')]} />);
    expect(tones.length).toBe(struck + CALLS['take-out'].length * 2);
  });
  it('are spoken in the user’s own words, with the tray and the step put in', () => {
    const words = { ...FIRST_SETTINGS.words, 'tray-ready': '{tray} wants {what}' };
    expect(wordsFor(alert('r', 'tray-ready'), words)).toBe('A wants dots');
    expect(wordsFor(alert('w', 'window-closing'), words)).toBe('dots, tray A, half a minute');
    expect(wordsFor({ ...alert('b', 'take-out'), trayId: '', text: 'it is on' }, words)).toBe('it is on');
  });
  it('a notification says it too where the page is not in front, and never where it is', () => {
    localStorage.setItem('kestfog.bench', JSON.stringify({ notify: true }));
    const { rerender } = render(<Probe alerts={[alert('one', 'tray-ready')]} />);
    expect(simulatedNotifier.shown).toEqual([]);
    const behind = vi.spyOn(document, 'visibilityState', 'get').mockReturnValue('hidden');
    rerender(<Probe alerts={[alert('one', 'tray-ready'), alert('two', 'tray-ready')]} />);
    expect(simulatedNotifier.shown).toEqual([{ text: 'Tray A is ready: dots', tag: 'two', place: '/runs/1' }]);
    behind.mockRestore();
  });
  it('quiet leaves them to the eye, and is remembered', () => {
    const { rerender } = render(<Probe alerts={[]} />);
    fireEvent.click(screen.getByText('loud'));
    rerender(<Probe alerts={[alert('r', 'tray-ready')]} />);
    expect(tones).toEqual([]);
    cleanup();
    render(<Probe alerts={[]} />);
    expect(screen.getByText('quiet')).toBeTruthy();
  });
});

describe('cautions at the bench', () => {
  const task = (techniques: readonly string[]) => ({ motions: techniques.map((technique) => ({ technique })) }) as unknown as PlanTask;
  const noon = Date.parse('2026-06-05T12:00:00');
  it('arise with the step that brings them, one at a time, once a day', () => {
    const pen = task(['pen']);
    const first = cautionOf(pen, undefined, 'dried', readToday(noon));
    expect(first?.id).toBeTruthy();
    keepRead(first?.id as never, noon);
    const second = cautionOf(pen, undefined, 'dried', readToday(noon));
    expect(second?.id).not.toBe(first?.id);
    // Another day begins with none read.
    expect(cautionOf(pen, undefined, 'dried', readToday(noon + 86_400_000))?.id).toBe(first?.id);
  });
  it('airbrush mist, warm air and raw egg come where they are', () => {
    const ids = (t: PlanTask, egg: 'dried' | 'fresh' = 'dried', where?: StayPlace) => {
      const out: string[] = [];
      const next = () => cautionOf(t, where && { where }, egg, out as never);
      for (let c = next(); c && out.length < 20; c = next()) out.push(c.id);
      return out;
    };
    expect(ids(task(['airbrush']))).toContain('airbrush-mist');
    expect(ids(task([]), 'dried', 'dehydrator')).toEqual(['warm-air']);
    expect(ids(task([]), 'dried', 'fan')).toEqual([]);
    expect(ids(task(['flood']), 'fresh')).toContain('raw-egg');
    expect(ids(task(['flood']))).not.toContain('raw-egg');
  });
  it('a spoilt store is taken as nothing read', () => {
    localStorage.setItem('kestfog.cautions', '{oops');
    expect(readToday(noon)).toEqual([]);
  });
});

describe('wiping the screen', () => {
  it('shuts touch off for ten seconds and no longer', () => {
    vi.useFakeTimers();
    render(<WipeLock />);
    fireEvent.click(screen.getByText('wipe the screen'));
    expect(screen.getByRole('status').textContent).toContain(`${WIPE_S} s`);
    for (let s = 0; s < WIPE_S; s++) act(() => vi.advanceTimersByTime(1000));
    expect(screen.queryByRole('status')).toBeNull();
  });
});
