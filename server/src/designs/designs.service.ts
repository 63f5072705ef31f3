import { type Design, type DesignSummary, deriveSteps, readDesign, schoolById } from '@kestfog/core';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { notFound } from '../platform/errors.js';
import { DesignEntity } from './design.entity.js';

@Injectable()
export class DesignsService {
  /** drawings do not change once stored, so what was read from one can be kept */
  private readonly summaries = new Map<string, DesignSummary>();

  constructor(@InjectRepository(DesignEntity) private readonly designs: Repository<DesignEntity>) {}

  async list(): Promise<DesignSummary[]> {
    const all = await this.designs.find({ order: { createdAt: 'ASC', name: 'ASC' } });
    return all.map((d) => this.summary(d));
  }

  async get(id: string): Promise<DesignEntity> {
    const found = await this.designs.findOneBy({ id });
    if (!found) throw notFound('design');
    return found;
  }

  async getSummary(id: string): Promise<DesignSummary> {
    return this.summary(await this.get(id));
  }

  /** Reads the drawing before it is stored: what cannot be read is refused with its reason. */
  async add(name: string, svg: string): Promise<DesignSummary> {
    readDesign(svg, name);
    return this.summary(await this.designs.save(this.designs.create({ name, svg })));
  }

  private summary(d: DesignEntity): DesignSummary {
    const known = this.summaries.get(d.id);
    if (known) return known;
    const drawing: Design = readDesign(d.svg, d.name);
    const graph = deriveSteps(drawing, schoolById('two-bags'));
    const made: DesignSummary = {
      id: d.id,
      name: d.name,
      rounds: graph.rounds,
      sections: graph.sections.length,
      handsOnS: Math.round(graph.steps.reduce((s, x) => s + x.seconds, 0)),
      drawing,
    };
    this.summaries.set(d.id, made);
    return made;
  }
}
