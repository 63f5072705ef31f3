import { useSyncExternalStore } from 'react';

/** Metric or US, remembered on this device. */
export type Units = 'metric' | 'us';
const KEY = 'kestfog.units';
const listeners = new Set<() => void>();
const read = (): Units => (localStorage.getItem(KEY) === 'us' ? 'us' : 'metric');

export function useUnits(): [Units, (units: Units) => void] {
  const units = useSyncExternalStore((on) => {
    listeners.add(on);
    return () => listeners.delete(on);
  }, read);
  return [units, setUnits];
}

export function setUnits(next: Units): void {
  localStorage.setItem(KEY, next);
  for (const l of listeners) l();
}
