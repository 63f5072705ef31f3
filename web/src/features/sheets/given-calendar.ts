import { type GivenEvent, givenEvents, type InCalendar, plansCalendar } from '@kestfog/core/calendar';

const keyOf = (orderId: string): string => `kestfog.calendar.${orderId}`;

function givenBefore(orderId: string): readonly GivenEvent[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(orderId)) ?? '[]');
    return Array.isArray(kept) ? (kept as readonly GivenEvent[]) : [];
  } catch {
    return [];
  }
}

/**
 * The calendar file of an order. What files saved on this device before have given and the plan has no longer is cancelled in it, each
 * time anew: nobody knows which of the files a calendar took up.
 */
export function calendarFile(plan: InCalendar, name: string): string {
  const before = givenBefore(plan.id);
  const file = plansCalendar([plan], name, before);
  const now = givenEvents(plan);
  const gone = before.filter((b) => !now.some((e) => e.uid === b.uid));
  try {
    localStorage.setItem(keyOf(plan.id), JSON.stringify([...now, ...gone]));
  } catch {
    // A browser that keeps nothing: the file is whole, only later ones cancel nothing.
  }
  return file;
}
