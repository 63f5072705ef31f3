import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { useTyped } from './use-typed.js';

beforeEach(() => localStorage.clear());
afterEach(cleanup);
const field = (from: string) => renderHook(() => useTyped('kitchen.recipe', from)).result;

it('what is typed is there after a reload, and not any more once it was kept, or is as it was', () => {
  const one = field('mine');
  act(() => one.current[1]('ours'));
  expect(field('mine').current[0]).toBe('ours');
  // Kept by now, here or on another device: the field begins with something else.
  expect(field('ours').current[0]).toBe('ours');
  expect(field('theirs').current[0]).toBe('theirs');
  act(() => one.current[1]('mine'));
  expect(localStorage.length).toBe(0);
});
it('a spoilt store is taken as nothing typed', () => {
  localStorage.setItem('kestfog.typed.kitchen.recipe', '{oops');
  expect(field('mine').current[0]).toBe('mine');
});
