import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { setUnits } from '../app/units.js';
import { aNumber, isTyped, useKeptForm } from './use-kept-form.js';
import { lengthTurned } from './use-length.js';

beforeEach(() => {
  localStorage.clear();
  act(() => setUnits('metric'));
});
afterEach(cleanup);
const form = (from: string) => renderHook(() => useKeptForm({ name: 'kitchen.words', begin: () => ({ text: from }) })).result;
const textOf = (f: ReturnType<typeof form>) => f.current.form.getValues('text');

it('what is typed is there after a reload, and not any more once it was kept, or is as it was', () => {
  const one = form('mine');
  act(() => one.current.form.setValue('text', 'ours'));
  expect([textOf(form('mine')), isTyped('kitchen.words')]).toEqual(['ours', true]);
  // Kept by now, here or on another device: the form begins with something else.
  expect([textOf(form('ours')), textOf(form('theirs'))]).toEqual(['ours', 'theirs']);
  act(() => one.current.form.setValue('text', 'mine'));
  expect(isTyped('kitchen.words')).toBe(false);
});
it('is begun anew where it is left, and a spoilt store is taken as nothing typed', () => {
  const one = form('mine');
  act(() => one.current.form.setValue('text', 'ours'));
  act(() => one.current.beginAnew());
  expect([textOf(one), isTyped('kitchen.words')]).toEqual(['mine', false]);
  localStorage.setItem('kestfog.form.kitchen.words', '{oops');
  expect(textOf(form('mine'))).toBe('mine');
});
it('follows what it begins with; where that goes back, since it was refused, what was typed is there again', () => {
  const { result, rerender } = renderHook(({ from }) => useKeptForm({ name: 'kitchen.words', begin: () => ({ text: from }) }), {
    initialProps: { from: 'mine' },
  });
  act(() => result.current.form.setValue('text', 'ours'));
  rerender({ from: 'ours' });
  expect(textOf({ current: result.current })).toBe('ours');
  rerender({ from: 'theirs' });
  expect(textOf({ current: result.current })).toBe('theirs');
  rerender({ from: 'mine' });
  expect(textOf({ current: result.current })).toBe('ours');
});
it('another choice of units turns what is typed, there and back, and what was typed in others before a reload', () => {
  const begin = () =>
    renderHook(() =>
      useKeptForm({
        name: 'kitchen.side',
        begin: (units) => ({ side: units === 'us' ? '10' : '254' }),
        turned: ({ side }, from, to) => ({ side: lengthTurned(side, from, to, 1) }),
      }),
    );
  const { result, unmount } = begin();
  act(() => result.current.form.setValue('side', '203'));
  act(() => setUnits('us'));
  expect(result.current.form.getValues('side')).toBe('7.992');
  act(() => setUnits('metric'));
  expect(result.current.form.getValues('side')).toBe('203');
  unmount();
  act(() => setUnits('us'));
  expect(begin().result.current.form.getValues('side')).toBe('7.992');
});
it('a number is refused in words, with a comma or a point', () => {
  const { validate } = aNumber(0, 10, 'The price', 'EUR');
  expect([validate('1,5'), validate('1.5'), validate(''), validate('11')]).toEqual([
    true,
    true,
    'The price must be a number.',
    'The price goes from 0 to 10 EUR.',
  ]);
});
