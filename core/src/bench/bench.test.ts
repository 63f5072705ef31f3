import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { touched } from '../../test/play.js';
import { readDesign } from '../design/read-design.js';
import { always } from '../drying/airs.js';
import { parseOrder } from '../formats/order.js';
import { cookieLook } from '../planning/look.js';
import { planOrder } from '../planning/plan-order.js';
import { type CookieOutcome, cookieOutcomes, type RunEvent, type ShutChoice, shutChoices } from './event.js';
import { foldRun } from './fold.js';
import { runIndex } from './run-index.js';
import { lastToUndo, whyNotUndone } from './undo.js';
import { benchView } from './view.js';

const order = parseOrder({
  format: 'kestfog-order/3',
  designs: [{ file: 'mackerel.svg', count: 4 }],
  trays: [{ id: 'A', places: 4 }],
  openingHours: [
    ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
    ['2026-06-06T07:00:00Z', '2026-06-06T12:00:00Z'],
  ],
});
const design = readDesign(readFileSync(new URL('../../../server/demo/mackerel.svg', import.meta.url), 'utf8'), 'Mackerel');
const plan = planOrder({ order, designs: [design], passes: 40 });
const EPOCH = Date.parse(plan.epoch as string);

const log = () => {
  const events: RunEvent[] = [];
  const seq = new Map<string, number>();
  const add = (device: string, atMs: number, body: Pick<RunEvent, 'type' | 'data'>): RunEvent => {
    seq.set(device, (seq.get(device) ?? 0) + 1);
    const e = { id: `${device}-${seq.get(device)}`, deviceId: device, deviceSeq: seq.get(device) as number, atMs, ...body } as RunEvent;
    events.push(e);
    return e;
  };
  return { events, add };
};
const done = (taskId: string) => ({ type: 'taskDone' as const, data: { taskId } });
const id = (i: number) => plan.tasks[i]?.id as string;

describe('folding a run', () => {
  it('beginning takes up the first task; done takes up the next where nothing has to dry first', () => {
    const { events, add } = log();
    add('tablet', EPOCH, { type: 'runStarted', data: {} });
    expect(foldRun(plan, events).tasks.get(id(0))?.begunAtMs).toBe(EPOCH);
    add('tablet', EPOCH + 90_000, done(id(0)));
    expect(foldRun(plan, events).tasks.get(id(1))?.begunAtMs).toBe(EPOCH + 90_000);
    add('tablet', EPOCH + 300_000, done(id(1)));
    expect(foldRun(plan, events).tasks.get(id(2))?.begunAtMs).toBe(EPOCH + 300_000);
    add('tablet', EPOCH + 420_000, done(id(2)));
    expect(foldRun(plan, events).tasks.get(id(3))?.begunAtMs ?? null).toBeNull();
    expect(benchView(runIndex(foldRun(plan, events)), EPOCH + 420_000)).toMatchObject({ waiting: true, done: 3 });
  });
  it('done twice, by whomever, is done once', () => {
    const { events, add } = log();
    add('tablet', EPOCH, { type: 'runStarted', data: {} });
    add('tablet', EPOCH + 60_000, done(id(0)));
    add('phone', EPOCH + 61_000, done(id(0)));
    expect(foldRun(plan, events).tasks.get(id(0))?.doneAtMs).toBe(EPOCH + 60_000);
  });
  it('what was taken back stays taken back when the step is done again and others build on it', () => {
    const { events, add } = log();
    add('tablet', EPOCH, { type: 'runStarted', data: {} });
    const early = add('tablet', EPOCH + 60_000, done(id(0)));
    add('tablet', EPOCH + 61_000, { type: 'undone', data: { eventId: early.id } });
    add('tablet', EPOCH + 200_000, done(id(0)));
    add('tablet', EPOCH + 500_000, done(id(1)));
    expect(foldRun(plan, events).tasks.get(id(0))?.doneAtMs).toBe(EPOCH + 200_000);
  });
  it('undo takes back one’s own last step, and is refused where others built on it', () => {
    const { events, add } = log();
    add('tablet', EPOCH, { type: 'runStarted', data: {} });
    const first = add('tablet', EPOCH + 60_000, done(id(0)));
    const second = add('tablet', EPOCH + 120_000, done(id(1)));
    expect(whyNotUndone(plan, events, first.id)).toMatchObject({ code: 'built-upon' });
    expect(lastToUndo(foldRun(plan, events), 'tablet')?.id).toBe(second.id);
    expect(lastToUndo(foldRun(plan, events), 'phone')).toBeNull();
    add('tablet', EPOCH + 121_000, { type: 'undone', data: { eventId: second.id } });
    expect(foldRun(plan, events).tasks.get(id(1))).toMatchObject({ doneAtMs: null, begunAtMs: EPOCH + 60_000 });
    expect(whyNotUndone(plan, foldRun(plan, events).standing, second.id)).toMatchObject({ code: 'unknown' });
    expect(whyNotUndone(plan, foldRun(plan, events).standing, first.id)).toBeNull();
  });
  it('worked through to the end, late or not, waits are asked for and the run finishes', () => {
    const { events, add } = log();
    let now = EPOCH;
    add('tablet', now, { type: 'runStarted', data: {} });
    for (let i = 0; i < plan.tasks.length; i++) {
      let view = benchView(runIndex(foldRun(plan, events)), now);
      if (view.inHandSinceMs === null) {
        now = Math.max(now, view.now?.startMs ?? now);
        view = benchView(runIndex(foldRun(plan, events)), now);
        expect(view.waiting).toBe(false);
        add('tablet', now, { type: 'taskBegun', data: { taskId: view.now?.task.id as string } });
      }
      const task = view.now?.task as (typeof plan.tasks)[number];
      now += (task.endS - task.startS) * 1300; // a third slower than planned
      add('tablet', now, done(task.id));
    }
    const state = foldRun(plan, events);
    expect(state.finished).toBe(true);
    const after = benchView(runIndex(state), now);
    expect(after).toMatchObject({ now: null, done: plan.tasks.length });
  });
});

describe('the view', () => {
  const { events, add } = log();
  add('tablet', EPOCH, { type: 'runStarted', data: {} });
  const wet = plan.tasks.findIndex((t) => t.motions.some((m) => m.windowS !== null));
  for (let i = 0; i < wet; i++) add('tablet', EPOCH + (plan.tasks[i]?.endS ?? 0) * 1000, done(id(i)));
  const begun = EPOCH + (plan.tasks[wet]?.startS ?? 0) * 1000;
  if (foldRun(plan, events).tasks.get(id(wet))?.begunAtMs === undefined)
    add('tablet', begun, { type: 'taskBegun', data: { taskId: id(wet) } });
  it('counts down the window of the wet visit in hand from the first cookie’s flood', () => {
    const state = foldRun(plan, events);
    const view = benchView(runIndex(state), begun + 1000);
    const motion = plan.tasks[wet]?.motions.find((m) => m.windowS !== null);
    const flood = plan.tasks[wet]?.motions.find((m) => m.stepId === motion?.windowFrom);
    expect(view.closing[0]?.closesAtMs).toBe(
      (view.inHandSinceMs as number) + ((flood?.endS[0] as number) + (motion?.windowS as number)) * 1000,
    );
  });
  it('a late start pushes everything to the right and never before its wait is over', () => {
    const late = benchView(runIndex(foldRun(plan, [])), EPOCH + 3_600_000);
    const early = benchView(runIndex(foldRun(plan, [])), EPOCH);
    expect(late.now?.startMs).toBe(EPOCH + 3_600_000);
    expect(late.next[0]?.startMs ?? 0).toBeGreaterThan(early.next[0]?.startMs ?? 0);
  });
  it('the look of a cookie follows what was done: bare, wet, then drier', () => {
    const lot = plan.trays[0]?.lots[0] as never;
    const at = (s: number) => cookieLook(plan, lot, 0, s, (t) => ({ startS: t.startS, endS: t.endS }), always(plan.air));
    const first = plan.tasks.find((t) => t.kind === 'wet') as (typeof plan.tasks)[number];
    const section = first.motions.find((m) => m.technique === 'flood')?.stepId.replace('flood.', '') as string;
    expect(at(first.startS - 1).sections[section]).toBeUndefined();
    expect(at(first.endS + 1).sections[section]).toBe('wet');
    expect(at(first.endS + 1500).sections[section]).toBe('crusted');
    expect(at(plan.endS).sections[section]).toBe('dry');
    expect(at(plan.endS).marks).toEqual(expect.arrayContaining(['eye-white', 'stripe-1', 'drag-1']));
  });
});

const SEED = 31;
describe(`replaying (seed ${SEED})`, () => {
  it('in one go, in pieces, or with every event sent twice gives the same state', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            device: fc.constantFrom('a', 'b'),
            act: fc.constantFrom(
              'done',
              'begin',
              'undo',
              'pause',
              'resume',
              'revise',
              'wet',
              'tick',
              'here',
              'swap',
              'crusted',
              'shut',
              'skip',
              'count',
              'defect',
              'air',
            ),
            task: fc.nat(plan.tasks.length - 1),
          }),
          { maxLength: 25 },
        ),
        (acts) => {
          const { events, add } = log();
          add('a', EPOCH, { type: 'runStarted', data: {} });
          acts.forEach((x, i) => {
            const at = EPOCH + (i + 1) * 60_000;
            const target = lastToUndo(foldRun(plan, events), x.device);
            if (x.act === 'done') add(x.device, at, done(id(x.task)));
            else if (x.act === 'begin') add(x.device, at, { type: 'taskBegun', data: { taskId: id(x.task) } });
            else if (x.act === 'undo' && target) add(x.device, at, { type: 'undone', data: { eventId: target.id } });
            else if (x.act === 'pause') add(x.device, at, { type: 'paused', data: {} });
            else if (x.act === 'resume') add(x.device, at, { type: 'resumed', data: {} });
            else if (x.act === 'wet') add(x.device, at, touched(id(x.task), 'not-yet'));
            else if (x.act === 'tick') add(x.device, at, { type: 'cookieDone', data: { taskId: id(x.task), cookie: i % 4 } });
            else if (x.act === 'here') add(x.device, at, { type: 'imHere', data: { taskId: id(x.task) } });
            else if (x.act === 'swap')
              add(x.device, at, { type: 'swapped', data: { taskId: id(x.task), insteadOf: id(i % plan.tasks.length) } });
            else if (x.act === 'crusted') add(x.device, at, touched(id(x.task), 'reached'));
            else if (x.act === 'shut')
              add(x.device, at, {
                type: 'windowShut',
                data: { taskId: id(x.task), cookies: [i % 4], choice: shutChoices[x.task % 3] as ShutChoice },
              });
            else if (x.act === 'skip') add(x.device, at, { type: 'skipped', data: { taskId: id(x.task) } });
            else if (x.act === 'count')
              add(x.device, at, { type: 'bagCounted', data: { colour: '#e6e9e4', seconds: 15, countedS: 12 + (x.task % 9) } });
            else if (x.act === 'air') add(x.device, at, { type: 'airRead', data: { tempC: 18 + (x.task % 9), humidityPct: 40 + i } });
            else if (x.act === 'defect') {
              const outcome = cookieOutcomes[x.task % cookieOutcomes.length] as CookieOutcome;
              add(x.device, at, {
                type: 'defect',
                data: { lotId: plan.trays[0]?.lots[0]?.id as string, cookie: i % 4, part: null, seen: 'dent', surface: 'set', outcome },
              });
            } else if (x.act === 'revise')
              add(x.device, at, {
                type: 'planRevised',
                data: {
                  baseSeq: events.length,
                  starts: Object.fromEntries(plan.tasks.map((t, k) => [t.id, t.startS + 60 * ((k * 7 + x.task) % 11)])),
                },
              });
          });
          const whole = foldRun(plan, events);
          const copy = foldRun(plan, JSON.parse(JSON.stringify(events)) as RunEvent[]);
          expect(copy).toEqual(whole);
          // Done again by another device a moment later: the first tap counts, unless it was taken back.
          if (events.some((e) => e.type === 'undone')) return;
          const twice: RunEvent[] = events.flatMap((e): RunEvent[] =>
            e.type === 'taskDone' ? [e, { ...e, id: `${e.id}-again`, atMs: e.atMs + 1 }] : [e],
          );
          expect([...foldRun(plan, twice).tasks]).toEqual([...whole.tasks]);
        },
      ),
      { seed: SEED, numRuns: 100 },
    ));
});
