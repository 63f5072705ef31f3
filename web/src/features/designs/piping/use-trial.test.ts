import { expect, it } from 'vitest';
import { addedWaitS } from './use-trial.js';

it('what a stroke makes the cookie wait is apart from its own work; less than a minute is none', () => {
  const was = { handsOnS: 60, throughS: 7200 };
  expect(addedWaitS(was, { handsOnS: 90, throughS: 9030 })).toBe(1800);
  expect(addedWaitS(was, { handsOnS: 90, throughS: 7260 })).toBe(0);
  expect(addedWaitS(was, { handsOnS: 90, throughS: null })).toBeNull();
});
