import { parseSchool, type School, schools } from '@kestfog/core/steps';
import type { SchoolView } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { isUUID } from 'class-validator';
import { Repository } from 'typeorm';
import { OrderEntity } from '../orders/order.entity.js';
import { notFound, Refusal } from '../platform/errors.js';
import { SchoolEntity } from './school.entity.js';

@Injectable()
export class SchoolsService {
  constructor(@InjectRepository(SchoolEntity) private readonly rows: Repository<SchoolEntity>) {}

  async list(): Promise<SchoolView[]> {
    const own = await this.rows.find({ order: { createdAt: 'ASC' } });
    return [...schools.map((s) => ({ ...s, preset: true })), ...own.map((o) => ({ ...o.school, id: o.id, preset: false }))];
  }

  /** A preset, or one of the user's own, by its id. */
  async get(id: string): Promise<School> {
    const preset = schools.find((s) => s.id === id);
    if (preset) return preset;
    const own = isUUID(id) ? await this.rows.findOneBy({ id }) : null;
    if (!own) throw new Refusal(400, 'unknown-school', `The school "${id}" does not exist: choose another.`);
    return { ...own.school, id };
  }

  /** The school of an order; one that was deleted since as the order keeps it. */
  async of(order: Pick<OrderEntity, 'school' | 'schoolKept'>): Promise<School> {
    return order.schoolKept ?? this.get(order.school);
  }

  async add(json: unknown): Promise<SchoolView> {
    const { id: _id, ...school } = parseSchool({ ...(json as object), id: 'own' });
    const saved = await this.rows.save(this.rows.create({ school }));
    return { ...saved.school, id: saved.id, preset: false };
  }

  async change(id: string, json: unknown): Promise<SchoolView> {
    const row = await this.rows.findOneBy({ id });
    if (!row) throw notFound('school of your own');
    const { id: _id, ...school } = parseSchool({ ...(json as object), id });
    row.school = school;
    await this.rows.save(row);
    return { ...school, id, preset: false };
  }

  async remove(id: string): Promise<void> {
    await this.rows.manager.transaction(async (m) => {
      const row = await m.findOne(SchoolEntity, { where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!row) throw notFound('school of your own');
      // Orders that were made with it go on with it.
      await m.update(OrderEntity, { school: id }, { schoolKept: { ...row.school, id } });
      await m.delete(SchoolEntity, { id });
    });
  }
}
