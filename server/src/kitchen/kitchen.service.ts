import { DEHYDRATOR_AIR_M_PER_S, REFERENCE_AIR } from '@kestfog/core/drying';
import { REFERENCE_SECONDS } from '@kestfog/core/icing';
import { NOTHING_KNOWN } from '@kestfog/core/labelling';
import { USUAL_TIPS } from '@kestfog/core/steps';
import { canonicalText } from '@kestfog/core/units';
import type { Kitchen, KitchenView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { changedElsewhere } from '../platform/errors.js';
import { KitchenEntity } from './kitchen.entity.js';

const ONLY_ROW = 1;
/** A kitchen nobody has described yet. */
export const FIRST_KITCHEN: Kitchen = {
  countsBy: 'line',
  floodCount: REFERENCE_SECONDS,
  eggWhite: 'dried',
  recipe: msg`my icing`,
  mix: null,
  air: { tempC: REFERENCE_AIR.tempC, humidityPct: REFERENCE_AIR.humidityFrac * 100, airMPerS: REFERENCE_AIR.airMPerS },
  tips: [...USUAL_TIPS],
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  dehydrator: { tempC: 35, airMPerS: DEHYDRATOR_AIR_M_PER_S },
  // Nothing is known of anyone's money: until it is entered, nothing is charged.
  prices: { currency: '€', handsPerHour: 0, icingPerKg: 0, cookieEach: 0, cartonEach: 0 },
  usual: null,
  week: null,
  colourNames: {},
  bakedOf: '',
  allergens: NOTHING_KNOWN,
  taxLine: '',
  carton: { name: msg`flat carton`, widthMm: 200, depthMm: 200, layers: 1 },
};

@Injectable()
export class KitchenService {
  constructor(@InjectRepository(KitchenEntity) private readonly rows: Repository<KitchenEntity>) {}

  async kept(): Promise<KitchenView> {
    const row = await this.rows.findOneBy({ id: ONLY_ROW });
    return { ...FIRST_KITCHEN, ...row?.kitchen, revision: row?.revision ?? 0 };
  }

  /**
   * What is left out stays as it was. `basedOn` is the revision the change goes on from: a field that was changed since is not overwritten.
   * Left out, whatever is there is changed.
   */
  async keep(more: Partial<Kitchen>, basedOn?: number): Promise<KitchenView> {
    const said = Object.fromEntries(Object.entries(more).filter(([, value]) => value !== undefined));
    await this.rows.manager.transaction(async (m) => {
      await m
        .createQueryBuilder()
        .insert()
        .into(KitchenEntity)
        .values({ id: ONLY_ROW, kitchen: FIRST_KITCHEN, revision: 0 })
        .orIgnore()
        .execute();
      const row = await m.findOneOrFail(KitchenEntity, { where: { id: ONLY_ROW }, lock: { mode: 'pessimistic_write' } });
      const kept = { ...FIRST_KITCHEN, ...row.kitchen } as Record<string, unknown>;
      // Sent again because its answer was lost, it is there already.
      const differs = (field: string) => canonicalText(kept[field]) !== canonicalText(said[field]);
      if (basedOn !== undefined && Object.keys(said).some((field) => (row.changedIn[field] ?? 0) > basedOn && differs(field)))
        throw changedElsewhere(msg`The kitchen was changed elsewhere meanwhile: look at both, and choose.`);
      const revision = row.revision + 1;
      row.changedIn = { ...row.changedIn, ...Object.fromEntries(Object.keys(said).map((field) => [field, revision])) };
      await m.save(KitchenEntity, { ...row, kitchen: { ...FIRST_KITCHEN, ...row.kitchen, ...said }, revision });
    });
    return this.kept();
  }
}
