// Orders with a fan or a dehydrator: when they end without stays, with one stay tried at a time and kept if the order gains (as plans
// were made before stays were decided together), and as planned now. Then how soon the first plan of large orders comes, and what it
// takes. `node core/benchmark/orders.js` after a build prints this part of `npm run benchmark` alone.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { readDesign } from '../dist/design/index.js';
import { parseOrder } from '../dist/formats/index.js';
import { planOrder } from '../dist/planning/index.js';
import { arrange, attempt, better, preparePlanning } from '../dist/planning/planning.js';

const DEMO = new URL('../../server/demo/', import.meta.url);
const SECONDS = 5 * Number(process.env.BENCH_SCALE ?? 1);
const HOUR = 3600;
const DAY = 24 * HOUR;
const drawing = (file) => readDesign(readFileSync(new URL(`${file}.svg`, DEMO), 'utf8'), file);

/** Cookies of each design on trays of so many places, in days of so many hours. */
const orderOf = ({ counts, places, hours, ...more }) => {
  const designs = Object.entries(counts).map(([file, count]) => ({ file, count }));
  const made = designs.reduce((sum, d) => sum + d.count, 0);
  return parseOrder({
    format: 'kestfog-order/3',
    designs,
    trays: [...Array(Math.ceil(made / places)).keys()].map((i) => ({ id: `T${i + 1}`, places })),
    openingHours: hours.map((h, d) => [d * DAY, d * DAY + h * HOUR]),
    ...more,
  });
};
const two = { decorators: [{ id: 'Ada' }, { id: 'Bo' }] };
const ORDERS = [
  [
    '8 flags, 2 pairs of hands, dehydrator for 2',
    { counts: { 'signal-flag': 8 }, places: 4, hours: [8, 7], dehydrator: { places: 2 }, ...two },
  ],
  ['12 flags, dehydrator for 1', { counts: { 'signal-flag': 12 }, places: 4, hours: [8, 8], dehydrator: { places: 1 } }],
  ['12 gulls, fan for 1', { counts: { gull: 12 }, places: 6, hours: [6, 6], fan: { places: 1 } }],
  ['8 lighthouses, 8 mackerels, fan for 1', { counts: { lighthouse: 8, mackerel: 8 }, places: 8, hours: [9, 9], fan: { places: 1 } }],
  ['10 sailboats, dehydrator for 2', { counts: { sailboat: 10 }, places: 5, hours: [8, 8], dehydrator: { places: 2 } }],
  ['12 life rings, both for 1', { counts: { 'life-ring': 12 }, places: 6, hours: [7, 7], dehydrator: { places: 1 }, fan: { places: 1 } }],
  [
    '9 badges, 9 gulls, dehydrator for 1',
    { counts: { 'compass-badge': 9, gull: 9 }, places: 6, hours: [8, 8, 8], dehydrator: { places: 1 } },
  ],
  ['16 mackerels, 2 pairs of hands, fan for 2', { counts: { mackerel: 16 }, places: 8, hours: [8, 8], fan: { places: 2 }, ...two }],
  [
    '6 of sea glass, 6 flags, dehydrator for 2',
    { counts: { 'sea-glass': 6, 'signal-flag': 6 }, places: 6, hours: [8, 8], dehydrator: { places: 2 } },
  ],
  [
    '24 in four designs, both for 1',
    {
      counts: { gull: 6, mackerel: 6, lighthouse: 6, sailboat: 6 },
      places: 8,
      hours: [9, 9, 9],
      dehydrator: { places: 1 },
      fan: { places: 1 },
    },
  ],
];

/** Minutes of a stay as they were offered then. */
const LENGTHS_MIN = { fan: [10, 20, 30, 45], dehydrator: [3, 10, 20, 30, 45] };

/** One stay after another, each kept where the whole order gains a minute by it. */
function oneAtATime(order, designs) {
  const arranged = arrange(preparePlanning({ order, designs }), 'as-listed');
  const judge = (stays) => {
    try {
      return attempt(arranged, { stays, passes: 40 });
    } catch {
      return null;
    }
  };
  const bare = judge([]);
  let best = bare;
  const rounds = new Map();
  for (const v of arranged.visits.filter((x) => x.bundle.kind === 'wet'))
    rounds.set(`${v.lot.trayId} ${v.bundle.round}`, [v.lot.trayId, v.bundle.round]);
  for (const [trayId, round] of rounds.values())
    for (const where of ['dehydrator', 'fan'].filter((p) => order[p]))
      for (const minutes of LENGTHS_MIN[where]) {
        const others = best.stays.filter((s) => s.trayId !== trayId || s.round !== round);
        const next = judge([...others, { where, trayId, round, batch: null, seconds: minutes * 60, why: 'time' }]);
        if (next && better(next.score, best.score) && best.solution.makespan - next.solution.makespan > 60) best = next;
      }
  return { bareS: bare.solution.makespan, endS: best.solution.makespan };
}

export function orderRows() {
  return ORDERS.map(([name, what]) => {
    const order = orderOf(what);
    const designs = order.designs.map((d) => drawing(d.file));
    const { bareS, endS } = oneAtATime(order, designs);
    const began = performance.now();
    const plan = planOrder({
      order,
      designs,
      passes: Number.POSITIVE_INFINITY,
      timeUsed: () => (performance.now() - began) / 1000 / SECONDS,
    });
    return [
      name,
      clock(bareS),
      clock(endS),
      clock(plan.endS),
      `${((100 * (plan.endS - endS)) / endS).toFixed(0)} %`,
      plan.stays.length,
      clock(plan.lowerBoundS),
      plan.proven ? `in ${((performance.now() - began) / 1000).toFixed(1)} s` : '',
    ];
  });
}

const clock = (s) => `${Math.floor(s / HOUR)}:${String(Math.round((s % HOUR) / 60)).padStart(2, '0')}`;

const LARGE = {
  'the demo: 72 cookies, 7 trays, both': {
    counts: { lighthouse: 9, mackerel: 9, sailboat: 9, 'signal-flag': 9, 'life-ring': 9, 'sea-glass': 9, gull: 9, 'compass-badge': 9 },
    places: 11,
    hours: [8, 12],
    fan: { places: 1 },
    dehydrator: { places: 2 },
  },
  '500 cookies, 40 trays, both, 2 pairs of hands': {
    counts: { lighthouse: 100, mackerel: 100, gull: 100, 'signal-flag': 100, 'life-ring': 100 },
    places: 13,
    hours: [12, 12, 12, 12, 12, 12],
    fan: { places: 2 },
    dehydrator: { places: 2 },
    ...two,
  },
};

/** Each in a process of its own, so that memory is its own: first plan, all settled in the time given, and the most memory held. */
export function largeRows(unitMs) {
  return Object.keys(LARGE).map((name) => {
    const run = spawnSync(process.execPath, [fileURLToPath(import.meta.url), '--large', name], { encoding: 'utf8' });
    if (run.status !== 0) throw new Error(run.stderr);
    const { firstMs, settledMs, firstS, endS, mb } = JSON.parse(run.stdout);
    return [
      name,
      `${(firstMs / 1000).toFixed(2)} s`,
      (firstMs / unitMs).toFixed(2),
      `${(settledMs / 1000).toFixed(1)} s`,
      `${((100 * (firstS - endS)) / endS).toFixed(1)} %`,
      `${mb.toFixed(0)} MB`,
    ];
  });
}

function large(name) {
  const order = orderOf(LARGE[name]);
  const designs = order.designs.map((d) => drawing(d.file));
  const began = performance.now();
  const seconds = name.startsWith('500') ? 30 : SECONDS;
  let first = null;
  const plan = planOrder({
    order,
    designs,
    passes: Number.POSITIVE_INFINITY,
    timeUsed: () => (performance.now() - began) / 1000 / seconds,
    onPlan: (p) => {
      first ??= { ms: performance.now() - began, endS: p.endS };
    },
  });
  const settledMs = performance.now() - began;
  const mb = process.resourceUsage().maxRSS / 1024;
  console.log(JSON.stringify({ firstMs: first?.ms ?? settledMs, settledMs, firstS: first?.endS ?? plan.endS, endS: plan.endS, mb }));
}

if (process.argv[2] === '--large') large(process.argv[3]);
else if (process.argv[1] === fileURLToPath(import.meta.url)) {
  for (const r of orderRows()) console.log(r.join('  '));
  for (const r of largeRows(250)) console.log(r.join('  '));
}
