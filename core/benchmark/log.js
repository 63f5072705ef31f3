// The bench's log at about 300 tasks: folding it, with and without readings of the air, and planning again in the middle of it.
// `node core/benchmark/log.js` after a build prints this part of `npm run benchmark` alone.
import { readFileSync } from 'node:fs';
import { foldRun, replan, runIndex } from '../dist/bench/index.js';
import { readDesign } from '../dist/design/index.js';
import { dryingRate } from '../dist/drying/index.js';
import { parseOrder, planIndex } from '../dist/formats/index.js';
import { planOrder } from '../dist/planning/index.js';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const DEMO = new URL('../../server/demo/', import.meta.url);
const files = ['lighthouse', 'mackerel', 'gull', 'sea-glass', 'life-ring'];

/** Rows of the table; `unitMs` is the unit of the same run. */
export function logRows(unitMs) {
  const plan = planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: files.map((file) => ({ file, count: 64 })),
      trays: [...Array(40).keys()].map((i) => ({ id: `T${i + 1}`, places: 8 })),
      decorators: [{ id: 'Ada' }, { id: 'Bo' }],
      openingHours: [5, 6, 7, 8, 9].map((d) => [`2026-06-0${d}T07:00:00Z`, `2026-06-0${d}T21:00:00Z`]),
    }),
    designs: files.map((file) => readDesign(readFileSync(new URL(`${file}.svg`, DEMO), 'utf8'), file)),
    passes: 0,
  });
  const { msOf, sOf } = planIndex(plan);
  const logOf = (readings) => {
    const all = [[0, 'runStarted', {}]];
    for (const t of plan.tasks) all.push([t.startS, 'taskBegun', { taskId: t.id }], [t.endS, 'taskDone', { taskId: t.id }]);
    for (let i = 0; i < readings; i++)
      all.push([(plan.endS * (i + 0.5)) / readings, 'airRead', { tempC: 21 + 2 * Math.sin(i), humidityPct: 50 + 12 * Math.cos(i / 3) }]);
    all.sort((a, b) => a[0] - b[0]);
    return all.map(([s, type, data], i) => ({
      id: `e${i}`,
      deviceId: 'd',
      deviceSeq: i + 1,
      seq: i + 1,
      atMs: Math.round(msOf(s)),
      type,
      data,
    }));
  };
  const timed = (work) =>
    median(
      [...Array(9)].map(() => {
        const began = performance.now();
        work();
        return performance.now() - began;
      }),
    );
  const row = (what, ms) => `| ${what} | ${ms.toFixed(0)} ms | ${(ms / unitMs).toFixed(2)} |`;
  const steps = 2 * plan.tasks.length + 1;
  const logs = [0, 1000 - steps, 2000 - steps].map((n) => logOf(Math.max(0, n)));
  const half = logOf(60).slice(0, Math.floor(plan.tasks.length / 2));
  const state = foldRun(plan, half);
  return [
    // A fresh plan each time: what was indexed before does not count.
    ...logs.map((log) =>
      row(
        `fold of ${log.length} events, ${log.filter((e) => e.type === 'airRead').length} of them readings of the air`,
        timed(() => foldRun({ ...plan }, log)),
      ),
    ),
    row(
      're-plan after a quarter of them',
      timed(() => replan(runIndex({ ...state }), sOf(half.at(-1).atMs) + 200)),
    ),
  ].concat(`| (${plan.tasks.length} tasks, ${plan.waits.length} waits) | | |`);
}

if (process.argv[1] && import.meta.url.endsWith(process.argv[1].split('/').at(-1))) {
  const began = performance.now();
  for (let i = 0; i < 10_000; i++) dryingRate({ tempC: 20 + i * 1e-4, humidityFrac: 0.5, airMPerS: 0.1 });
  console.log(logRows(performance.now() - began).join('\n'));
}
