import { dryingRate, lossAfter, type Plan, type PlanTask, stateThresholds, waitFactor, windowFactor } from '../src/index.js';

/**
 * Checks a plan against the trade's own rules on every single cookie, from the plan's clock times alone: not against
 * the problem the planner wrote. Returns every broken rule in words.
 */
export function brokenRules(plan: Plan): string[] {
  const out: string[] = [];
  for (const t of plan.tasks) {
    if (!plan.bench.some(([from, to]) => from <= t.startS && t.endS <= to)) out.push(`${t.id} is worked while the bench is closed`);
  }
  const byTime = [...plan.tasks].sort((a, b) => a.startS - b.startS);
  byTime.forEach((t, i) => {
    const before = byTime[i - 1];
    if (before && t.startS < before.endS) out.push(`${t.id} needs hands that are at ${before.id}`);
  });
  for (const s of plan.stays) {
    const places = plan.stays.filter((o) => o.startS <= s.startS && s.startS < o.endS).length;
    if (places > 1) out.push(`${places} trays stand before one fan at ${s.startS}`);
    for (const t of plan.tasks)
      if (t.trayId === s.trayId && t.kind !== 'carry' && t.startS < s.endS && t.endS > s.startS)
        out.push(`${t.id} is worked while tray ${s.trayId} is at the fan`);
  }
  for (const tray of plan.trays) {
    for (const lot of tray.lots) {
      const design = plan.designs.find((d) => d.id === lot.designId);
      if (!design) continue;
      for (let cookie = 0; cookie < lot.cookies; cookie++) {
        const at = new Map<string, { startS: number; endS: number }>();
        for (const t of plan.tasks) {
          if (t.lotId !== lot.id || cookie < t.cookies[0] || cookie >= t.cookies[1]) continue;
          for (const m of t.motions) at.set(m.stepId, motionAt(t, m, cookie));
        }
        for (const s of design.graph.steps) if (!at.has(s.id)) out.push(`${lot.id} cookie ${cookie}: ${s.id} is never done`);
        const leftAlone = (stepId: string): number => {
          const step = design.graph.steps.find((s) => s.id === stepId);
          const own = at.get(stepId)?.endS ?? Number.NaN;
          if (step?.kind !== 'flood') return own;
          return Math.max(own, ...design.graph.steps.filter((s) => s.sectionId === step.part && s.kind !== 'dam').map((s) => at.get(s.id)?.endS ?? 0));
        };
        for (const g of design.graph.gaps) {
          const from = at.get(g.from);
          const to = at.get(g.to);
          if (!from || !to) continue;
          const where = `${lot.id} cookie ${cookie}: ${g.reason}`;
          if (g.minSeconds !== undefined && to.startS < from.endS + g.minSeconds - 0.51) out.push(`${where} (in the wrong order or too soon)`);
          if (g.oneBody && g.minLossKgPerM2 !== undefined && g.maxLossKgPerM2 !== undefined) {
            // Both ends are this body's own: inside the medians, whatever the margin, for the touch and for its end.
            const learned = Math.exp(plan.factors[g.minState ?? 'crusted'].mean);
            const left = leftAlone(g.from);
            if (lossBetween(plan, tray.id, left, to.startS) < g.minLossKgPerM2 * learned * 0.9995) out.push(`${where} (not open yet)`);
            if (lossBetween(plan, tray.id, left, to.endS) > g.maxLossKgPerM2 * learned * 1.0005) out.push(`${where} (the window was shut)`);
            continue;
          }
          if (g.minState && g.minLossKgPerM2 !== undefined) {
            const lost = lossBetween(plan, tray.id, leftAlone(g.from), to.startS);
            if (lost < g.minLossKgPerM2 * waitFactor(g.minState, plan.margin, plan.factors) * 0.9995)
              out.push(`${where} (${Math.round((100 * lost) / g.minLossKgPerM2)} % of the way)`);
          }
          if (g.maxState && g.maxLossKgPerM2 !== undefined) {
            const lost = lossBetween(plan, tray.id, from.endS, to.endS);
            if (lost > g.maxLossKgPerM2 * windowFactor(g.maxState, plan.margin, plan.factors) * 1.0005) out.push(`${where} (the window was shut)`);
          }
        }
        for (const a of design.graph.sections) {
          for (const id of a.touches) {
            // Whoever is flooded second must not meet a neighbour still wet.
            const floodOf = (part: string) => design.graph.steps.find((s) => s.kind === 'flood' && s.part === part);
            const [one, other] = [floodOf(a.id), floodOf(id)];
            const first = at.get(one?.id ?? '');
            const second = at.get(other?.id ?? '');
            const region = one?.region;
            if (!one || !first || !second || !region || second.startS < first.startS) continue;
            // A flush group lies level on purpose.
            if (design.graph.sections.find((f) => f.id === id)?.round === a.round) continue;
            if (lossBetween(plan, tray.id, leftAlone(one.id), second.startS) < stateThresholds(region).skinned)
              out.push(`${lot.id} cookie ${cookie}: ${a.id} and ${id} are wet together`);
          }
        }
      }
    }
  }
  return out;
}

const motionAt = (t: PlanTask, m: PlanTask['motions'][number], cookie: number) => ({
  startS: t.startS + (m.startS[cookie - t.cookies[0]] as number),
  endS: t.startS + (m.endS[cookie - t.cookies[0]] as number),
});

/** Water lost between two moments, stepping through bench and fan air. */
function lossBetween(plan: Plan, trayId: string, fromS: number, toS: number): number {
  const edges = [fromS, toS, ...plan.stays.filter((s) => s.trayId === trayId).flatMap((s) => [s.startS, s.endS])]
    .filter((s) => s >= fromS && s <= toS)
    .sort((a, b) => a - b);
  let m = 0;
  for (let i = 1; i < edges.length; i++) {
    const [a, b] = [edges[i - 1] as number, edges[i] as number];
    const atFan = plan.stays.some((s) => s.trayId === trayId && s.startS <= a && b <= s.endS);
    m = lossAfter(dryingRate(atFan && plan.fanAir ? plan.fanAir : plan.air), m, b - a);
  }
  return m;
}
