import { expect, it } from 'vitest';
import { waitsToGo } from './index.js';
import type { Entry } from './outbox.js';

const entry = (method: Entry['request']['method'], path: string, refused: Entry['refused'] = null): Entry => ({
  id: `${method} ${path}`,
  queue: 'typed',
  kind: 'write',
  what: '',
  place: '/',
  order: '1',
  notBeforeMs: 0,
  request: { method, path, body: undefined },
  quietCodes: [],
  refused,
});
const gone = entry('DELETE', '/leftovers/1');
const back = entry('POST', '/leftovers/1/restore');

it('what waits to be taken away is gone from its list, until it waits to be put back as well', () => {
  expect(waitsToGo([gone], '/leftovers/1')).toBe(true);
  expect(waitsToGo([gone], '/leftovers/2')).toBe(false);
  expect(waitsToGo([gone, back], '/leftovers/1')).toBe(false);
  expect(waitsToGo([gone, back, gone], '/leftovers/1')).toBe(true);
  expect(waitsToGo([entry('DELETE', '/leftovers/1', { code: 'no', reason: 'It was refused.' })], '/leftovers/1')).toBe(false);
});
