import { type DesignDocument, type DesignEdit, foldDesign, MAX_EDITS, parseEdit } from '@kestfog/core/design';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import type { DesignSummary, DesignView } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { type EntityManager, Repository } from 'typeorm';
import { OrderDesignEntity } from '../orders/order.entity.js';
import { notFound, Refusal } from '../platform/errors.js';
import { DesignEntity, DesignVersionEntity } from './design.entity.js';

@Injectable()
export class DesignsService {
  /** what was worked out of a version that can still change is worked out again; of the last few it is kept */
  private readonly summaries = new Map<string, { edits: number; summary: DesignSummary }>();

  constructor(
    @InjectRepository(DesignEntity) private readonly designs: Repository<DesignEntity>,
    @InjectRepository(DesignVersionEntity) private readonly versions: Repository<DesignVersionEntity>,
    @InjectRepository(OrderDesignEntity) private readonly uses: Repository<OrderDesignEntity>,
  ) {}

  async list(): Promise<DesignSummary[]> {
    const all = await this.designs.find({ order: { createdAt: 'ASC', name: 'ASC' } });
    return Promise.all(all.map(async (d) => this.summary(d, await this.document(d.id, d.version))));
  }

  async get(id: string): Promise<DesignEntity> {
    const found = await this.designs.findOneBy({ id });
    if (!found) throw notFound('design');
    return found;
  }

  async document(designId: string, version: number): Promise<DesignDocument> {
    const found = await this.versions.findOneBy({ designId, version });
    if (!found) throw notFound('version of this design');
    return found.document;
  }

  async view(id: string): Promise<DesignView> {
    const design = await this.get(id);
    const document = await this.document(id, design.version);
    return { ...this.summary(design, document), document, pinned: await this.isPinned(id, design.version) };
  }

  /** Reads the drawing before it is stored: what cannot be read is refused with its reason. */
  async add(name: string, svg: string, edits: readonly DesignEdit[] = []): Promise<DesignView> {
    const document: DesignDocument = { format: 'kestfog-design/3', name, svg, edits };
    const folded = foldDesign(document);
    const design = await this.designs.manager.transaction(async (m) => {
      const saved = await m.save(DesignEntity, m.create(DesignEntity, { name: folded.name, version: 1 }));
      await m.insert(DesignVersionEntity, { designId: saved.id, version: 1, document });
      return saved;
    });
    return this.view(design.id);
  }

  /** The same design under a name of its own, to be changed apart: another palette, or a transfer. */
  async copy(id: string, name: string): Promise<DesignView> {
    const design = await this.get(id);
    const { svg, edits } = await this.document(id, design.version);
    return this.add(name, svg, [...edits.filter((e) => e.type !== 'rename'), { type: 'rename', name }]);
  }

  /** Keeps all edits so far. What is stored must be a beginning of them; a version some order keeps is left alone. */
  async change(id: string, incoming: readonly unknown[]): Promise<DesignView> {
    if (incoming.length > MAX_EDITS) throw new Refusal(400, 'too-many-edits', `A design keeps ${MAX_EDITS} edits: make a copy and go on from there.`);
    const edits = incoming.map((e, i) => parseEdit(e, `edits.${i}`));
    await this.designs.manager.transaction(async (m) => {
      const design = await m.findOne(DesignEntity, { where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!design) throw notFound('design');
      const current = await m.findOneByOrFail(DesignVersionEntity, { designId: id, version: design.version });
      const known = current.document.edits;
      if (known.some((e, i) => canonical(e) !== canonical(edits[i])))
        throw new Refusal(409, 'changed-elsewhere', 'This design was changed elsewhere meanwhile: load it again, and do your last change once more.');
      const document = { ...current.document, edits };
      // Folding says in one sentence what cannot be: an order that contradicts itself, an attribute that makes no sense.
      deriveSteps(foldDesign(document), schoolById('two-bags'));
      if (edits.length > known.length && (await this.isPinned(id, design.version, m))) {
        design.version += 1;
        await m.insert(DesignVersionEntity, { designId: id, version: design.version, document });
      } else await m.update(DesignVersionEntity, { designId: id, version: design.version }, { document });
      design.name = foldDesign(document).name;
      await m.save(DesignEntity, design);
    });
    return this.view(id);
  }

  async remove(id: string): Promise<void> {
    await this.get(id);
    if (await this.uses.existsBy({ designId: id })) throw new Refusal(409, 'design-used', 'An order uses this design: take it off the order first.');
    await this.designs.delete({ id });
  }

  private isPinned(designId: string, version: number, m?: EntityManager): Promise<boolean> {
    return m ? m.existsBy(OrderDesignEntity, { designId, version }) : this.uses.existsBy({ designId, version });
  }

  private summary(d: DesignEntity, document: DesignDocument): DesignSummary {
    const key = `${d.id} ${d.version}`;
    const known = this.summaries.get(key);
    if (known?.edits === document.edits.length) return known.summary;
    const drawing = foldDesign(document);
    const graph = deriveSteps(drawing, schoolById('two-bags'));
    const summary: DesignSummary = {
      id: d.id,
      name: drawing.name,
      rounds: graph.rounds,
      sections: graph.sections.length,
      handsOnS: Math.round(graph.steps.reduce((s, x) => s + x.seconds, 0)),
      version: d.version,
      drawing,
    };
    this.summaries.set(key, { edits: document.edits.length, summary });
    return summary;
  }
}

/** JSON with its keys in order, since the database does not keep theirs. */
function canonical(value: unknown): string {
  return JSON.stringify(value, (_key, v: unknown) =>
    typeof v === 'object' && v !== null && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1))) : v,
  );
}
