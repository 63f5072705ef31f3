import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import { parseProblem } from './parse-problem.js';
import type { Solution } from './problem.js';
import { solve } from './solve.js';

// Decorating problems with their best known schedules, and two classic job shops (Fisher & Thompson 1963: ft06, optimum 55;
// Lawrence 1984: la01, optimum 666), each file naming its source.
const DIR = new URL('../../test/fixtures/problems/', import.meta.url);
const json = (file: string) => JSON.parse(readFileSync(new URL(file, DIR), 'utf8'));
const names = readdirSync(DIR)
  .filter((f) => f.endsWith('.json') && !f.endsWith('.solution.json'))
  .map((f) => f.replace('.json', ''));

describe('problems with known answers', () => {
  it.each(names)('%s: every constraint kept, never below the proven optimum, within 3 % of it', (name) => {
    const file = json(`${name}.json`);
    const known = file.knownOptimum === undefined ? json(`${name}.solution.json`) : { makespan: file.knownOptimum, proven: true };
    const answer = solve(parseProblem(file), { rounds: 1500, seed: 1 }) as Solution;
    expect(brokenConstraints(file, answer.start)).toEqual([]);
    if (known.tardiness === undefined) {
      if (known.proven) expect(answer.makespan).toBeGreaterThanOrEqual(known.makespan);
      expect(answer.makespan).toBeLessThanOrEqual(known.makespan * 1.03);
      expect(answer.lowerBound).toBeLessThanOrEqual(known.makespan);
      if (answer.proven) expect(answer.makespan).toBe(known.makespan);
    } else {
      expect(answer.tardiness).toBeGreaterThanOrEqual(known.tardiness);
      expect(answer.tardiness).toBeLessThanOrEqual(known.tardiness * 1.03);
    }
  });
  it('the best known schedules pass the same checker', () => {
    for (const name of names.filter((n) => !['ft06', 'la01'].includes(n)))
      expect(brokenConstraints(json(`${name}.json`), json(`${name}.solution.json`).start)).toEqual([]);
  });
  it('the same seed gives the same schedule', () => {
    const p = parseProblem(json('cramped-90008.json'));
    expect(solve(p, { rounds: 200, seed: 7 })).toEqual(solve(p, { rounds: 200, seed: 7 }));
  });
});
