import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { durationOf, epochOf, made } from '../../test/play.js';
import { marksOf, sectionsOf } from '../design/design.js';
import { withFan } from '../drying/air.js';
import { airAt, always, lostBetween } from '../drying/airs.js';
import { airInDehydrator } from '../drying/fan.js';
import { dryingRate, lossAfter } from '../drying/front.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { areaMm2, contains } from '../geometry/shape.js';
import { leftToDryS } from '../planning/separation.js';
import { lossNeeded } from '../planning/timed-gap.js';
import type { Visit } from '../planning/visit.js';
import type { RunEvent } from './event.js';
import { foldRun } from './fold.js';
import { impliedBy, inferredTimes } from './here.js';
import { airsAround, awayAir, roomAt } from './room.js';
import { runIndex } from './run-index.js';
import type { RoomAir } from './run-state.js';
import { leastDry, tallyOf } from './standing.js';
import { tieDye } from './tie-dye.js';
import { visitOf } from './visit-of.js';

const plan = made(['mackerel', 'gull'], { fan: { places: 1, airMPerS: 1 }, dehydrator: { places: 1, tempC: 35 } });
const EPOCH = epochOf(plan);
const airOf = (humidityFrac: number, tempC = 21) => ({ ...plan.air, tempC, humidityFrac });

describe('what a tray stands in', () => {
  it('is the planned air until a reading, and then the last one read', () => {
    const room: RoomAir[] = [
      { fromS: 100, air: airOf(0.6) },
      { fromS: 200, air: airOf(0.7) },
    ];
    expect([50, 100, 199, 200, 9999].map((s) => roomAt(plan, room, s).humidityFrac)).toEqual([0.5, 0.6, 0.6, 0.7, 0.7]);
    expect(airsAround(plan, [], [])).toEqual(always(plan.air));
    const around = airsAround(plan, room, []);
    expect(around.fromS).toEqual([Number.NEGATIVE_INFINITY, 100, 200]);
    expect(around.air.map((a) => a.humidityFrac)).toEqual([0.5, 0.6, 0.7]);
  });
  it('before the fan and in the dehydrator the room’s own vapour goes along', () => {
    const damp = airOf(0.7);
    expect(awayAir(plan, 'fan', damp)).toEqual(withFan(damp, 1));
    expect(awayAir(plan, 'dehydrator', damp)).toEqual(airInDehydrator(damp, 35, plan.order.dehydrator?.airMPerS));
    const stay = { where: 'fan' as const, startS: 150, endS: 250 };
    expect(airsAround(plan, [{ fromS: 200, air: damp }], [stay])).toMatchObject({
      fromS: [Number.NEGATIVE_INFINITY, 150, 200, 250],
      air: [plan.air, plan.fanAir, withFan(damp, 1), damp],
    });
  });
  it('never overlaps and never leaves a moment out, whatever was read and wherever it stood', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ fromS: fc.nat(5000), humidity: fc.double({ min: 0.2, max: 0.8, noNaN: true }) }), { maxLength: 6 }),
        fc.array(fc.record({ startS: fc.nat(5000), forS: fc.integer({ min: 1, max: 800 }) }), { maxLength: 3 }),
        fc.nat(5000),
        (read, stood, atS) => {
          const room = read.sort((a, b) => a.fromS - b.fromS).map((r): RoomAir => ({ fromS: r.fromS, air: airOf(r.humidity) }));
          let free = 0;
          const stays = stood
            .sort((a, b) => a.startS - b.startS)
            .map((s) => {
              const startS = Math.max(free, s.startS);
              free = startS + s.forS;
              return { where: 'fan' as const, startS, endS: free };
            });
          const around = airsAround(plan, room, stays);
          expect(around.fromS).toEqual([...new Set(around.fromS)].sort((a, b) => a - b));
          expect(around.air).toHaveLength(around.fromS.length);
          const here = airAt(around, atS);
          const away = stays.some((s) => s.startS <= atS && atS < s.endS);
          const base = roomAt(plan, room, atS);
          expect(here).toEqual(away ? awayAir(plan, 'fan', base) : base);
        },
      ),
      { seed: 8, numRuns: 200 },
    ));
});

const cookiesIn = (t: PlanTask): number[] => Array.from({ length: t.cookies[1] - t.cookies[0] }, (_, i) => t.cookies[0] + i);

describe('waits counted anew', () => {
  const still = made(['mackerel', 'gull']);
  const at = epochOf(still);
  // The wet visit that most others wait for.
  const waiting = (t: PlanTask) =>
    t.lotId?.endsWith('mackerel') ? still.waits.filter((w) => w.from === t.id && w.rule === 'touching-sections').length : -1;
  const first = still.tasks.reduce((best, t, i) => (t.kind === 'wet' && waiting(t) > waiting(still.tasks[best] as PlanTask) ? i : best), 0);
  const events: RunEvent[] = [{ id: 's', deviceId: 'd', deviceSeq: 1, atMs: at, type: 'runStarted', data: {} }];
  for (const t of still.tasks.slice(0, first + 1))
    events.push({
      id: t.id,
      deviceId: 'd',
      deviceSeq: events.length + 1,
      atMs: at + t.endS * 1000,
      type: 'taskDone',
      data: { taskId: t.id },
    });
  const flooded = still.tasks[first] as PlanTask;

  it('a body half dry in one air goes on in the other: the two losses are what the margin asks for, to the second', () => {
    const readS = flooded.endS + 600;
    const damp: RunEvent = {
      id: 'a',
      deviceId: 'd',
      deviceSeq: 99,
      atMs: at + readS * 1000,
      type: 'airRead',
      data: { tempC: 20, humidityPct: 65 },
    };
    const state = foldRun(still, [...events, damp]);
    let looked = 0;
    for (const w of state.plan.waits.filter((x) => x.from === flooded.id && x.rule === 'touching-sections')) {
      const to = still.tasks.find((t) => t.id === w.to) as PlanTask;
      const graph = still.designs.find((d) => d.id === 'mackerel')?.graph;
      const startS = flooded.endS - durationOf(still, flooded.id) + w.minS;
      // The slackest cookie has just what it needs; by hand, through the two airs.
      const spare = (graph?.gaps ?? [])
        .filter((g) => g.minState && flooded.motions.some((m) => m.stepId === g.from) && to.motions.some((m) => m.stepId === g.to))
        .flatMap((g) => {
          const need = lossNeeded(g, still.margin, still.factors);
          const touch = to.motions.find((m) => m.stepId === g.to);
          return cookiesIn(flooded).map((cookie, i) => {
            // Left alone once the last wet work in it was done.
            const leftS = flooded.startS + leftToDryS(visitOf(still, flooded) as Visit, g.from, cookie);
            const before = lossAfter(dryingRate(still.air), 0, readS - leftS);
            return lossAfter(dryingRate(airOf(0.65, 20)), before, startS + (touch?.startS[i] as number) - readS) / need;
          });
        });
      expect(Math.min(...spare)).toBeGreaterThanOrEqual(0.9999);
      expect(Math.min(...spare)).toBeLessThan(1.002);
      looked += 1;
    }
    expect(looked).toBeGreaterThan(0);
  });
  it('what the strip shows is what went by, air after air', () => {
    const room: RoomAir[] = [{ fromS: flooded.endS + 300, air: airOf(0.8, 19) }];
    const damp: RunEvent = {
      id: 'a',
      deviceId: 'd',
      deviceSeq: 99,
      atMs: at + (flooded.endS + 300) * 1000,
      type: 'airRead',
      data: { tempC: 19, humidityPct: 80 },
    };
    const state = foldRun(still, [...events, damp]);
    expect(state.room).toEqual(room);
    const lost = (seconds: number) => lostBetween(airsAround(still, room, []), flooded.endS, flooded.endS + seconds);
    expect(lost(300)).toBeCloseTo(lossAfter(dryingRate(still.air), 0, 300), 9);
    expect(leastDry(runIndex(state), flooded.trayId, at + (flooded.endS + 3600) * 1000)).not.toBe('set');
  });
});

describe('a tie-dye', () => {
  it('stays inside the cookie, takes its own colours, and leaves a rim', () => {
    for (const d of plan.designs) {
      const dyed = tieDye(d.drawing);
      const [base] = sectionsOf(dyed);
      expect(areaMm2(base?.shape ?? [])).toBeLessThan(areaMm2(d.drawing.cookie));
      expect(areaMm2(base?.shape ?? [])).toBeGreaterThan(0.5 * areaMm2(d.drawing.cookie));
      for (const m of marksOf(dyed)) for (const p of m.points) expect(contains(base?.shape ?? [], p)).toBe(true);
      const own = new Set(sectionsOf(d.drawing).map((s) => s.colour));
      expect([...sectionsOf(dyed), ...marksOf(dyed)].every((x) => own.has(x.colour))).toBe(true);
    }
  });
});

describe('being found at a step', () => {
  it('implies what it waits for, in an order that could have been, each with its wait kept', () => {
    for (const task of plan.tasks) {
      const implied = impliedBy(plan, task, () => false);
      const ids = new Set(implied.map((t) => t.id));
      for (const w of plan.waits) if (w.to === task.id || ids.has(w.to)) expect(ids.has(w.from)).toBe(true);
      expect(ids.has(task.id)).toBe(false);
      const atMs = EPOCH + 90_000_000;
      const times = inferredTimes(plan, task, implied, atMs);
      for (const t of implied) {
        const own = times.get(t.id) as { begunAtMs: number; doneAtMs: number };
        expect(own.doneAtMs - own.begunAtMs).toBe((t.endS - t.startS) * 1000);
        expect(own.doneAtMs).toBeLessThanOrEqual(atMs);
        for (const w of plan.waits.filter((x) => x.from === t.id && (x.to === task.id || ids.has(x.to)))) {
          const then = w.to === task.id ? atMs : (times.get(w.to)?.begunAtMs as number);
          expect(then - own.begunAtMs).toBeGreaterThanOrEqual(w.minS * 1000 - 1);
        }
      }
    }
  });
});

describe('cookies that are left', () => {
  it('are counted against what was ordered: spares first, then short', () => {
    const spared: Plan = made(['mackerel'], { designs: [{ file: 'mackerel', count: 5, spares: 1 }] });
    const lotId = spared.trays[0]?.lots[0]?.id as string;
    const lose = (n: number) =>
      foldRun(
        spared,
        Array.from(
          { length: n },
          (_, cookie): RunEvent => ({
            id: `x${cookie}`,
            deviceId: 'd',
            deviceSeq: cookie + 1,
            atMs: epochOf(spared) + 60_000,
            type: 'defect',
            data: { lotId, cookie, part: null, seen: 'broken', surface: 'wet', outcome: 'spare' },
          }),
        ),
      );
    expect([0, 1, 2].map((n) => tallyOf(runIndex(lose(n)), 'mackerel'))).toEqual([
      { ordered: 5, left: 6 },
      { ordered: 5, left: 5 },
      { ordered: 5, left: 4 },
    ]);
  });
});
