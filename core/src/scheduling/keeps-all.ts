import { fitCalendar, type Model } from './model.js';

/** Whether a schedule keeps every lag, release, calendar, capacity and changeover: read off the schedule itself. */
export function keepsAll(m: Model, start: readonly number[]): boolean {
  for (let v = 0; v < m.n; v++) {
    const s = start[v];
    const d = m.duration[v];
    if (s < m.release[v] || s + d > m.horizon || fitCalendar(m.closed[v], d, s) !== s) return false;
  }
  for (const a of m.arcs) if (start[a.to] < start[a.from] + a.weight) return false;
  for (const [r, resource] of m.resources.entries()) {
    const users: { v: number; amount: number }[] = [];
    for (let v = 0; v < m.n; v++) {
      const d = m.demands[v].find((x) => x.resource === r);
      if (d) users.push({ v, amount: d.amount });
    }
    const end = (v: number) => start[v] + m.duration[v];
    const held = m.holds.filter((h) => h.resource === r);
    users.sort((a, b) => start[a.v] - start[b.v] || end(a.v) - end(b.v));
    if (resource.capacity === 1 && held.length === 0) {
      for (let i = 1; i < users.length; i++) {
        const [a, b] = [users[i - 1].v, users[i].v];
        const [fa, fb] = [m.family[a], m.family[b]];
        const gap = fa >= 0 && fb >= 0 && fa !== fb ? resource.changeover : 0;
        if (start[b] < end(a) + gap) return false;
      }
      continue;
    }
    const spans = [
      ...users.map((u) => ({ from: start[u.v], to: end(u.v), amount: u.amount })),
      ...held.map((h) => ({ from: start[h.from], to: end(h.to), amount: h.amount })),
    ];
    const events = spans
      .filter((x) => x.to > x.from)
      .flatMap((x) => [
        { at: x.from, change: x.amount },
        { at: x.to, change: -x.amount },
      ]);
    events.sort((a, b) => a.at - b.at || a.change - b.change);
    let load = 0;
    for (const e of events) {
      load += e.change;
      if (load > resource.capacity) return false;
    }
  }
  return true;
}
