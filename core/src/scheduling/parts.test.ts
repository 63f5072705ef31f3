import { describe, expect, it } from 'vitest';
import { END_OF_TIME_S } from '../time/interval.js';
import { seededRng } from '../time/rng.js';
import { lowerBounds } from './bounds.js';
import { buildGroups, construct, shuffled } from './construct.js';
import { exactSearch } from './exact.js';
import { buildModel, fitCalendar } from './model.js';
import { components, earliestOpenStarts, earliestStarts } from './network.js';
import { lessThan, scheduleValue } from './objective.js';
import type { Problem } from './problem.js';
import { Timeline } from './timeline.js';

const problem = (more: Partial<Problem>): Problem => ({
  format: 'kestfog-problem/1',
  resources: [{ id: 'hands', capacity: 1 }],
  tasks: [],
  links: [],
  objective: 'makespan',
  ...more,
});
const task = (id: string, duration: number, more: object = {}) => ({ id, duration, uses: { hands: 1 }, ...more });

describe('calendars', () => {
  const closed = [
    { fromS: 10, toS: 20 },
    { fromS: 25, toS: 40 },
  ];
  it('a task is put where it straddles nothing', () => {
    expect(fitCalendar(closed, 5, 0)).toBe(0);
    expect(fitCalendar(closed, 5, 6)).toBe(20);
    expect(fitCalendar(closed, 6, 6)).toBe(40);
    expect(fitCalendar(closed, 10, 0)).toBe(0);
    expect(fitCalendar(closed, 11, 0)).toBe(40);
    expect(fitCalendar([], 99, 7)).toBe(7);
  });
  it('one of no length may stand at an edge, not inside', () => {
    expect(fitCalendar(closed, 0, 10)).toBe(10);
    expect(fitCalendar(closed, 0, 11)).toBe(20);
  });
  it('what never opens again is never', () => expect(fitCalendar([{ fromS: 5, toS: END_OF_TIME_S }], 6, 0)).toBeNull());
});

describe('the temporal network', () => {
  it('earliest starts are longest paths, from starts and ends', () => {
    const m = buildModel(
      problem({
        tasks: [task('a', 5), task('b', 3), task('c', 2, { release: 4 })],
        links: [
          { from: 'a', to: 'b', min: 2 },
          { from: 'c', to: 'b', anchor: 'start', min: 10 },
        ],
      }),
    );
    expect(earliestStarts(m)).toEqual({ ok: true, start: [0, 14, 4] });
  });
  it('a positive cycle names its links and tasks', () => {
    const m = buildModel(
      problem({
        tasks: [task('a', 5), task('b', 3), task('c', 1)],
        links: [
          { from: 'b', to: 'c', min: 0 },
          { from: 'a', to: 'b', min: 10 },
          { from: 'b', to: 'a', anchor: 'start', min: -12 },
        ],
      }),
    );
    const r = earliestStarts(m);
    expect(r.ok).toBe(false);
    if (!r.ok) {
      expect([...r.links].sort()).toEqual([1, 2]);
      expect(r.tasks.map((v) => m.ids[v]).sort()).toEqual(['a', 'b']);
    }
  });
  it('nights push, and what they push is pushed on', () => {
    const m = buildModel(
      problem({
        resources: [{ id: 'hands', capacity: 1, closed: [[4, 20]] }],
        tasks: [task('a', 5), task('b', 3)],
        links: [{ from: 'a', to: 'b', min: 1 }],
      }),
    );
    expect(earliestOpenStarts(m, [0, 6])).toEqual({ start: [20, 26] });
  });
  it('tasks tied by a maximum lag are one component; components come in order', () => {
    const m = buildModel(
      problem({
        tasks: ['a', 'b', 'c', 'd'].map((id) => task(id, 1)),
        links: [
          { from: 'd', to: 'a', min: 0 },
          { from: 'a', to: 'b', min: 0, max: 5 },
          { from: 'b', to: 'c', min: 0 },
        ],
      }),
    );
    expect(components(m).map((g) => g.map((v) => m.ids[v]))).toEqual([['d'], ['a', 'b'], ['c']]);
  });
});

describe('the timeline', () => {
  const m = buildModel(
    problem({
      resources: [
        { id: 'hands', capacity: 1, changeover: 4 },
        { id: 'fan', capacity: 2 },
      ],
      tasks: [
        { id: 'red1', duration: 10, uses: { hands: 1 }, family: 'red' },
        { id: 'red2', duration: 5, uses: { hands: 1 }, family: 'red' },
        { id: 'blue', duration: 5, uses: { hands: 1 }, family: 'blue' },
        { id: 'fan1', duration: 10, uses: { fan: 1 } },
        { id: 'fan2', duration: 10, uses: { fan: 2 } },
        { id: 'fan3', duration: 4, uses: { fan: 1 } },
      ],
    }),
  );
  it('leaves room for a changeover to another family, none to its own', () => {
    const t = new Timeline(m);
    t.place(0, 0);
    expect(t.earliestFit(1, 0)).toBe(10);
    expect(t.earliestFit(2, 0)).toBe(14);
    t.place(2, 30);
    // Between red and blue: its own family at once, four seconds before the other.
    expect(t.earliestFit(1, 12)).toBe(12);
    expect(t.earliestFit(1, 22)).toBe(39);
  });
  it('counts what runs at the same time, and forgets what is removed', () => {
    const t = new Timeline(m);
    t.place(3, 0);
    expect(t.earliestFit(4, 0)).toBe(10);
    expect(t.earliestFit(5, 3)).toBe(3);
    t.place(5, 3);
    expect(t.earliestFit(5, 0)).toBe(7);
    t.remove(3);
    expect(t.earliestFit(4, 0)).toBe(7);
  });
});

describe('construction, bounds and exact search', () => {
  const p = problem({
    resources: [{ id: 'hands', capacity: 1, closed: [[12, 40]] }],
    tasks: [task('flood', 6), task('dots', 3), task('other', 4)],
    links: [{ from: 'flood', to: 'dots', min: 1, max: 4 }],
  });
  const m = buildModel(p);
  it('a group whose window would fall into the night moves as a whole', () => {
    const groups = buildGroups(m, components(m));
    const made = construct(
      m,
      groups,
      groups.list.map((g) => (g.length > 1 ? 1 : 0)),
      groups.list.map((g) => [...g]),
      seededRng(1),
    );
    // "other" first takes 0–4; flood and dots would need until 14, so both wait for the morning.
    expect('start' in made && [...made.start]).toEqual([40, 47, 0]);
    const better = construct(
      m,
      groups,
      groups.list.map((g) => (g.length > 1 ? 0 : 1)),
      groups.list.map((g) => [...g]),
      seededRng(1),
    );
    expect('start' in better && [...better.start]).toEqual([0, 7, 40]);
  });
  it('exact search finds the least end and proves it; bounds stay below it', () => {
    const open = earliestOpenStarts(m, [0, 7, 0]);
    if (!('start' in open)) throw new Error('must open');
    const found = exactSearch(m, open.start, { nodes: 10_000, cancelled: () => false }, { below: 1000 });
    expect(found).toMatchObject({ kind: 'found', complete: true });
    const end = found.kind === 'found' ? (scheduleValue(m, found.start)[0] as number) : 0;
    expect(end).toBe(44);
    expect(lowerBounds(m, open.start).makespan).toBeLessThanOrEqual(end);
    expect(exactSearch(m, open.start, { nodes: 10_000, cancelled: () => false }, { below: end })).toMatchObject({
      kind: 'none',
      complete: true,
    });
  });
  it('values are compared by lateness, then end, then how early things start', () => {
    expect(lessThan([0, 9, 9], [1, 0, 0])).toBe(true);
    expect(lessThan([0, 5, 9], [0, 6, 0])).toBe(true);
    expect(lessThan([0, 5, 3], [0, 5, 3])).toBe(false);
  });
  it('shuffles keep every member and repeat with the seed', () => {
    const list = [...Array(20).keys()];
    expect(shuffled(list, seededRng(3))).toEqual(shuffled(list, seededRng(3)));
    expect([...shuffled(list, seededRng(3))].sort((a, b) => a - b)).toEqual(list);
    expect(shuffled(list, seededRng(3))).not.toEqual(list);
  });
});
