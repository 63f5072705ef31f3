import { useSyncExternalStore } from 'react';
import { usersLocale } from './users-locale.js';

/** A clock of twelve or of twenty-four hours: what this device's language has, until it is said otherwise on it. */
export type ClockHours = 12 | 24;
const KEY = 'kestfog.clock';
const listeners = new Set<() => void>();

let ofLanguage: ClockHours | undefined;
/** By the language of the browser (Unicode CLDR, as Intl has it). */
function hoursOfLanguage(): ClockHours {
  ofLanguage ??= new Intl.DateTimeFormat(undefined, { hour: 'numeric' }).resolvedOptions().hour12 ? 12 : 24;
  return ofLanguage;
}

export function hoursOfClock(): ClockHours {
  const said = localStorage.getItem(KEY);
  return said === '12' ? 12 : said === '24' ? 24 : hoursOfLanguage();
}

export function setClock(hours: ClockHours): void {
  localStorage.setItem(KEY, String(hours));
  for (const l of listeners) l();
}

export const useClockHours = (): ClockHours =>
  useSyncExternalStore((on) => {
    listeners.add(on);
    return () => listeners.delete(on);
  }, hoursOfClock);

/** The day a week begins with, Monday 0 to Sunday 6, by the language of the browser (Unicode CLDR); Monday where it does not say. */
export function firstDayOfWeek(language?: string): number {
  const locale = usersLocale(language) as Intl.Locale & { getWeekInfo?: () => { firstDay: number }; weekInfo?: { firstDay: number } };
  return ((locale.getWeekInfo?.() ?? locale.weekInfo)?.firstDay ?? 1) - 1;
}
