import { expect, it } from 'vitest';
import { arrowStep } from './arrow-step.js';

it('an arrow moves by a step, with Shift far; any other key by nothing', () => {
  expect(arrowStep({ key: 'ArrowLeft', shiftKey: false }, 0.5, 4)).toEqual({ x: -0.5, y: 0 });
  expect(arrowStep({ key: 'ArrowDown', shiftKey: true }, 0.5, 4)).toEqual({ x: 0, y: 4 });
  expect(arrowStep({ key: 'a', shiftKey: false }, 1, 20)).toBeNull();
});
