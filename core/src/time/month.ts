/**
 * The month a moment lies in where somebody lives, such as "2026-06": an evening's last hours may be the next month's elsewhere.
 *
 * @param zone its name in the IANA time zone database
 * @throws RangeError where there is no such zone
 */
export function monthIn(ms: number, zone: string): string {
  const parts = new Intl.DateTimeFormat('en', { timeZone: zone, calendar: 'iso8601', year: 'numeric', month: '2-digit' }).formatToParts(ms);
  const part = (type: 'year' | 'month') => parts.find((p) => p.type === type)?.value ?? '';
  return `${part('year')}-${part('month')}`;
}
