import { randomUUID } from 'node:crypto';
import { parseSchool, type School, schools } from '@kestfog/core/steps';
import { canonicalText } from '@kestfog/core/units';
import type { SchoolView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { isUUID } from 'class-validator';
import { type EntityManager, IsNull, Not, Repository } from 'typeorm';
import { OrderEntity } from '../orders/order.entity.js';
import { changedElsewhere, notFound, Refusal } from '../platform/errors.js';
import { once } from '../platform/once.js';
import { SchoolEntity } from './school.entity.js';

@Injectable()
export class SchoolsService {
  constructor(@InjectRepository(SchoolEntity) private readonly rows: Repository<SchoolEntity>) {}

  async list(): Promise<SchoolView[]> {
    const own = await this.rows.find({ order: { createdAt: 'ASC' } });
    return [...schools.map((s) => ({ ...s, preset: true, revision: 0 })), ...own.map(viewOf)];
  }
  /** Those in the trash, the last deleted first. */
  async trash(): Promise<SchoolView[]> {
    return (await this.rows.find({ where: { deletedAt: Not(IsNull()) }, order: { deletedAt: 'DESC' }, withDeleted: true })).map(viewOf);
  }

  async view(id: string): Promise<SchoolView> {
    return viewOf(await this.own(id));
  }

  /** A preset, or one of the user's own, by its id. */
  async get(id: string): Promise<School> {
    const preset = schools.find((s) => s.id === id);
    if (preset) return preset;
    const own = isUUID(id) ? await this.rows.findOneBy({ id }) : null;
    if (!own) throw new Refusal(400, 'unknown-school', msg`The school "${id}" does not exist: choose another.`);
    return { ...own.school, id };
  }

  /** The school of an order; one that was deleted since as the order keeps it. */
  async of(order: Pick<OrderEntity, 'school' | 'schoolKept'>): Promise<School> {
    return order.schoolKept ?? this.get(order.school);
  }

  async add(json: unknown, id: string = randomUUID()): Promise<SchoolView> {
    const { id: _id, ...school } = parseSchool({ ...(json as object), id: 'own' });
    await once(
      id,
      (known) => this.rows.exists({ where: { id: known }, withDeleted: true }),
      () => this.rows.insert({ id, school }),
    );
    return viewOf(await this.own(id));
  }

  /** `basedOn` is the revision the change goes on from; left out, whatever is there is changed. */
  async change(id: string, json: unknown, basedOn?: number): Promise<SchoolView> {
    const { id: _id, ...school } = parseSchool({ ...(json as object), id });
    return this.rows.manager.transaction(async (m) => {
      const row = await this.own(id, m);
      if (basedOn !== undefined && basedOn !== row.revision) {
        // Sent again because its answer was lost, it is there already.
        if (canonicalText(row.school) === canonicalText(school)) return viewOf(row);
        throw changedElsewhere(msg`This school was changed elsewhere meanwhile: look at both, and choose.`);
      }
      Object.assign(row, { school, revision: row.revision + 1 });
      return viewOf(await m.save(row));
    });
  }

  /** Puts a school into the trash; orders that were made with it go on with it. */
  async remove(id: string): Promise<void> {
    await this.rows.manager.transaction(async (m) => {
      const row = await this.own(id, m);
      await m.update(OrderEntity, { school: id }, { schoolKept: { ...row.school, id } });
      await m.softDelete(SchoolEntity, { id });
    });
  }

  /** Takes it out of the trash; orders that kept it for themselves follow it again. */
  async restore(id: string): Promise<SchoolView> {
    return this.rows.manager.transaction(async (m) => {
      if (!(await m.restore(SchoolEntity, { id, deletedAt: Not(IsNull()) })).affected) throw notFound(msg`school in the trash`);
      await m.update(OrderEntity, { school: id }, { schoolKept: null });
      return viewOf(await this.own(id, m));
    });
  }

  async removeForGood(id: string): Promise<void> {
    if (!(await this.rows.delete({ id, deletedAt: Not(IsNull()) })).affected) throw notFound(msg`school in the trash`);
  }

  /** Within a transaction it is held, so that nobody else changes it meanwhile. */
  private async own(id: string, m?: EntityManager): Promise<SchoolEntity> {
    const row = m
      ? await m.findOne(SchoolEntity, { where: { id }, lock: { mode: 'pessimistic_write' } })
      : await this.rows.findOneBy({ id });
    if (!row) throw notFound(msg`school of your own`);
    return row;
  }
}

const viewOf = ({ id, school, revision }: SchoolEntity): SchoolView => ({ ...school, id, preset: false, revision });
