import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { setUnits } from '../app/units.js';
import { useLength } from './use-length.js';

beforeEach(() => act(() => setUnits('metric')));
afterEach(cleanup);
const field = (mm: number) => renderHook(() => useLength(mm, [2, 100], 'The height')).result;

it('another choice of units turns what stands there, and the length stays', () => {
  const height = field(8);
  expect(height.current).toMatchObject({ text: '8', unit: 'mm', mm: 8 });
  act(() => setUnits('us'));
  // Read as inches the old "8" would be 203 mm.
  expect(height.current).toMatchObject({ text: '0.315', unit: 'in', mm: 8 });
  act(() => expect(height.current.onText('0,5')).toBeCloseTo(12.7, 6));
  act(() => setUnits('metric'));
  expect(height.current).toMatchObject({ text: '12.7', unit: 'mm' });
  expect(height.current.mm).toBeCloseTo(12.7, 6);
});

it('what cannot be used stays as typed, gives no length, and the limits are said in the unit typed', () => {
  const height = field(8);
  act(() => setUnits('us'));
  act(() => expect(height.current.onText('8')).toBeNull());
  expect(height.current).toMatchObject({ text: '8', mm: null, typed: { problem: 'The height goes from 0.079 to 3.937 in.' } });
  act(() => height.current.setMm(25.4));
  expect(height.current).toMatchObject({ text: '1', mm: 25.4 });
});
