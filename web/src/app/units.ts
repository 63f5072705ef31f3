import { useSyncExternalStore } from 'react';
import { usersLocale } from './users-locale.js';

/** Metric or US: what is usual where this device's language is spoken, until it is said otherwise on it. */
export type Units = 'metric' | 'us';
const KEY = 'kestfog.units';
const listeners = new Set<() => void>();

/** Regions that measure in US units (Unicode CLDR, measurementSystem "US"; from memory). */
const US_REGIONS: readonly string[] = ['US', 'LR', 'PR', 'GU', 'AS', 'MP', 'VI', 'UM'];
export function unitsOfLanguage(language?: string): Units {
  const { region } = usersLocale(language);
  return region && US_REGIONS.includes(region) ? 'us' : 'metric';
}
const read = (): Units => {
  const said = localStorage.getItem(KEY);
  return said === 'us' || said === 'metric' ? said : unitsOfLanguage();
};

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
