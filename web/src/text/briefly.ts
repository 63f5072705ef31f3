import { msg } from '@kestfog/core/words';
import type { Units } from '../app/units.js';
import { airText } from './amounts.js';
import { dayClock } from './time.js';

/** A value in a word or two, for two that are held against each other; what has no short form is only counted. */
export function briefly(value: unknown, units: Units): string {
  if (value === null || value === undefined || value === '') return msg`nothing`;
  if (typeof value === 'boolean') return value ? msg`yes` : msg`no`;
  if (typeof value === 'number') return String(Math.round(value * 100) / 100);
  if (typeof value === 'string') return /^\d{4}-\d\d-\d\dT/.test(value) ? dayClock(Date.parse(value)) : value;
  if (Array.isArray(value))
    return value.length === 0
      ? msg`none`
      : value.map((x) => nameOf(x) ?? '').every(Boolean)
        ? value.map(nameOf).join(', ')
        : `${value.length}`;
  const o = value as { tempC?: number; humidityPct?: number };
  if (o.tempC !== undefined && o.humidityPct !== undefined) return airText(o.tempC, o.humidityPct, units);
  return Object.entries(value)
    .map(([, v]) => briefly(v, units))
    .join(', ');
}

/** What a thing in a list is called, where it has a name. */
const nameOf = (x: unknown): string | null => {
  const { name, id } = (x ?? {}) as { name?: unknown; id?: unknown };
  return typeof name === 'string' ? name : typeof id === 'string' && id.length <= 12 ? id : null;
};
