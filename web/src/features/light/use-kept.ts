import { useState } from 'react';

/** Something of this device alone, kept over reloads; what cannot be read begins anew. */
export function useKept<T>(key: string, first: T, isSound: (value: unknown) => value is T): readonly [T, (value: T) => void] {
  const read = (): T => {
    try {
      const value: unknown = JSON.parse(localStorage.getItem(key) ?? 'null');
      return isSound(value) ? value : first;
    } catch {
      return first;
    }
  };
  const [state, setState] = useState({ key, value: read() });
  // Another key has something else kept under it.
  const value = state.key === key ? state.value : read();
  const keep = (next: T) => {
    localStorage.setItem(key, JSON.stringify(next));
    setState({ key, value: next });
  };
  return [value, keep];
}
