import type { Design, Part, PipedLine, Section } from '../src/design/index.js';
import { dryingRate, lossAfter, stateThresholds, waitFactor } from '../src/drying/index.js';
import type { Plan } from '../src/formats/index.js';
import { contains, distance, type Point } from '../src/geometry/index.js';
import type { Step } from '../src/steps/index.js';

/**
 * Checks a plan against the law of the trade on every cookie, from its clock times and the drawing alone: by points on
 * the parts, not by the product's meetings, and by a table written here again. Parts with words of their own are left to
 * the checker of gaps. Common practice, no published source.
 */
export function brokenLaw(plan: Plan): string[] {
  const out: string[] = [];
  const { school } = plan.order;
  for (const tray of plan.trays) {
    for (const lot of tray.lots) {
      const planned = plan.designs.find((d) => d.id === lot.designId);
      if (!planned) continue;
      const design = planned.drawing;
      const floods = design.parts.filter((p): p is Section => p.role === 'section');
      for (let cookie = 0; cookie < lot.cookies; cookie++) {
        const at = timesOf(plan, lot.id, cookie);
        const stepOf = (part: string, kind?: Step['kind']) =>
          planned.graph.steps.find((s) => s.parts.includes(part) && (!kind || s.kind === kind));
        const time = (part: string, kind?: Step['kind']) => at.get(stepOf(part, kind)?.id ?? '');
        const say = (words: string) => out.push(`${lot.id} cookie ${cookie}: ${words}`);
        /** Left alone: after the last wet work in it. */
        const leftS = (part: string) => {
          const marks = design.parts.filter((m) => m.role === 'mark' && (m.sectionId === part || m.alsoIn?.includes(part)));
          const main = time(part, 'flood') ?? time(part, 'detail');
          return Math.max(main?.endS ?? Number.NaN, ...marks.map((m) => time(m.id)?.endS ?? 0));
        };
        const lost = (part: string, untilS: number) => lossOnTray(plan, tray.id, leftS(part), untilS);
        const regionOf = (part: string) => (stepOf(part, 'flood') ?? stepOf(part, 'detail'))?.region ?? null;
        const isAs = (part: string, state: Parameters<typeof waitFactor>[0], atS: number, careful = false): boolean => {
          const region = regionOf(part);
          if (!region) return true;
          // What is firm through is set as well.
          return [state, 'firm' as const].some(
            (s) =>
              lost(part, atS) >=
              Math.max(stateThresholds(region)[state], stateThresholds(region)[s]) *
                waitFactor(s, careful ? 'careful' : plan.margin, plan.factors) *
                0.999,
          );
        };
        for (const [i, a] of floods.entries()) {
          for (const b of floods.slice(i + 1)) {
            const shared = grid(b.drawn).filter((p) => contains(a.drawn, p)).length;
            const own = grid(b.drawn).length;
            if (shared < 4 || shared > 0.93 * own || hasWords(a) || hasWords(b) || a.flushWith?.includes(b.id)) continue;
            if ((time(b.id, 'flood')?.startS ?? 0) < (time(a.id, 'flood')?.endS ?? 0))
              say(`${b.id} is drawn over ${a.id} and flooded before it`);
          }
        }
        for (const l of design.parts.filter(
          (p): p is PipedLine => p.role === 'line' && !hasWords(p) && p.technique !== 'crackle' && p.technique !== 'trace',
        )) {
          const start = time(l.id, 'detail')?.startS ?? Number.NaN;
          for (const f of under(design, l)) {
            const [state, careful] = ASKS[l.technique](school);
            if (!isAs(f.id, state, start, careful)) say(`${l.id} (${l.technique}) is done before ${f.id} is ${state}`);
          }
        }
        for (const m of design.parts) {
          if (m.role !== 'mark' || m.technique !== 'sprinkle') continue;
          const own = design.parts.find((p) => p.id === m.sectionId);
          const start = time(m.id)?.startS ?? Number.NaN;
          for (const x of design.parts) {
            if (x.id === m.sectionId || (x.role === 'line' && !regionOf(x.id)) || (x.role !== 'section' && x.role !== 'line') || isPiece(x))
              continue;
            if (x.role === 'section' && own?.role === 'section' && own.flushWith?.includes(x.id)) continue;
            const same = design.parts.some(
              (o) => o.role === 'mark' && o.technique === 'sprinkle' && o.sectionId === x.id && o.colour === m.colour,
            );
            const laid = x.role === 'section' ? time(x.id, 'flood') : time(x.id, 'detail');
            if (same || !laid || laid.startS >= start - 0.5) continue;
            if (!isAs(x.id, school.grainsOn, start)) say(`grains ${m.id} fall while ${x.id} is not ${school.grainsOn}`);
          }
        }
        for (const g of design.parts) {
          if (g.role !== 'guide') continue;
          for (const id of g.guides ?? []) {
            const first = Math.min(
              ...planned.graph.steps
                .filter((s) => s.parts.includes(id) && s.kind !== 'mark')
                .map((s) => at.get(s.id)?.startS ?? Number.POSITIVE_INFINITY),
            );
            if ((time(g.id)?.endS ?? Number.NaN) > first + 0.5) say(`${id} is begun before its guide ${g.id}`);
          }
        }
        for (const s of design.parts.filter((p): p is PipedLine => p.role === 'line' && p.technique === 'stencil' && !hasWords(p))) {
          for (const x of design.parts) {
            // One that a flood covers lies under the stencil and stands proud of nothing.
            const buried = design.parts
              .slice(design.parts.indexOf(x))
              .some((f) => f.role === 'section' && points(x).every((p) => contains(f.drawn, p)));
            const proud =
              !buried && x.role === 'line' && ['piped-line', 'lettering', 'closing-outline'].includes(x.technique) && !hasWords(x);
            if (!proud || !points(x).some((p) => points(s).some((q) => distance(p, q) < 8))) continue;
            if ((time(x.id)?.startS ?? 0) < (time(s.id)?.endS ?? 0) - 0.5) say(`${x.id} stands proud under the stencil ${s.id}`);
          }
        }
        if (school.quickSets) {
          const small = floods.filter((f) => (planned.graph.sections.find((x) => x.id === f.id)?.inscribedDiameterMm ?? 99) < 12);
          for (const f of small) {
            const now = time(f.id, 'flood')?.endS ?? Number.NaN;
            const wet = small.filter(
              (o) =>
                (time(o.id, 'flood')?.startS ?? Number.POSITIVE_INFINITY) < now &&
                lost(o.id, now) < stateThresholds(regionOf(o.id) ?? { seconds: 15, depthMm: 2.5, on: 'cookie' }).skinned,
            );
            if (wet.length > 4) say(`${wet.length} small pools are wet at once`);
          }
        }
      }
    }
  }
  return out;
}

const ASKS: Readonly<
  Record<PipedLine['technique'], (s: Plan['order']['school']) => readonly ['crusted' | 'set' | 'firm' | 'dry', boolean?]>
> = {
  'piped-line': (s) => [s.detailsOn],
  lettering: (s) => [s.detailsOn],
  'closing-outline': (s) => [s.detailsOn],
  relief: (s) => [s.reliefOn],
  'dipped-bead': (s) => [s.grainsOn],
  'glued-transfer': (s) => [s.gluedOn],
  assembly: () => ['dry'],
  pen: (s) => [s.pensOn, true],
  stencil: (s) => [s.pensOn, true],
  airbrush: () => ['crusted'],
  dust: () => ['dry'],
  paint: () => ['dry'],
  wafer: () => ['dry'],
  crackle: () => ['crusted'],
  trace: () => ['firm'],
};

const hasWords = (p: Part) => p.words !== undefined;
const isPiece = (p: Part) =>
  p.role === 'line' && (p.technique === 'glued-transfer' || p.technique === 'assembly' || p.technique === 'stencil');

/** Floods a detail lies on: at least three of its points, and nothing flooded between the two there. */
function under(design: Design, l: PipedLine): Section[] {
  const at = design.parts.indexOf(l);
  const floods = design.parts.slice(0, at).filter((p): p is Section => p.role === 'section');
  const top = points(l).map((p) => floods.findLast((f) => contains(f.shape, p)));
  return floods.filter((f) => top.filter((t) => t === f).length >= 3);
}

function points(p: Part): Point[] {
  if (p.role === 'section') return grid(p.shape);
  if (p.role === 'line' && p.area) return grid([p.points]);
  const chain = p.closed && p.points[0] ? [...p.points, p.points[0]] : p.points;
  return chain.flatMap((b, i) => {
    const a = chain[i - 1];
    if (!a) return [b];
    const n = Math.max(1, Math.ceil(distance(a, b)));
    return Array.from({ length: n }, (_, k) => ({ x: a.x + ((b.x - a.x) * (k + 1)) / n, y: a.y + ((b.y - a.y) * (k + 1)) / n }));
  });
}

/** Points of a millimetre's grid that lie inside. */
function grid(shape: Section['shape']): Point[] {
  const xs = shape.flat().map((p) => p.x);
  const ys = shape.flat().map((p) => p.y);
  const out: Point[] = [];
  for (let x = Math.min(...xs) + 0.51; x < Math.max(...xs); x += 1)
    for (let y = Math.min(...ys) + 0.51; y < Math.max(...ys); y += 1) if (contains(shape, { x, y })) out.push({ x, y });
  return out;
}

function timesOf(plan: Plan, lotId: string, cookie: number): Map<string, { startS: number; endS: number }> {
  const at = new Map<string, { startS: number; endS: number }>();
  for (const t of plan.tasks) {
    if (t.lotId !== lotId || cookie < t.cookies[0] || cookie >= t.cookies[1]) continue;
    const i = cookie - t.cookies[0];
    for (const m of t.motions) at.set(m.stepId, { startS: t.startS + (m.startS[i] as number), endS: t.startS + (m.endS[i] as number) });
  }
  return at;
}

function lossOnTray(plan: Plan, trayId: string, fromS: number, toS: number): number {
  const stays = plan.stays.filter((s) => s.trayId === trayId);
  const edges = [fromS, toS, ...stays.flatMap((s) => [s.startS, s.endS])].filter((s) => s >= fromS && s <= toS).sort((a, b) => a - b);
  let m = 0;
  for (let i = 1; i < edges.length; i++) {
    const [a, b] = [edges[i - 1] as number, edges[i] as number];
    const stay = stays.find((s) => s.startS <= a && b <= s.endS);
    m = lossAfter(
      dryingRate((stay?.where === 'fan' ? plan.fanAir : stay?.where === 'dehydrator' ? plan.dehydratorAir : null) ?? plan.air),
      m,
      b - a,
    );
  }
  return m;
}
