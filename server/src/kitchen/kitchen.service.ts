import { DEHYDRATOR_AIR_M_PER_S, REFERENCE_AIR } from '@kestfog/core/drying';
import { REFERENCE_SECONDS } from '@kestfog/core/icing';
import { USUAL_TIPS } from '@kestfog/core/steps';
import type { Kitchen } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { KitchenEntity } from './kitchen.entity.js';

const ONLY_ROW = 1;
/** A kitchen nobody has described yet. */
export const FIRST_KITCHEN: Kitchen = {
  countsBy: 'line',
  floodCount: REFERENCE_SECONDS,
  eggWhite: 'dried',
  recipe: 'my icing',
  mix: null,
  air: { tempC: REFERENCE_AIR.tempC, humidityPct: REFERENCE_AIR.humidityFrac * 100, airMPerS: REFERENCE_AIR.airMPerS },
  tips: [...USUAL_TIPS],
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  dehydrator: { tempC: 35, airMPerS: DEHYDRATOR_AIR_M_PER_S },
  // Nothing is known of anyone's money: until it is told, nothing is charged.
  prices: { currency: '€', handsPerHour: 0, icingPerKg: 0, cookieEach: 0, cartonEach: 0 },
  carton: { name: 'flat carton', widthMm: 200, depthMm: 200, layers: 1 },
};

@Injectable()
export class KitchenService {
  constructor(@InjectRepository(KitchenEntity) private readonly rows: Repository<KitchenEntity>) {}

  async kept(): Promise<Kitchen> {
    return { ...FIRST_KITCHEN, ...(await this.rows.findOneBy({ id: ONLY_ROW }))?.kitchen };
  }

  /** What is left out stays as it was. */
  async keep(more: Partial<Kitchen>): Promise<Kitchen> {
    const said = Object.fromEntries(Object.entries(more).filter(([, value]) => value !== undefined));
    await this.rows.upsert({ id: ONLY_ROW, kitchen: { ...(await this.kept()), ...said } }, ['id']);
    return this.kept();
  }
}
