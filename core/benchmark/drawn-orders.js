// Orders with a fan or a dehydrator drawn at random: one to three designs of the demo on just enough trays or one more, one or two pairs
// of hands, on two days and on the first of them alone. What fits into one day should not end later where there is a second: such are
// marked. Time is counted in seconds of the processor, so that other work beside it says nothing of the plans.
// `node core/benchmark/drawn-orders.js FROM TO [SECONDS]` after a build, for the orders with these numbers.
import { readFileSync } from 'node:fs';
import { readDesign } from '../dist/design/index.js';
import { parseOrder } from '../dist/formats/index.js';
import { planOrder } from '../dist/planning/index.js';
import { seededRng } from '../dist/time/rng.js';

const DEMO = new URL('../../server/demo/', import.meta.url);
const DESIGNS = ['gull', 'life-ring', 'lighthouse', 'mackerel', 'sailboat', 'signal-flag', 'sea-glass', 'compass-badge'];
const PLACES = [
  { fan: { places: 1 } },
  { fan: { places: 2 } },
  { dehydrator: { places: 1 } },
  { dehydrator: { places: 2 } },
  { fan: { places: 1 }, dehydrator: { places: 1 } },
];
const HOUR = 3600;
const DAY = 24 * HOUR;
/** A plan ends later than another where it does so by more than this share. */
const ALIKE = 1.01;
const drawing = (file) => readDesign(readFileSync(new URL(`${file}.svg`, DEMO), 'utf8'), file);

function drawnOrder(seed) {
  const rng = seededRng(seed);
  const upTo = (n) => Math.floor(rng() * n);
  const files = new Set([...Array(1 + upTo(3))].map(() => DESIGNS[upTo(DESIGNS.length)]));
  const designs = [...files].map((file) => ({ file, count: 3 + upTo(7) }));
  const places = 4 + upTo(5);
  const cookies = designs.reduce((sum, d) => sum + d.count, 0);
  const trays = [...Array(Math.ceil(cookies / places) + (rng() < 0.3 ? 1 : 0)).keys()].map((k) => ({ id: `T${k + 1}`, places }));
  const decorators = rng() < 0.4 ? { decorators: [{ id: 'Ada' }, { id: 'Bo' }] } : {};
  return { order: { format: 'kestfog-order/3', designs, trays, ...PLACES[upTo(PLACES.length)], ...decorators }, hours: 6 + upTo(6) };
}

const usedS = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
};

function planned(order, openingHours, seconds) {
  const began = usedS();
  return planOrder({
    order: parseOrder({ ...order, openingHours }),
    designs: order.designs.map((d) => drawing(d.file)),
    passes: Number.POSITIVE_INFINITY,
    timeUsed: () => (usedS() - began) / seconds,
  });
}

const clock = (s) => `${Math.floor(s / HOUR)}:${String(Math.round((s % HOUR) / 60)).padStart(2, '0')}`;
const told = (p) =>
  p.late ? 'late' : `${clock(p.endS)}${p.proven ? ' proven' : ''}${p.driedThrough ? ' with floods beside what is dry' : ''}`;

const [from, to, seconds = 5] = process.argv.slice(2).map(Number);
if (!(from <= to) || !(seconds > 0)) {
  process.stderr.write('Give the first and the last number, and seconds for each plan: node core/benchmark/drawn-orders.js 1 20 5\n');
  process.exit(2);
}
let later = 0;
for (let seed = from; seed <= to; seed++) {
  const { order, hours } = drawnOrder(seed);
  const day = [0, hours * HOUR];
  const two = planned(order, [day, day.map((s) => s + DAY)], seconds);
  const one = planned(order, [day], seconds);
  // What is feared of neighbours counts for more than an early end, and less than being late.
  const isLater = !one.late && !one.driedThrough && two.endS > ALIKE * one.endS;
  later += isLater ? 1 : 0;
  const made = order.designs.map((d) => `${d.count} ${d.file}`).join(', ');
  const more = [
    order.fan && `fan ${order.fan.places}`,
    order.dehydrator && `dehydrator ${order.dehydrator.places}`,
    order.decorators && 'two hands',
  ];
  const what = `${made}; ${order.trays.length} trays of ${order.trays[0].places}; ${more.filter(Boolean).join(', ')}; ${hours} h a day`;
  process.stdout.write(`${seed}  ${what}  ${told(two)} | one day: ${told(one)}${isLater ? '  LATER WITH A DAY MORE' : ''}\n`);
}
process.stdout.write(`${later} of ${to - from + 1} end later with a day more by over 1 %\n`);
