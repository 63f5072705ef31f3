import { beforeAll, expect, it } from 'vitest';
import { setClock } from '../app/clock.js';
import { briefly } from './briefly.js';

beforeAll(() => setClock(24));

it('two of a thing are named in a word or two, whatever they are', () => {
  expect(briefly('Theirs', 'metric')).toBe('Theirs');
  expect(briefly({ tempC: 22, humidityPct: 47, airMPerS: 0.1 }, 'metric')).toMatch(/22 °C.*47 %/);
  expect(briefly({ tempC: 22, humidityPct: 47, airMPerS: 0.1 }, 'us')).toMatch(/72 °F/);
  expect(briefly([{ id: 'A' }, { id: 'B' }], 'metric')).toBe('A, B');
  expect(briefly([{ designId: 'x', count: 3 }], 'metric')).toBe('1');
  expect(briefly([], 'metric')).toBe('none');
  expect(briefly(null, 'metric')).toBe('nothing');
  expect(briefly({ currency: '€', handsPerHour: 28.456 }, 'metric')).toBe('€, 28.46');
  expect(briefly('2026-06-06T19:00:00Z', 'metric')).toMatch(/19:00/);
});
