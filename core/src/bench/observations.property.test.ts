import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { epochOf, made, touched } from '../../test/play.js';
import { dryingStates } from '../drying/state.js';
import { cookieOutcomes, isObservation, type RunEvent, type StoredEvent, shutChoices } from './event.js';
import { foldRun } from './fold.js';
import { whyNotUndone } from './undo.js';

const plan = made(['mackerel', 'sea-glass'], { fan: { places: 1, airMPerS: 1 } });
const EPOCH = epochOf(plan);
const DEVICES = ['a', 'b', 'c'];
const task = (n: number) => plan.tasks[n % plan.tasks.length]?.id as string;

type Body = Pick<RunEvent, 'type' | 'data'>;
const n = fc.nat(10_000);
/** What three devices may see. */
const seen: fc.Arbitrary<Body> = fc.oneof(
  n.map((x): Body => ({ type: 'airRead', data: { tempC: 18 + (x % 9), humidityPct: 35 + (x % 45) } })),
  fc.tuple(n, fc.constantFrom('not-yet', 'reached', 'past')).map(([x, found]): Body => touched(task(x), found)),
  fc
    .tuple(n, fc.constantFrom('not-yet', 'reached'), fc.constantFrom(...dryingStates))
    .map(([x, found, state]): Body => ({ type: 'touched', data: { taskId: task(x), cookie: x % 6, part: 'flood.body', state, found } })),
  n.map((x): Body => ({ type: 'bagCounted', data: { colour: '#e6e9e4', seconds: 15, countedS: 12 + (x % 9) } })),
  n.map((x): Body => ({ type: 'carried', data: { trayId: x % 2 ? 'A' : 'B', where: 'fan', minutes: 5 + (x % 40) } })),
  n.map((x): Body => ({ type: 'broughtBack', data: { trayId: x % 2 ? 'A' : 'B' } })),
  n.map((x): Body => ({ type: 'toolsCounted', data: { out: x % 2 === 0, sharps: x % 7, offcuts: x % 5 } })),
  fc.constant<Body>({ type: 'dehydratorOff', data: {} }),
);
/** What they may do. */
const doing: fc.Arbitrary<Body> = fc.oneof(
  { weight: 6, arbitrary: n.map((x): Body => ({ type: 'taskDone', data: { taskId: task(x % 7) } })) },
  n.map((x): Body => ({ type: 'taskBegun', data: { taskId: task(x) } })),
  n.map((x): Body => ({ type: 'cookieDone', data: { taskId: task(x), cookie: x % 6 } })),
  n.map((x): Body => ({ type: 'imHere', data: { taskId: task(x) } })),
  n.map((x): Body => ({ type: 'swapped', data: { taskId: task(x), insteadOf: task(x + 3) } })),
  n.map(
    (x): Body => ({
      type: 'windowShut',
      data: { taskId: task(x), cookies: [x % 6], choice: shutChoices[x % 3] as (typeof shutChoices)[number] },
    }),
  ),
  n.map((x): Body => ({ type: 'skipped', data: { taskId: task(x) } })),
  n.map((x): Body => {
    const lotId = plan.trays[x % 2]?.lots[0]?.id as string;
    const outcome = cookieOutcomes[x % cookieOutcomes.length] as (typeof cookieOutcomes)[number];
    return { type: 'defect', data: { lotId, cookie: x % 6, part: null, seen: 'dent', surface: 'set', outcome } };
  }),
  fc.constantFrom<Body>({ type: 'paused', data: {} }, { type: 'resumed', data: {} }),
  n.map(
    (x): Body => ({
      type: 'planRevised',
      data: { baseSeq: 0, starts: Object.fromEntries(plan.tasks.map((t, k) => [t.id, t.startS + 60 * ((k * 7 + x) % 11)])) },
    }),
  ),
);

/** Said one after the other by devices taken in turn as chance has it, each at a moment of its own. */
function said(bodies: readonly (readonly [Body, number])[]): RunEvent[] {
  const seq = new Map<string, number>();
  const start: RunEvent = { id: 'start', deviceId: 'a', deviceSeq: 1, atMs: EPOCH, type: 'runStarted', data: {} };
  seq.set('a', 1);
  return [
    start,
    ...bodies.map(([body, d], i): RunEvent => {
      const deviceId = DEVICES[d % 3] as string;
      const deviceSeq = (seq.get(deviceId) ?? 0) + 1;
      seq.set(deviceId, deviceSeq);
      return { id: `e${i}`, deviceId, deviceSeq, atMs: EPOCH + (i + 1) * 130_000 + d, ...body } as RunEvent;
    }),
  ];
}
const mixed = fc.array(fc.tuple(fc.oneof(seen, doing), fc.nat(50)), { minLength: 4, maxLength: 24 });
/** As the server would have it: in this order, numbered. */
const stored = (events: readonly RunEvent[]): StoredEvent[] => events.map((e, i) => ({ ...e, seq: i + 1 }) as StoredEvent);
const without = (events: readonly RunEvent[]) => events.map(({ id, atMs, type, data }) => ({ id, atMs, type, data }));
const stateOf = (events: readonly RunEvent[]) => {
  const { standing, ...rest } = foldRun(plan, stored(events));
  return { ...rest, standing: without(standing.filter((e) => e.type !== 'undone')) };
};

describe('what is seen counts by its own time (seeds 11, 12, 13)', () => {
  it('however the looks, readings, counts and carries of three devices are delivered among what is done, there is one state', () =>
    fc.assert(
      fc.property(mixed, fc.array(fc.nat(1000), { minLength: 24, maxLength: 24 }), (bodies, places) => {
        const events = said(bodies);
        const whole = stateOf(events);
        // What is done keeps the server's order; what is seen is put in anywhere, in any order.
        const delivered = events.filter((e) => !isObservation(e));
        for (const [i, o] of events.filter(isObservation).entries())
          delivered.splice((places[i % places.length] as number) % (delivered.length + 1), 0, o);
        expect(stateOf(delivered)).toEqual(whole);
      }),
      { seed: 11, numRuns: 120 },
    ));
  it('two looks in either order are one state', () =>
    fc.assert(
      fc.property(mixed, seen, seen, (bodies, a, b) => {
        const log = said([...bodies, [a, 1], [b, 2]]);
        const [x, y] = log.slice(-2) as [RunEvent, RunEvent];
        expect(stateOf([...log.slice(0, -2), y, x])).toEqual(stateOf(log));
      }),
      { seed: 12, numRuns: 80 },
    ));
  it('whatever is taken back is as if it had never been said', () =>
    fc.assert(
      fc.property(mixed, fc.nat(1000), (bodies, which) => {
        const events = said(bodies);
        const target = events[which % events.length] as RunEvent;
        const { standing } = foldRun(plan, stored(events));
        if (whyNotUndone(plan, standing, target.id)) return;
        const undone: RunEvent = {
          id: 'u',
          deviceId: 'z',
          deviceSeq: 1,
          atMs: (events.at(-1) as RunEvent).atMs + 1000,
          type: 'undone',
          data: { eventId: target.id },
        };
        expect(stateOf([...events, undone])).toEqual(stateOf(events.filter((e) => e !== target)));
      }),
      { seed: 13, numRuns: 150 },
    ));
});
