// npm run bench: the engine against the known answers in the fixtures, gaps in per cent; times as a ratio to one
// reference decode of the same run, since machines are noisy. Writes docs/benchmarks.md.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dryingRate, parseProblem, solve } from '../dist/index.js';

const DIR = new URL('../test/fixtures/problems/', import.meta.url);
const SECONDS = Number(process.env.BENCH_SECONDS ?? 2);
const SEEDS = [1, 2, 3];
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

// The unit of time: ten thousand drying rates in fresh air, pure arithmetic.
const unitBegan = performance.now();
for (let i = 0; i < 10_000; i++) dryingRate({ tempC: 20 + i * 1e-4, humidityFrac: 0.5, airMPerS: 0.1 });
const unitMs = performance.now() - unitBegan;

const rows = [];
for (const file of readdirSync(DIR).filter((f) => f.endsWith('.json') && !f.endsWith('.solution.json'))) {
  const json = JSON.parse(readFileSync(new URL(file, DIR), 'utf8'));
  const known =
    json.knownOptimum === undefined ? JSON.parse(readFileSync(new URL(file.replace('.json', '.solution.json'), DIR), 'utf8')) : { makespan: json.knownOptimum };
  const problem = parseProblem(json);
  const firstBegan = performance.now();
  solve(problem, { rounds: 0, seed: 1 });
  const firstMs = performance.now() - firstBegan;
  const answers = SEEDS.map((seed) => {
    const began = performance.now();
    return solve(problem, { rounds: Number.POSITIVE_INFINITY, seed, timeUsed: () => (performance.now() - began) / 1000 / SECONDS });
  });
  const goal = known.tardiness ?? known.makespan;
  const gaps = answers.map((a) => (100 * ((known.tardiness === undefined ? a.makespan : a.tardiness) - goal)) / goal);
  const row = [
    file.replace('.json', ''),
    problem.tasks.length,
    goal,
    `${median(gaps).toFixed(2)} %`,
    `${answers.filter((a) => a.proven).length} of ${SEEDS.length}`,
    (firstMs / unitMs).toFixed(3),
  ];
  rows.push(row);
  console.log(row.join('  '));
}
const table = rows.map((r) => `| ${r.join(' | ')} |`).join('\n');
writeFileSync(
  new URL('../../docs/benchmarks.md', import.meta.url),
  `# Benchmarks\n\nMade by \`npm run bench\`: ${SECONDS} s a problem, median of ${SEEDS.length} seeds. The gap is to the best known answer (tardiness where that is\nthe objective). Time to the first answers (construction, and exact search where small) in units of ten thousand drying rates of the same run.\n\n| problem | tasks | best known | gap | proven | first answers |\n|---|---|---|---|---|---|\n${table}\n`,
);
