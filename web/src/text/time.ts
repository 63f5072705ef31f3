import { span } from '@kestfog/core/wording';
import { format, isSameDay } from 'date-fns';
import { hoursOfClock } from '../app/clock.js';

/** "14:35", or "2:35 pm" where the clock has twelve hours */
export const clockTime = (ms: number): string => format(ms, hoursOfClock() === 24 ? 'HH:mm' : 'h:mm aaa');
/** "Tue 14:35" unless it is the same day as `besideMs` */
export const dayClock = (ms: number, besideMs?: number): string =>
  besideMs !== undefined && isSameDay(ms, besideMs) ? clockTime(ms) : `${format(ms, 'EEE')} ${clockTime(ms)}`;
export const dayDate = (ms: number): string => format(ms, 'EEEE d MMMM');

export { span };

/** "4:07", for clocks that run */
export function stopwatch(ms: number): string {
  const s = Math.max(0, Math.floor(ms / 1000));
  const h = Math.floor(s / 3600);
  const rest = `${String(Math.floor(s / 60) % 60).padStart(h > 0 ? 2 : 1, '0')}:${String(s % 60).padStart(2, '0')}`;
  return h > 0 ? `${h}:${rest}` : rest;
}

/** "+1 h 20 min", from the first touch */
export const clockAfter = (seconds: number): string => `+${span(seconds)}`;
