import {
  asksForReplan,
  benchView,
  foldRun,
  gainOf,
  isWorthIt,
  type RunEvent,
  replan,
  runIndex,
  type StoredEvent,
  slipOf,
} from '@kestfog/core/bench';
import { readDesign } from '@kestfog/core/design';
import { parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../app/clock.js';
import { reportedText, revisionText } from './use-replan.js';

beforeAll(() => setClock(24));

const flag = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="a" width="30" height="60" fill="#ffffff"/><rect id="b" x="30" width="30" height="60" fill="#b3261e"/></svg>',
  'Flag',
);
const plan = planOrder({
  order: parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: 'flag.svg', count: 12 }],
    trays: [
      { id: 'A', places: 6 },
      { id: 'B', places: 6 },
    ],
    openingHours: [['2026-06-05T14:00:00Z', '2026-06-06T14:00:00Z']],
  }),
  designs: [flag],
  passes: 20,
});
const epochMs = Date.parse(plan.epoch as string);
const stored = (type: RunEvent['type'], data: object, seq: number) =>
  ({ id: `e${seq}`, deviceId: 'd', deviceSeq: seq, atMs: epochMs, type, data, seq }) as unknown as StoredEvent;

describe('when the rest is planned again', () => {
  const done = stored('taskDone', { taskId: plan.tasks[0]?.id }, 1);
  const revised = stored('planRevised', { baseSeq: 1, starts: {} }, 2);
  it('after a step, a return, a step taken back; not after a re-plan or its refusal', () => {
    expect(asksForReplan([])).toBe(false);
    expect(asksForReplan([done])).toBe(true);
    expect(asksForReplan([done, stored('resumed', {}, 2)])).toBe(true);
    expect(asksForReplan([done, stored('undone', { eventId: 'e1' }, 2)])).toBe(true);
    expect(asksForReplan([done, revised])).toBe(false);
    expect(asksForReplan([done, revised, stored('undone', { eventId: 'e2' }, 3)])).toBe(false);
    expect(asksForReplan([done, stored('paused', {}, 2)])).toBe(false);
  });
  it('a slip is what the end, or the end of today, is behind', () => {
    const on = { expectedEndMs: epochMs + plan.endS * 1000, handsFreeMs: epochMs + plan.endS * 1000 };
    expect(slipOf(plan, on, 0)).toBeCloseTo(0, 6);
    expect(slipOf(plan, { ...on, handsFreeMs: on.handsFreeMs + 600_000 }, 0)).toBeCloseTo(600, 6);
  });
  it('it has to win three minutes, and may not cost at the end what it wins today', () => {
    expect(isWorthIt({ endS: 200, handsFreeS: 0 })).toBe(true);
    expect(isWorthIt({ endS: 0, handsFreeS: 200 })).toBe(true);
    expect(isWorthIt({ endS: 100, handsFreeS: 100 })).toBe(false);
    expect(isWorthIt({ endS: -300, handsFreeS: 2000 })).toBe(false);
  });
  it('says what is next and what it wins', () => {
    const state = foldRun(plan, [stored('runStarted', {}, 1)]);
    const nowS = 1800;
    const next = replan(runIndex(state), nowS);
    const view = benchView(runIndex(state), epochMs + nowS * 1000);
    const gain = gainOf(plan, view, next);
    expect(gain.endS).toBeCloseTo((view.expectedEndMs - epochMs) / 1000 - next.endS, 6);
    expect(revisionText(state, next, { endS: 600, handsFreeS: 0 })).toMatch(/packed 10 min sooner than by just going on$/);
    expect(revisionText(state, next, { endS: 0, handsFreeS: 1200 })).toMatch(/hands free today 20 min sooner/);
    const order = plan.tasks.filter((t) => (state.tasks.get(t.id)?.begunAtMs ?? null) === null);
    const other = { ...next, starts: { ...next.starts, [order[3]?.id as string]: nowS } };
    expect(revisionText(state, other, { endS: 600, handsFreeS: 0 })).toMatch(new RegExp(`tray ${order[3]?.trayId} is next`));
  });
});

describe('a re-plan after a report', () => {
  it('says why, and when all is packed now', () => {
    const state = foldRun(plan, [stored('runStarted', {}, 1)]);
    const next = replan(runIndex(state), 0);
    const text = (type: RunEvent['type'], data: object) => reportedText(state, next, stored(type, data, 2));
    expect(text('airRead', { tempC: 20.4, humidityPct: 67.6 })).toMatch(
      /^The air is now 20.4 °C, 68 %\. Re-planned.*; all packed (\w+ )?\d\d:\d\d$/,
    );
    expect(text('defect', { cookie: 2, outcome: 'tie-dye' })).toMatch(/^Cookie 3 becomes a tie-dye\./);
    expect(text('defect', { cookie: 2, outcome: 'again' })).toMatch(/^Cookie 3 is begun again\./);
    expect(text('defect', { cookie: 2, outcome: 'spare' })).toMatch(/^Cookie 3 is out\./);
    expect(text('bagCounted', { countedS: 19 })).toMatch(/^The bag counts 19 s\./);
    expect(text('windowShut', { choice: 'relief' })).toMatch(/^In relief later\./);
    expect(text('skipped', {})).toMatch(/^Left out\./);
    expect(text('imHere', {})).toMatch(/^Caught up with where you are\./);
    expect(text('undone', {})).toMatch(/^Taken back\./);
  });
});
