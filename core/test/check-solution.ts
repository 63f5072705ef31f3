/**
 * Independent checker: plain loops over the problem as it stands in the file, sharing nothing with the engine.
 * Returns every broken constraint in words; empty means the schedule keeps them all.
 */
interface Json {
  resources: { id: string; capacity: number; closed?: [number, number][]; changeover?: number }[];
  tasks: {
    id: string;
    duration: number;
    uses?: Record<string, number>;
    family?: string | null;
    release?: number | null;
    due?: number | null;
  }[];
  links: { from: string; to: string; anchor?: string; min: number; max?: number | null; soft?: number | null }[];
  holds?: { resource: string; from: string; to: string; amount: number }[];
  horizon?: number;
}

export function brokenConstraints(p: Json, start: Readonly<Record<string, number>>): string[] {
  const out: string[] = [];
  const at = (id: string) => start[id] ?? Number.NaN;
  const task = new Map(p.tasks.map((t) => [t.id, t]));
  for (const t of p.tasks) {
    if (p.horizon !== undefined && at(t.id) + t.duration > p.horizon) out.push(`${t.id} ends after the horizon`);
    if (!Number.isInteger(at(t.id)) || at(t.id) < (t.release ?? 0)) out.push(`${t.id} starts at ${at(t.id)} before its release`);
    for (const [r, amount] of Object.entries(t.uses ?? {})) {
      for (const [from, to] of p.resources.find((x) => x.id === r)?.closed ?? []) {
        if (amount > 0 && at(t.id) < to && at(t.id) + t.duration > from) out.push(`${t.id} runs while ${r} is closed`);
      }
    }
  }
  for (const l of p.links) {
    const anchor = at(l.from) + (l.anchor === 'start' ? 0 : (task.get(l.from)?.duration ?? 0));
    if (at(l.to) < anchor + l.min) out.push(`${l.from} → ${l.to} is short of its minimum`);
    if (l.max !== undefined && l.max !== null && !l.soft && at(l.to) > anchor + l.max) out.push(`${l.from} → ${l.to} exceeds its maximum`);
  }
  for (const r of p.resources) {
    const users = p.tasks.filter((t) => (t.uses?.[r.id] ?? 0) > 0);
    const held = (p.holds ?? []).filter((h) => h.resource === r.id);
    const heldAt = (s: number) =>
      held.filter((h) => at(h.from) <= s && s < at(h.to) + (task.get(h.to)?.duration ?? 0)).reduce((sum, h) => sum + h.amount, 0);
    for (const t of users) {
      const load =
        users.filter((u) => at(u.id) <= at(t.id) && at(t.id) < at(u.id) + u.duration).reduce((s, u) => s + (u.uses?.[r.id] ?? 0), 0) +
        heldAt(at(t.id));
      if (load > r.capacity) out.push(`${r.id} carries ${load} of ${r.capacity} when ${t.id} starts`);
    }
    for (const h of held) {
      const load =
        users.filter((u) => at(u.id) <= at(h.from) && at(h.from) < at(u.id) + u.duration).reduce((s, u) => s + (u.uses?.[r.id] ?? 0), 0) +
        heldAt(at(h.from));
      if (load > r.capacity) out.push(`${r.id} carries ${load} of ${r.capacity} when ${h.from} takes it`);
    }
    if (!r.changeover) continue;
    const order = [...users].sort((a, b) => at(a.id) - at(b.id) || a.duration - b.duration);
    for (const [i, b] of order.entries()) {
      const a = order[i - 1];
      if (a?.family && b.family && a.family !== b.family && at(b.id) < at(a.id) + a.duration + r.changeover)
        out.push(`no changeover between ${a.id} and ${b.id}`);
    }
  }
  return out;
}
