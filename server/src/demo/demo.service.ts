import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { benchTouches, type CookieOutcome, type StoredEvent, visitPaces } from '@kestfog/core/bench';
import { type DesignEdit, readDesign } from '@kestfog/core/design';
import { DEHYDRATOR_AIR_M_PER_S } from '@kestfog/core/drying';
import { HAND_GAP_MM, type Plan, parseOrder } from '@kestfog/core/formats';
import { runAccount } from '@kestfog/core/notebook';
import { bagsOf, planOrder } from '@kestfog/core/planning';
import { type Habits, slower, worked } from '@kestfog/core/rehearsal';
import type { DefectId } from '@kestfog/core/steps';
import { gauss, seededRng } from '@kestfog/core/time';
import type { LotId } from '@kestfog/core/units';
import type { OrderInput } from '@kestfog/core/wire';
import { Inject, Injectable, Logger } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource, Not } from 'typeorm';
import { LearnedRunEntity } from '../calibration/calibration.entities.js';
import { DesignsService } from '../designs/designs.service.js';
import { KitchenService } from '../kitchen/kitchen.service.js';
import { PASSPHRASE } from '../lan/devices.service.js';
import { OrdersService } from '../orders/orders.service.js';
import { PlansService } from '../plans/plans.service.js';
import { Clock } from '../platform/clock.js';
import { CONFIG, type Config } from '../platform/config.js';
import { SettingEntity } from '../platform/setting.entity.js';

interface Drawing {
  readonly name: string;
  readonly file: string;
  readonly edits?: readonly DesignEdit[];
}
const DRAWINGS: readonly Drawing[] = [
  { name: 'Lighthouse', file: 'lighthouse.svg' },
  { name: 'Mackerel', file: 'mackerel.svg' },
  { name: 'Sailboat', file: 'sailboat.svg' },
  { name: 'Signal flag', file: 'signal-flag.svg' },
  { name: 'Life ring', file: 'life-ring.svg' },
  { name: 'Sea glass', file: 'sea-glass.svg' },
  { name: 'Gull on a rock', file: 'gull.svg' },
  { name: 'Compass badge', file: 'compass-badge.svg' },
  { name: 'Harbour plaque', file: 'harbour-plaque.svg' },
  { name: 'Buoy transfer', file: 'buoy-transfer.svg', edits: [{ type: 'transfer', on: true }] },
];
const drawn = (file: string): Promise<string> => readFile(fileURLToPath(new URL(`../../demo/${file}`, import.meta.url)), 'utf8');
/** Designs of the small order, and of the whole regatta. */
const ORDERED = 2;
const REGATTA = 8;

/** Evenings of the harbour kitchen that are shown in the notebook: invented, simulated with a seed. */
const SEED = 2611;
/** So far counts of the demo's evenings lie from what was meant, as a logarithm. */
const COUNT_OFF = 0.12;
const PAST: readonly {
  readonly name: string;
  readonly files: readonly string[];
  readonly daysAgo: number;
  /** °C and % humidity */
  readonly air: readonly [number, number];
  /** than the book, in drying */
  readonly slower: number;
  readonly hands: Habits;
  /** on a cookie of a tray, from 0, half way through the evening */
  readonly defects: readonly { readonly tray: number; readonly cookie: number; readonly seen: DefectId; readonly outcome: CookieOutcome }[];
}[] = [
  {
    name: 'Harbour master’s tea',
    files: ['life-ring', 'signal-flag'],
    daysAgo: 96,
    air: [20, 62],
    slower: 1.15,
    hands: { early: 0.5, takes: 1.25 },
    defects: [
      { tray: 0, cookie: 3, seen: 'ran-together', outcome: 'left' },
      { tray: 1, cookie: 1, seen: 'broken', outcome: 'shorter' },
    ],
  },
  {
    name: 'Rowing club evening',
    files: ['sailboat', 'gull'],
    daysAgo: 61,
    air: [22, 55],
    slower: 1.1,
    hands: { early: 0.4, takes: 1.12, calledAway: { share: 0.1, s: 900 } },
    defects: [{ tray: 1, cookie: 4, seen: 'crater', outcome: 'covered' }],
  },
  {
    name: 'Lighthouse open day',
    files: ['lighthouse', 'mackerel', 'sea-glass'],
    daysAgo: 27,
    air: [23, 48],
    slower: 1.05,
    hands: { early: 0.4, takes: 1.04 },
    defects: [],
  },
];

/** The log with what went wrong half way through; the rest of the evening knows of it. */
function withDefects(log: readonly StoredEvent[], plan: Plan, defects: (typeof PAST)[number]['defects']): StoredEvent[] {
  const half = Math.floor(log.length / 2);
  const atMs = log[half]?.atMs as number;
  const said = defects.map(({ tray, cookie, seen, outcome }, i) => {
    const lot = plan.trays[tray]?.lots[0];
    const lotId = lot?.id as LotId;
    // What is seen on icing is seen on a part: the last flood, which comes beside all others.
    const flooded = plan.designs.find((d) => d.id === lot?.designId)?.drawing.parts.filter((p) => p.role === 'section');
    const part = seen === 'broken' ? null : (flooded?.at(-1)?.id ?? null);
    return {
      id: `defect-${i}`,
      deviceId: 'd',
      deviceSeq: log.length + 1 + i,
      seq: 0,
      atMs,
      type: 'defect',
      data: { lotId, cookie, part, seen, surface: 'wet', outcome },
    } as const;
  });
  return [...log.slice(0, half), ...said, ...log.slice(half)].map((e, i) => ({ ...e, seq: i + 1 }));
}

/** The setting while the demo is put in: one that stays so was cut off. */
const FILLING = 'being put in';

/** Puts the invented harbour regatta in, once: deleting it does not bring it back. */
@Injectable()
export class DemoService {
  private readonly log = new Logger('demo');

  constructor(
    @InjectDataSource() private readonly db: DataSource,
    private readonly designs: DesignsService,
    private readonly orders: OrdersService,
    private readonly plans: PlansService,
    private readonly kitchens: KitchenService,
    private readonly clock: Clock,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async prepare(): Promise<void> {
    if (this.config.demo === 'reset') {
      await this.clear();
      this.log.log('everything was put back to the demo');
    }
    const settings = this.db.getRepository(SettingEntity);
    const before = await settings.findOneBy({ key: 'demo' });
    if (before && before.value !== FILLING) return;
    // Cut off while it was filled, before anybody was served: all there is is half a demo.
    if (before) await this.clear();
    await settings.insert({ key: 'demo', value: this.config.demo === 'none' ? 'left out' : FILLING });
    if (this.config.demo === 'none') return;
    await this.fill();
    await settings.update({ key: 'demo' }, { value: 'put in' });
  }

  private async clear(): Promise<void> {
    // Devices were let in to this machine, whatever it holds.
    const tables = this.db.entityMetadatas.map((e) => e.tableName).filter((t) => t !== 'device' && t !== 'setting');
    await this.db.query(`TRUNCATE ${tables.map((t) => `"${t}"`).join(', ')}`);
    await this.db.getRepository(SettingEntity).delete({ key: Not(PASSPHRASE) });
  }

  private async fill(): Promise<void> {
    const ids: string[] = [];
    for (const d of DRAWINGS) {
      ids.push((await this.designs.add(d.name, await drawn(d.file), { edits: d.edits })).id);
    }
    const day = (add: number, hour: number) => {
      const t = new Date(this.clock.nowMs());
      t.setDate(t.getDate() + add);
      t.setHours(hour, 0, 0, 0);
      return t.toISOString();
    };
    const kitchen: Omit<OrderInput, 'name' | 'designs' | 'trays'> = {
      handGapMm: HAND_GAP_MM,
      openingHours: [
        { from: day(1, 14), to: day(1, 22) },
        { from: day(2, 7), to: day(2, 19) },
      ],
      air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
      fan: { places: 1, airMPerS: 1 },
      dehydrator: null,
      decorators: [{ id: 'me', pace: 1 }],
      openBags: null,
      pins: [],
      notes: '',
      hostId: null,
      transfersForId: null,
      school: 'two-bags',
      margin: 'normal',
      packBy: day(2, 19),
      merges: [],
    };
    const pairs = await this.orders.create({
      ...kitchen,
      name: 'Harbour regatta, first dozen pairs',
      designs: ids.slice(0, ORDERED).map((designId) => ({ designId, count: 12, spares: 0 })),
      trays: ['A', 'B', 'C'].map((id) => ({ id, places: 8 })),
    });
    await this.plans.make(pairs.id);
    const whole = await this.orders.create({
      ...kitchen,
      name: 'Harbour regatta, all six dozen',
      designs: ids.slice(0, REGATTA).map((designId) => ({ designId, count: 9, spares: 0 })),
      trays: ['A', 'B', 'C', 'D', 'E', 'F', 'G'].map((id) => ({ id, widthMm: 420, depthMm: 300 })),
      dehydrator: { places: 2, tempC: 35, airMPerS: DEHYDRATOR_AIR_M_PER_S },
      notes: 'Boat crests go to the club house, the rest to the quay.',
    });
    await this.plans.make(whole.id);
    await this.fillPast();
    this.log.log('the harbour regatta is in');
  }

  /**
   * A few evenings of the harbour kitchen as they could have been, so that the notebook can be looked at on the first day. Nobody worked
   * them: they are simulated, say so, and nothing is learned from them.
   */
  private async fillPast(): Promise<void> {
    const { recipe } = await this.kitchens.kept();
    for (const [i, e] of PAST.entries()) {
      const drawings = await Promise.all(
        e.files.map(async (file) => readDesign(await drawn(`${file}.svg`), DRAWINGS.find((d) => d.file === `${file}.svg`)?.name ?? file)),
      );
      const day = new Date(this.clock.nowMs() - e.daysAgo * 86_400_000);
      const at = (hour: number, more = 0) =>
        new Date(Date.UTC(day.getUTCFullYear(), day.getUTCMonth(), day.getUTCDate() + more, hour)).toISOString();
      const orderOf = (bags: readonly object[]) =>
        parseOrder({
          format: 'kestfog-order/3',
          name: e.name,
          designs: e.files.map((file) => ({ file, count: 6 })),
          trays: e.files.map((_, k) => ({ id: 'ABC'[k], places: 6 })),
          openingHours: [
            [at(14), at(22)],
            [at(7, 1), at(19, 1)],
          ],
          air: { tempC: e.air[0], humidityPct: e.air[1] },
          packBy: at(12, 1),
          margin: 'normal',
          decorators: [{ id: 'me' }],
          bags,
        });
      const planWith = (bags: readonly object[]) => planOrder({ order: orderOf(bags), designs: drawings, passes: 12 });
      const counts = seededRng(SEED - i);
      // Nobody hits the count exactly; every third bag was not counted at all.
      const counted = bagsOf(planWith([])).flatMap(({ colour, seconds }, k) =>
        k % 3 === 2 ? [] : [{ colour, seconds, countedS: Math.round(seconds * Math.exp(COUNT_OFF * gauss(counts)) * 2) / 2 }],
      );
      const plan = planWith(counted);
      const log = withDefects(worked(plan, slower(e.slower), seededRng(SEED + i), e.hands), plan, e.defects);
      const runId = randomUUID();
      await this.db.getRepository(LearnedRunEntity).save({
        runId,
        orderName: e.name,
        startedAt: new Date(log[0]?.atMs as number),
        touches: benchTouches(plan, log),
        visits: visitPaces(plan, log, runId),
        account: runAccount(plan, log, undefined, recipe),
        simulated: true,
        leftOut: false,
      });
    }
  }
}
