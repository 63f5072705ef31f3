import type { InCalendar } from '@kestfog/core/calendar';
import { beforeEach, expect, it } from 'vitest';
import { calendarFile } from './given-calendar.js';

beforeEach(() => localStorage.clear());

/** Two tasks, an hour apart, the second packed. */
const task = (id: string, startS: number, kind: string) => ({ id, startS, endS: startS + 600, kind, trayId: 'A', title: id, motions: [] });
const plan = (tasks: readonly object[], stampMs: number): InCalendar =>
  ({
    id: 'one',
    sequence: stampMs,
    stampMs,
    plan: {
      epoch: '2026-12-01T14:00:00Z',
      order: { name: 'quay', bags: [] },
      designs: [],
      openingHours: [],
      packBy: null,
      tasks,
      waits: [],
      stays: [],
      trays: [],
      lots: [],
    },
  }) as never;
const cancelled = (file: string) =>
  file
    .split('BEGIN:VEVENT')
    .filter((event) => event.includes('STATUS:CANCELLED'))
    .map((event) => /UID:([a-z0-9-]+)/.exec(event)?.[1]);

it('takes out of a calendar what a file saved here before had put there, also in every later file', () => {
  const both = plan([task('flood', 0, 'flood'), task('pack', 7200, 'pack')], 1);
  const one = plan([task('flood', 0, 'flood')], 2);
  expect(cancelled(calendarFile(both, 'quay'))).toEqual([]);
  expect(cancelled(calendarFile(one, 'quay'))).toEqual(['sitting-2', 'packing']);
  expect(cancelled(calendarFile(one, 'quay'))).toEqual(['sitting-2', 'packing']);
  // Planned again, it stands there again.
  expect(cancelled(calendarFile(both, 'quay'))).toEqual([]);
  localStorage.setItem('kestfog.calendar.one', 'no list');
  expect(cancelled(calendarFile(one, 'quay'))).toEqual([]);
});
