import type { RunPlan } from '../bench/index.js';
import { type Air, airInDehydrator, dryingRate, lossAfter, stateThresholds, waitFactor, windowFactor } from '../drying/index.js';
import type { Plan, PlanTask } from '../formats/index.js';
import { areaMm2, boundingBox, boxesMeet, intersection, offset } from '../geometry/index.js';
import { shapeAt } from '../planning/tray-packing.js';
import type { Bag } from '../steps/index.js';
import { reasonOf } from '../wording/why.js';

/** From when to when a bag lies open, or is in hand; seconds. */
interface OpenBag {
  readonly fromS: number;
  readonly toS: number;
}

/** A bag lies open from its last use, or from when its tray was prepared, to its next unless the plan says it is opened anew. */
function bagsLyingOpen(plan: RunPlan, most: number): string[] {
  const out: string[] = [];
  const open: OpenBag[] = [];
  for (const who of plan.order.decorators) {
    const lastS = new Map<string, number>();
    const own = plan.tasks.filter((t) => t.by === who.id).sort((a, b) => a.startS - b.startS);
    for (const t of own) {
      const name = (b: Bag) => `${b.colour} ${b.seconds}`;
      const lot = plan.trays.flatMap((x) => x.lots).find((l) => l.id === t.lotId);
      const graph = plan.designs.find((d) => d.id === lot?.designId)?.graph;
      if (t.kind === 'prepare') for (const s of graph?.steps ?? []) if (s.bag) lastS.set(name(s.bag), t.endS);
      const opened = new Set(t.opening?.bags.map(name));
      if (t.motions.some((m) => m.startS.some((s) => s < (t.opening?.seconds ?? 0)))) out.push(`${t.id} begins before its bags are open`);
      for (const b of t.bags) {
        const last = lastS.get(name(b));
        if (last === undefined && !opened.has(name(b))) out.push(`${t.id} takes up a bag that nobody opened`);
        open.push({ fromS: opened.has(name(b)) ? t.startS : (last ?? t.startS), toS: t.endS });
        lastS.set(name(b), t.endS);
      }
    }
  }
  for (const { fromS } of open) {
    const there = open.filter((o) => o.fromS <= fromS && fromS < o.toS).length;
    if (there > most) out.push(`${there} bags lie open at ${fromS}, and there may be ${most}`);
  }
  return out;
}

/**
 * Checks a plan against the trade's own rules on every single cookie, from the plan's clock times alone: not against
 * the problem the planner wrote. A plan that says it is late may be worked on after the last closing, and packed after it is due. `room`
 * is the room's air where it changed. Returns every broken rule in words.
 */
export function brokenRules(plan: RunPlan, room: readonly { readonly fromS: number; readonly air: Air }[] = []): string[] {
  const lossBetween = (_: Plan, trayId: string, fromS: number, toS: number) => lossThroughRoom(plan, room, trayId, fromS, toS);
  const out: string[] = [];
  const { order } = plan;
  for (const t of plan.tasks) {
    const spillsOver = plan.late !== null && t.startS >= Math.max(...plan.openingHours.map(([from]) => from));
    if (!spillsOver && !plan.openingHours.some(([from, to]) => from <= t.startS && t.endS <= to))
      out.push(`${t.id} is worked while the bench is closed`);
    for (const p of order.pins) {
      if (p.kind === 'away' && (p.who === null || p.who === t.by) && t.startS < p.to && t.endS > p.from)
        out.push(`${t.id} is worked during ${p.label}`);
      if (p.kind === 'not-before' && p.tray === t.trayId && t.startS < p.at) out.push(`${t.id} is worked before tray ${p.tray} may be`);
    }
    if (!order.decorators.some((d) => d.id === t.by)) out.push(`${t.id} has nobody's hands`);
    const others = plan.tasks.filter((o) => o.trayId === t.trayId && o.by !== t.by);
    if (others.length > 0) out.push(`tray ${t.trayId} passes from hand to hand`);
  }
  for (const p of order.pins) {
    if (p.kind !== 'tray-first' || !plan.trays.some((t) => t.id === p.tray && t.lots.length > 0)) continue;
    const begun = (tray: string) => Math.min(...plan.tasks.filter((t) => t.trayId === tray).map((t) => t.startS));
    for (const t of plan.trays)
      if (t.lots.length > 0 && begun(t.id) < begun(p.tray)) out.push(`tray ${t.id} is begun before tray ${p.tray}`);
  }
  for (const who of order.decorators) {
    const own = plan.tasks.filter((t) => t.by === who.id).sort((x, y) => x.startS - y.startS);
    own.forEach((t, i) => {
      const before = own[i - 1];
      if (before && t.startS < before.endS) out.push(`${t.id} needs hands that are at ${before.id}`);
    });
  }
  if (order.openBags !== null) out.push(...bagsLyingOpen(plan, order.openBags));
  for (const t of plan.tasks) {
    const bags = plan.tasks.filter((o) => o.startS <= t.startS && t.startS < o.endS).reduce((sum, o) => sum + o.bags.length, 0);
    if (order.openBags !== null && bags > order.openBags)
      out.push(`${bags} bags are open at ${t.startS}, and there may be ${order.openBags}`);
  }
  for (const s of plan.stays) {
    const there = plan.stays.filter((o) => o.where === s.where && o.startS <= s.startS && s.startS < o.endS).length;
    if (there > (order[s.where]?.places ?? 0)) out.push(`${there} trays are at one ${s.where} at ${s.startS}`);
    for (const t of plan.tasks)
      if (t.trayId === s.trayId && t.kind !== 'carry' && t.startS < s.endS && t.endS > s.startS)
        out.push(`${t.id} is worked while tray ${s.trayId} is at the ${s.where}`);
    // Its last wet visit has ended before it is carried, and hands are there to take it away.
    const first = (t: PlanTask) => t.round < s.round || (t.round === s.round && (s.batch === null || t.batch <= s.batch));
    if (plan.tasks.some((t) => t.trayId === s.trayId && t.kind === 'wet' && first(t) && t.endS > s.startS))
      out.push(`tray ${s.trayId} is carried wet`);
    const taker = plan.tasks.find((t) => t.kind === 'take-out' && t.trayId === s.trayId && t.endS > s.startS);
    if (taker?.startS !== s.endS) out.push(`nobody takes tray ${s.trayId} away from the ${s.where}`);
  }
  for (const d of plan.designs) {
    const made = plan.trays
      .flatMap((t) => t.lots)
      .filter((l) => l.designId === d.id)
      .reduce((sum, l) => sum + l.cookies, 0);
    if (made !== d.count + d.spares) out.push(`${made} of ${d.id} are made, not ${d.count + d.spares}`);
    const due = d.packBy ?? plan.packBy;
    for (const t of plan.tasks)
      if (
        t.kind === 'pack' &&
        plan.late === null &&
        due !== null &&
        plan.trays.some((x) => x.lots.some((l) => l.id === t.lotId && l.designId === d.id)) &&
        t.endS > due
      )
        out.push(`${t.id} is packed late`);
  }
  for (const [i, t] of order.trays.entries()) {
    const lots = plan.trays[i]?.lots ?? [];
    const on = lots.reduce((sum, l) => sum + l.cookies, 0);
    if (t.places !== undefined) {
      if (on > t.places) out.push(`${on} cookies on tray ${t.id} with ${t.places} places`);
      const places = lots.flatMap((l) => [...Array(l.cookies).keys()].map((k) => l.firstPlace + k));
      if (new Set(places).size !== places.length || places.some((x) => x >= (t.places as number)))
        out.push(`two cookies on one place of tray ${t.id}`);
      continue;
    }
    // Every cookie lies on the tray, and a hand's gap from every other.
    const laid = lots.flatMap((l) =>
      (l.at ?? []).map((at) => shapeAt(plan.designs.find((d) => d.id === l.designId)?.drawing.cookie ?? [], at)),
    );
    if (laid.length !== on) out.push(`nobody says where the cookies of tray ${t.id} lie`);
    for (const [k, shape] of laid.entries()) {
      const box = boundingBox(shape.flat());
      if (box.minX < -0.01 || box.minY < -0.01 || box.maxX > t.widthMm + 0.01 || box.maxY > t.depthMm + 0.01)
        out.push(`a cookie hangs over tray ${t.id}`);
      const wide = offset(shape, order.handGapMm - 0.02);
      for (const other of laid.slice(0, k))
        if (boxesMeet(boundingBox(wide.flat()), boundingBox(other.flat())) && areaMm2(intersection(wide, other)) > 0.5)
          out.push(`two cookies of tray ${t.id} lie too close`);
    }
  }
  for (const tray of plan.trays) {
    for (const lot of tray.lots) {
      const design = plan.designs.find((d) => d.id === lot.designId);
      if (!design) continue;
      for (let cookie = 0; cookie < lot.cookies; cookie++) {
        // A cookie that left the run half-way keeps no rules any more.
        if (plan.tasks.some((t) => t.lotId === lot.id && t.without?.includes(cookie))) continue;
        const at = new Map<string, { startS: number; endS: number }>();
        for (const t of plan.tasks) {
          if (t.lotId !== lot.id || cookie < t.cookies[0] || cookie >= t.cookies[1]) continue;
          // What is piped in relief on a crust is no wet work any more; a drop into a wet bead is.
          const onCrust = (stepId: string) => {
            const body = design.graph.steps.find((s) => s.id === stepId)?.sectionId;
            return (
              t.kind === 'detail' &&
              !t.motions.some((o) => o.kind === 'detail' && design.graph.steps.some((s) => s.id === o.stepId && s.part === body))
            );
          };
          for (const m of t.motions) if (m.kind !== 'mark' || !onCrust(m.stepId)) at.set(m.stepId, motionAt(t, m, cookie));
        }
        for (const s of design.graph.steps) if (!at.has(s.id)) out.push(`${lot.id} cookie ${cookie}: ${s.id} is never done`);
        const leftAlone = (stepId: string): number => {
          const step = design.graph.steps.find((s) => s.id === stepId);
          const own = at.get(stepId)?.endS ?? Number.NaN;
          if (!step || step.kind === 'dam') return own;
          const inIt = design.graph.steps.filter((s) => s.kind === 'mark' && s.inside.some((id) => step.parts.includes(id)));
          return Math.max(own, ...inIt.map((s) => at.get(s.id)?.endS ?? 0));
        };
        const workOf = (stepId: string) =>
          plan.tasks.find(
            (t) => t.lotId === lot.id && cookie >= t.cookies[0] && cookie < t.cookies[1] && t.motions.some((m) => m.stepId === stepId),
          );
        for (const g of design.graph.gaps) {
          const from = at.get(g.from);
          const to = at.get(g.to);
          if (!from || !to) continue;
          const where = `${lot.id} cookie ${cookie}: ${reasonOf(g)}`;
          // A large flood and its outline take turns: each part of the outline has its part of the flood at once.
          const parts = g.rule === 'outline-then-flood' && g.maxState ? workOf(g.to)?.parts : undefined;
          if (parts && g.maxState && g.maxLossKgPerM2 !== undefined) {
            const each = (to.endS - from.startS) / parts;
            const lost = lossBetween(plan, tray.id, from.startS, from.startS + each);
            if (from.startS > to.startS || lost > g.maxLossKgPerM2 * windowFactor(g.maxState, plan.margin, plan.factors) * 1.0005)
              out.push(`${where} (a part thickens)`);
            continue;
          }
          if (g.minSeconds !== undefined && to.startS < from.endS + g.minSeconds - 0.51)
            out.push(`${where} (in the wrong order or too soon)`);
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
            const margin = g.careful ? 'careful' : plan.margin;
            const asFirm =
              g.firmLossKgPerM2 !== undefined &&
              lost >= Math.max(g.minLossKgPerM2, g.firmLossKgPerM2) * waitFactor('firm', margin, plan.factors) * 0.9995;
            if (!asFirm && lost < g.minLossKgPerM2 * waitFactor(g.minState, margin, plan.factors) * 0.9995)
              out.push(`${where} (${Math.round((100 * lost) / g.minLossKgPerM2)} % of the way)`);
          }
          if (g.maxSeconds !== undefined && to.endS > from.endS + g.maxSeconds + 0.51) out.push(`${where} (its minutes were over)`);
          if (g.maxState && g.maxLossKgPerM2 !== undefined) {
            // The first part of a large flood thickens first.
            const flood = workOf(g.from);
            const firstS = flood?.motions.find((m) => m.stepId === g.from)?.firstPartS?.[cookie - flood.cookies[0]];
            const laidS = flood && firstS !== undefined ? flood.startS + firstS : from.endS;
            const lost = lossBetween(plan, tray.id, laidS, to.endS);
            if (lost > g.maxLossKgPerM2 * windowFactor(g.maxState, plan.margin, plan.factors) * 1.0005)
              out.push(`${where} (the window was shut)`);
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

/** Water lost between two moments, stepping through the air of bench, fan and dehydrator, and through the room's own changes. */
function lossThroughRoom(
  plan: Plan,
  room: readonly { readonly fromS: number; readonly air: Air }[],
  trayId: string,
  fromS: number,
  toS: number,
): number {
  const stays = plan.stays.filter((s) => s.trayId === trayId);
  const edges = [fromS, toS, ...stays.flatMap((s) => [s.startS, s.endS]), ...room.map((r) => r.fromS)]
    .filter((s) => s >= fromS && s <= toS)
    .sort((a, b) => a - b);
  let m = 0;
  for (let i = 1; i < edges.length; i++) {
    const [a, b] = [edges[i - 1] as number, edges[i] as number];
    const stay = stays.find((s) => s.startS <= a && b <= s.endS);
    const read = room.filter((r) => r.fromS <= a).at(-1)?.air;
    let air = read ?? plan.air;
    if (stay?.where === 'fan')
      air = read ? { ...read, airMPerS: Math.max(read.airMPerS, plan.order.fan?.airMPerS ?? 0) } : (plan.fanAir ?? plan.air);
    if (stay?.where === 'dehydrator')
      air =
        read && plan.order.dehydrator
          ? airInDehydrator(read, plan.order.dehydrator.tempC, plan.order.dehydrator.airMPerS)
          : (plan.dehydratorAir ?? plan.air);
    m = lossAfter(dryingRate(air), m, b - a);
  }
  return m;
}
