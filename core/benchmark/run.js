// npm run benchmark: the engine against known answers, decorating first, job shops last; gaps in per cent, medians over seeds; the
// wet preview; re-planning and the bench's log; a curve of growing problems. Times beside a unit measured in the same run, since
// machines are
// noisy. Writes docs/benchmarks.md. BENCH_SCALE=0.2 makes it a quick look.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { meetingsOf, readDesign } from '../dist/design/index.js';
import { dryingRate } from '../dist/drying/index.js';
import { wetPicture } from '../dist/marbling/index.js';
import { parseProblem, solve } from '../dist/scheduling/index.js';
import { deriveSteps, schoolById } from '../dist/steps/index.js';
import { seededRng } from '../dist/time/index.js';
import { logRows } from './log.js';
import { largeRows, orderRows } from './orders.js';
import { pipingTimes } from './piping.js';

const DIR = new URL('../test/fixtures/problems/', import.meta.url);
const SCALE = Number(process.env.BENCH_SCALE ?? 1);
const SERVER = '## The server under load';
const SEEDS = [1, 2, 3];
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const json = (file) => JSON.parse(readFileSync(new URL(file, DIR), 'utf8'));
const names = readdirSync(DIR)
  .filter((f) => f.endsWith('.json') && !f.endsWith('.solution.json'))
  .map((f) => f.replace('.json', ''));

// The unit of time: ten thousand drying rates in fresh air, pure arithmetic.
const unitBegan = performance.now();
for (let i = 0; i < 10_000; i++) dryingRate({ tempC: 20 + i * 1e-4, humidityFrac: 0.5, airMPerS: 0.1 });
const unitMs = performance.now() - unitBegan;
const units = (ms) => (ms / unitMs).toFixed(2);

const timed = (problem, seconds, seed, more = {}) => {
  const began = performance.now();
  const answer = solve(problem, {
    passes: Number.POSITIVE_INFINITY,
    seed,
    timeUsed: () => (performance.now() - began) / 1000 / (seconds * SCALE),
    ...more,
  });
  return { answer, seconds: (performance.now() - began) / 1000 };
};
const row = (cells) => {
  console.log(cells.join('  '));
  return `| ${cells.join(' | ')} |`;
};

const decorating = names
  .filter((n) => n.includes('-'))
  .map((name) => {
    const problem = parseProblem(json(`${name}.json`));
    const known = json(`${name}.solution.json`);
    const n = problem.tasks.length;
    const began = performance.now();
    solve(problem, { passes: 0, seed: 1 });
    const firstMs = performance.now() - began;
    const seconds = n > 500 ? 15 : n > 200 ? 10 : n > 50 ? 5 : 10;
    const runs = SEEDS.map((seed) => timed(problem, seconds, seed));
    const goal = known.tardiness ?? known.makespan;
    const gaps = runs.map(({ answer }) => (100 * ((known.tardiness === undefined ? answer.makespan : answer.tardiness) - goal)) / goal);
    const proven = runs.filter((r) => r.answer.proven === true).length;
    return row([
      name,
      n,
      goal,
      `${median(gaps).toFixed(2)} %`,
      `${proven} of ${SEEDS.length}`,
      `${median(runs.map((r) => r.seconds)).toFixed(1)} s`,
      units(firstMs),
    ]);
  });

const orders = orderRows().map(row);
const largeOrders = largeRows(unitMs).map(row);

const replan = (() => {
  const problem = parseProblem(json('week-97001.json'));
  const plan = solve(problem, { passes: 200, seed: 1 });
  const order = Object.entries(plan.start).sort((a, b) => a[1] - b[1]);
  const rng = seededRng(5);
  const times = [...Array(21).keys()].map(() => {
    // The last of the first dozen tasks runs over; what is done and in hand stays, the rest is planned anew.
    const done = order.slice(0, 6 + Math.floor(rng() * 8));
    const slow = done.at(-1)[0];
    const slipped = {
      ...problem,
      tasks: problem.tasks.map((t) => (t.id === slow ? { ...t, duration: t.duration + 60 + Math.floor(rng() * 900) } : t)),
    };
    const began = performance.now();
    const answer = solve(slipped, { passes: 8, seed: 1, warm: plan.start, frozen: Object.fromEntries(done) });
    return { ms: performance.now() - began, worse: (100 * (answer.makespan - plan.makespan)) / plan.makespan };
  });
  return row([
    're-plan after a slip, 309 tasks',
    `${median(times.map((t) => t.ms)).toFixed(0)} ms`,
    `${Math.max(...times.map((t) => t.ms)).toFixed(0)} ms`,
    `${median(times.map((t) => t.worse)).toFixed(2)} %`,
  ]);
})();

/** Trays that are flooded, wait and are flooded again, through nights: a problem of n tasks. */
function grown(n) {
  const rng = seededRng(n);
  const tasks = [];
  const links = [];
  for (let t = 0; tasks.length < n; t++) {
    for (let r = 0; r < 5 && tasks.length < n; r++) {
      const id = `T${t}.${r}`;
      tasks.push({ id, duration: 120 + Math.floor(rng() * 600), uses: { hands: 1 }, family: `c${Math.floor(rng() * 6)}` });
      if (r > 0)
        links.push({
          from: `T${t}.${r - 1}`,
          to: id,
          min: r === 1 ? 0 : 900 + Math.floor(rng() * 3600),
          ...(r === 1 ? { max: 1800 } : {}),
        });
    }
  }
  const closed = [...Array(200).keys()].map((d) => [d * 86_400 + 43_200, (d + 1) * 86_400]);
  return parseProblem({
    format: 'kestfog-problem/1',
    resources: [{ id: 'hands', capacity: 1, changeover: 45, closed }],
    tasks,
    links,
    objective: 'makespan',
  });
}
const curve = [50, 100, 200, 500, 1000, 2000].map((n) => {
  const problem = grown(n);
  const before = process.memoryUsage().heapUsed;
  const began = performance.now();
  const first = solve(problem, { passes: 0, seed: 1 });
  const firstMs = performance.now() - began;
  const { answer } = timed(problem, 5, 1);
  const mb = Math.max(0, process.memoryUsage().heapUsed - before) / 1e6;
  return row([
    n,
    `${firstMs.toFixed(0)} ms`,
    units(firstMs),
    `${((100 * (first.makespan - answer.makespan)) / answer.makespan).toFixed(2)} %`,
    `${((100 * (answer.makespan - answer.lowerBound)) / answer.lowerBound).toFixed(2)} %`,
    `${mb.toFixed(0)} MB`,
  ]);
});

const shops = names
  .filter((n) => !n.includes('-'))
  .map((name) => {
    const file = json(`${name}.json`);
    const problem = parseProblem(file);
    const { answer, seconds } = timed(problem, name === 'la21' ? 180 : 20, 1);
    return row([
      name,
      problem.tasks.length,
      file.knownOptimum,
      answer.makespan,
      answer.proven === true ? 'proven' : `bound ${answer.lowerBound}`,
      `${seconds.toFixed(1)} s`,
    ]);
  });

const preview = (() => {
  const circle = (x, y, r, n = 64) =>
    [...Array(n).keys()].map((i) => ({ x: x + r * Math.cos((2 * Math.PI * i) / n), y: y + r * Math.sin((2 * Math.PI * i) / n) }));
  const marks = [...Array(80).keys()].map((i) =>
    i % 2
      ? {
          id: `m${i}`,
          technique: 'wet-drop',
          points: circle(20 + (i % 10) * 6.5, 15 + Math.floor(i / 10) * 9, 2.2),
          closed: true,
          colour: '#000000',
          widthMm: 0,
        }
      : {
          id: `m${i}`,
          technique: 'wet-line',
          points: [
            { x: 15, y: 10 + i },
            { x: 85, y: 10 + i },
          ],
          closed: false,
          colour: '#ffffff',
          widthMm: 1.4,
        },
  );
  const drags = [...Array(30).keys()].map((i) => ({
    id: `d${i}`,
    technique: 'drag',
    points: [
      { x: 12 + i * 2.6, y: 30 + (i % 3) * 10 },
      { x: 12 + i * 2.6, y: 60 + (i % 3) * 10 },
    ],
    closed: false,
    colour: '#000000',
    widthMm: 1,
  }));
  const shape = [circle(50, 50, 50, 200)];
  const timed3 = (of) =>
    median(
      [1, 2, 3].map(() => {
        const began = performance.now();
        wetPicture({ id: 's', sections: [{ id: 's', shape, depthMm: 2.5, colour: '#f6f3ea' }], shape, depthMm: 2.5, marks: of });
        return performance.now() - began;
      }),
    );
  const dots = [...Array(80).keys()].map((i) => ({
    id: `m${i}`,
    technique: 'wet-drop',
    points: circle(22 + (i % 8) * 8, 16 + Math.floor(i / 8) * 7.5, 1.5),
    closed: true,
    colour: '#000000',
    widthMm: 0,
  }));
  return [
    ['wet flow, 80 dots and 30 drags on 100 mm', timed3([...dots, ...drags])],
    ['wet flow, 40 dots, 40 lines that fill the flood and 30 drags on 100 mm', timed3([...marks, ...drags])],
  ]
    .map(([what, ms]) => row([what, `${ms.toFixed(0)} ms`, units(ms)]))
    .join('\n');
})();

// The stack: a drawing of 300 parts and a flag of 35 sections, from its text to meetings and to the order of one cookie.
const sheet = (inner) => `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">${inner}</svg>`;
const tiles = (rows, columns, side, part) =>
  sheet([...Array(rows * columns).keys()].map((i) => part(i, 2 + (i % columns) * side, 2 + Math.floor(i / columns) * side)).join(''));
const hundred = tiles(
  10,
  10,
  19.6,
  (i, x, y) =>
    `<rect id="f${i}" x="${x}" y="${y}" width="19.6" height="19.6" fill="${i % 2 ? '#f6f3ea' : '#3f7f86'}"/><circle id="d${i}" cx="${x + 5}" cy="${y + 5}" r="2" fill="#b3261e"/><path id="l${i}" d="M${x + 2} ${y + 15}h15" fill="none" stroke="#22343c" stroke-width="1.2"/>`,
);
const flag = tiles(
  5,
  7,
  26,
  (i, x, y) =>
    `<path id="s${i}" d="M${x} ${y}C${x + 8} ${y - 3} ${x + 18} ${y + 3} ${x + 26} ${y}V${y + 26}C${x + 18} ${y + 29} ${x + 8} ${y + 23} ${x} ${y + 26}Z" fill="${['#f6f3ea', '#b3261e', '#1f3f6b'][i % 3]}"/><path id="m${i}" data-part="mark" data-technique="wet-line" d="M${x + 3} ${y + 6}h20" stroke="#222222" fill="none"/><path id="l${i}" d="M${x + 2} ${y + 20}h20" stroke="#555555" fill="none"/>`,
);
const medianMs = (work) =>
  median(
    SEEDS.map(() => {
      const began = performance.now();
      work();
      return performance.now() - began;
    }),
  );
const stackRows = [
  ['300 parts', hundred],
  ['a flag of 35 sections', flag],
].map(([name, text]) => {
  const read = medianMs(() => readDesign(text));
  const met = medianMs(() => meetingsOf(readDesign(text)));
  const whole = medianMs(() => deriveSteps(readDesign(text), schoolById('two-bags')));
  const cell = (ms) => `${ms.toFixed(0)} ms (${units(ms)})`;
  return `| ${name} | ${readDesign(text).parts.length} | ${cell(read)} | ${cell(met)} | ${cell(whole)} |`;
});

const pipingRows = pipingTimes(medianMs).map(([what, ms]) => row([what, `${ms.toFixed(0)} ms`, units(ms)]));

// The server is measured apart: what was found there stays.
const FILE = new URL('../../docs/benchmarks.md', import.meta.url);
const before = readFileSync(FILE, 'utf8');
const server = before.includes(SERVER) ? before.slice(before.indexOf(SERVER)) : '';
writeFileSync(
  FILE,
  `# Benchmarks

Made by \`npm run benchmark\` (${cpus()[0]?.model.trim() ?? 'some processor'}, Node ${process.versions.node}${SCALE === 1 ? '' : `, times scaled by ${SCALE}`}). A unit is
ten thousand drying rates of the same run
(${unitMs.toFixed(0)} ms here).

## Decorating problems

The gap is to the best known answer (tardiness where that is the objective), median of ${SEEDS.length} seeds; 10 s a problem up to 50 tasks, 5 s up to 200, 10 s
and 15 s above. The first plan in units.

| problem | tasks | best known | gap | proven | took | first plan |
|---|---|---|---|---|---|---|
${decorating.join('\n')}

## Orders with a fan or a dehydrator

When all is packed, h:mm from the first opening: with nothing carried; with one stay tried at a time and kept if the order gains; as planned
in 5 s, every set of stays searched or judged. What no plan can beat, over all stays, and how soon that was proven of the plan. Before every
set was searched they ended at 2:16, 5:44, 24:03, 8:42, 2:57, 4:20, 24:03, 7:55, 2:24 and 8:20, none proven.

| order | no stays | one at a time | together | gains | stays | bound | proven |
|---|---|---|---|---|---|---|---|
${orders.join('\n')}

Large orders, each in a process of its own: how soon there is a plan, how much more time makes of it (5 s; 30 s for the 500), memory.

| order | first plan | in units | settled | first over settled | memory |
|---|---|---|---|---|---|
${largeOrders.join('\n')}

## Re-planning

Frozen prefix and warm start, 21 slips.

| what | median | worst | makespan worse by |
|---|---|---|---|
${replan}

## The bench's log

| what | median | in units |
|---|---|---|
${logRows(unitMs).join('\n')}

## Growing problems

First plan at once; how much 5 s better it; how far that is from the bound at most.

| tasks | first plan | in units | first over settled | settled over bound | memory |
|---|---|---|---|---|---|
${curve.join('\n')}

## Classic job shops

20 s each, la21 180 s.

| problem | tasks | optimum | found | | took |
|---|---|---|---|---|---|
${shops.join('\n')}

## The stack of parts

| drawing | parts | read | with meetings | with the order of one cookie |
|---|---|---|---|---|
${stackRows.join('\n')}

## Piping on the screen

| what | median | in units |
|---|---|---|
${pipingRows.join('\n')}

## Wet on wet

| what | median | in units |
|---|---|---|
${preview}

${server}`,
);
