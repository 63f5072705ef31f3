import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { DesignEdit } from '@kestfog/core/design';
import { DEHYDRATOR_AIR_M_PER_S } from '@kestfog/core/drying';
import { HAND_GAP_MM } from '@kestfog/core/formats';
import type { OrderInput } from '@kestfog/core/wire';
import { Inject, Injectable, Logger } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { DesignsService } from '../designs/designs.service.js';
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
/** Designs of the small order, and of the whole regatta. */
const ORDERED = 2;
const REGATTA = 8;

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
    await this.db.query(`TRUNCATE ${this.db.entityMetadatas.map((e) => `"${e.tableName}"`).join(', ')}`);
  }

  private async fill(): Promise<void> {
    const ids: string[] = [];
    for (const d of DRAWINGS) {
      const svg = await readFile(fileURLToPath(new URL(`../../demo/${d.file}`, import.meta.url)), 'utf8');
      ids.push((await this.designs.add(d.name, svg, { edits: d.edits })).id);
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
    this.log.log('the harbour regatta is in');
  }
}
