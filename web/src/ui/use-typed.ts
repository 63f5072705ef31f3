import { useState } from 'react';

const keyOf = (field: string): string => `kestfog.typed.${field}`;

/** What was typed into a field that began with the same, and not kept yet; undefined where there is none. */
function typedBefore<T>(field: string, from: string): T | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(field)) ?? 'null') as { readonly from: string; readonly value: T } | null;
    return kept?.from === from ? kept.value : undefined;
  } catch {
    return undefined;
  }
}

/**
 * As `useState`, and what is typed is there again after a reload or a closed tab: kept on this device under the name of the field, until
 * what the field begins with is another, as it is once it was kept.
 */
export function useTyped<T>(field: string, from: T): readonly [T, (value: T) => void] {
  const [start] = useState(() => JSON.stringify(from));
  const [value, setValue] = useState<T>(() => typedBefore<T>(field, start) ?? from);
  const type = (next: T) => {
    setValue(next);
    try {
      if (JSON.stringify(next) === start) localStorage.removeItem(keyOf(field));
      else localStorage.setItem(keyOf(field), JSON.stringify({ from: start, value: next }));
    } catch {
      // A browser that keeps nothing: the field itself still has it.
    }
  };
  return [value, type];
}
