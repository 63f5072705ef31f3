import { msg } from '../words/index.js';
/** "45 s", "12 min", "3 h 10 min" */
export function span(seconds: number): string {
  const s = Math.round(seconds);
  if (s < 90) return msg`${s} s`;
  const min = Math.round(s / 60);
  if (min < 60) return msg`${min} min`;
  return min % 60 === 0 ? msg`${min / 60} h` : msg`${Math.floor(min / 60)} h ${min % 60} min`;
}
