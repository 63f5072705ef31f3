import { describe, expect, it } from 'vitest';
import { parseProblem } from './parse-problem.js';
import type { Infeasible } from './problem.js';
import { solve } from './solve.js';

const task = (id: string, more: object = {}) => ({ id, duration: 10, uses: { hands: 1 }, ...more });
const base = (more: object = {}) => ({
  format: 'kestfog-problem/1',
  resources: [{ id: 'hands', capacity: 1 }],
  tasks: [task('a'), task('b')],
  links: [],
  objective: 'makespan',
  ...more,
});

describe('kestfog-problem/1', () => {
  it.each([
    [base({ format: 'other/1' }), 'format'],
    [base({ tasks: [task('a'), task('a')] }), 'twice'],
    [base({ tasks: [task('a', { duration: 1.5 })] }), 'tasks[0] (a).duration'],
    [base({ tasks: [task('a', { duration: -1 })] }), 'tasks[0] (a).duration'],
    [base({ tasks: [task('a', { uses: { feet: 1 } })] }), '"feet"'],
    [base({ links: [{ from: 'a', to: 'z', min: 0 }] }), '"z"'],
    [base({ links: [{ from: 'a', to: 'a', min: 0 }] }), 'itself'],
    [base({ links: [{ from: 'a', to: 'b', min: 5, max: 4 }] }), 'max 4'],
    [base({ links: [{ from: 'a', to: 'b', min: 0, anchor: 'middle' }] }), 'anchor'],
    [
      base({
        resources: [
          {
            id: 'hands',
            capacity: 1,
            closed: [
              [0, 10],
              [5, 20],
            ],
          },
        ],
      }),
      'overlaps',
    ],
    [base({ resources: [{ id: 'hands', capacity: 1, closed: [[10, 10]] }] }), 'closed[0]'],
    [base({ resources: [{ id: 'hands', capacity: 2, changeover: 5 }] }), 'changeover'],
    [base({ objective: 'fastest' }), 'objective'],
    [base({ objective: ['makespan', 'beauty'] }), 'objective[1]'],
    [base({ holds: [{ resource: 'nothing', from: 'a', to: 'a', amount: 1 }] }), 'holds[0].resource'],
    [base({ speed: 1 }), 'speed'],
    [[], 'object'],
  ])('malformed %# is refused by its place', (json, place) => {
    expect(() => parseProblem(json)).toThrow(place);
  });
  const infeasible = (json: object) => solve(parseProblem(json), { passes: 10 }) as Infeasible;
  it('a positive cycle is explained by its links', () => {
    const because = infeasible(
      base({
        links: [
          { from: 'a', to: 'b', min: 100 },
          { from: 'b', to: 'a', anchor: 'start', min: -50 },
        ],
      }),
    ).because;
    expect(because).toMatchObject({ kind: 'positive-cycle', links: [0, 1] });
  });
  it('two tasks that must start together on one pair of hands are a resource conflict', () => {
    expect(infeasible(base({ links: [{ from: 'a', to: 'b', anchor: 'start', min: 0, max: 5 }] })).because).toMatchObject({
      kind: 'resource',
      tasks: ['a', 'b'],
    });
  });
  it('a task longer than any open stretch, and one that wants more than there is', () => {
    expect(infeasible(base({ resources: [{ id: 'hands', capacity: 1, closed: [[5, Number.MAX_SAFE_INTEGER]] }] })).because.kind).toBe(
      'calendar',
    );
    expect(infeasible(base({ tasks: [task('a', { uses: { hands: 2 } })] })).because).toMatchObject({ kind: 'resource', tasks: ['a'] });
  });
  it('a window that night and hands together make impossible is a calendar conflict', () => {
    const json = base({
      resources: [
        {
          id: 'hands',
          capacity: 1,
          closed: [
            [0, 15],
            [20, 40],
            [45, Number.MAX_SAFE_INTEGER],
          ],
        },
      ],
    });
    expect(infeasible(json).because.kind).toBe('calendar');
  });
});
