import { randomUUID } from 'node:crypto';
import { type DesignDocument, type DesignEdit, editsGoOn, MAX_EDITS, parseEdit } from '@kestfog/core/design';
import type { DesignSummary, DesignView, Page } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { type EntityManager, IsNull, Not, Repository } from 'typeorm';
import { OrderDesignEntity } from '../orders/order.entity.js';
import { changedElsewhere, notFound, Refusal } from '../platform/errors.js';
import { likePattern } from '../platform/like.js';
import { once } from '../platform/once.js';
import { DesignEntity, DesignVersionEntity } from './design.entity.js';
import type { DrawingSummary } from './drawing-worker.js';
import { DrawingsService } from './drawings.service.js';

const PAGE = 40;

/** A design with its newest version, without document and drawing. */
interface Row {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly edits: number;
  readonly summary: DrawingSummary | null;
}

/** The name a device gave a design it made, and edits it begins with. */
interface NewDesignWish {
  readonly id?: string | undefined;
  readonly edits?: readonly DesignEdit[];
}

@Injectable()
export class DesignsService {
  constructor(
    @InjectRepository(DesignEntity) private readonly designs: Repository<DesignEntity>,
    @InjectRepository(DesignVersionEntity) private readonly versions: Repository<DesignVersionEntity>,
    @InjectRepository(OrderDesignEntity) private readonly uses: Repository<OrderDesignEntity>,
    private readonly drawings: DrawingsService,
  ) {}

  /** A page of those whose name has `q` in it, as they were made; of those in the trash where it is asked for. */
  async list(q: string, page: number, trash: boolean): Promise<Page<DesignSummary>> {
    const total = await this.designs.count({
      where: { name: likePattern(q), deletedAt: trash ? Not(IsNull()) : IsNull() },
      withDeleted: true,
    });
    const pages = Math.max(1, Math.ceil(total / PAGE));
    const rows = await this.rows(
      `WHERE d."deletedAt" IS ${trash ? 'NOT NULL' : 'NULL'} AND d."name" ILIKE $1 ORDER BY d."createdAt", d."name", d."id" LIMIT ${PAGE} OFFSET $2`,
      [likePattern(q).value, page * PAGE],
    );
    return { items: await this.summaries(rows), total, page, pages };
  }

  /** All of them, to choose from. */
  async choices(): Promise<DesignSummary[]> {
    return this.summaries(await this.rows(`WHERE d."deletedAt" IS NULL ORDER BY d."createdAt", d."name", d."id"`, []));
  }

  private rows(where: string, values: unknown[]): Promise<Row[]> {
    return this.designs.query(
      `SELECT d."id", d."name", d."version", v."edits", v."summary" FROM "design" d
       JOIN "design_version" v ON v."designId" = d."id" AND v."version" = d."version" ${where}`,
      values,
    );
  }

  /** One that cannot be read any more is listed with the reason: it does not take the others with it. */
  private async summaries(rows: readonly Row[]): Promise<DesignSummary[]> {
    const out: DesignSummary[] = [];
    for (const { summary, ...row } of rows) {
      try {
        const { rounds, sections, handsOnS, transfer } = summary ?? (await this.drawings.deriveAgain(row.id, row.version)).summary;
        out.push({ ...row, rounds, sections, handsOnS, transfer, problem: null });
      } catch (error) {
        out.push({ ...row, rounds: 0, sections: 0, handsOnS: 0, transfer: false, problem: (error as Error).message });
      }
    }
    return out;
  }

  async get(id: string): Promise<DesignEntity> {
    const found = await this.designs.findOneBy({ id });
    if (!found) throw notFound('design');
    return found;
  }

  private async document(designId: string, version: number): Promise<DesignDocument> {
    const found = await this.versions.findOneBy({ designId, version });
    if (!found) throw notFound(msg`version of this design`);
    return found.document;
  }

  async view(id: string): Promise<DesignView> {
    const { version } = await this.get(id);
    const [[row], document] = await Promise.all([this.rows('WHERE d."id" = $1', [id]), this.document(id, version)]);
    if (!row) throw notFound('design');
    const [summary] = (await this.summaries([row])) as [DesignSummary];
    const drawing = await this.drawings.drawing({ designId: id, version, edits: document.edits.length });
    return { ...summary, drawing, document, pinned: await this.isPinned(id, version) };
  }

  /** Reads the drawing before it is stored: what cannot be read is refused with its reason. */
  async add(name: string, svg: string, { id = randomUUID(), edits = [] }: NewDesignWish = {}): Promise<DesignView> {
    const document: DesignDocument = { format: 'kestfog-design/3', name, svg, edits };
    await once(
      id,
      (known) => this.designs.exists({ where: { id: known }, withDeleted: true }),
      async () => {
        const derived = await this.drawings.derive(document);
        await this.designs.manager.transaction(async (m) => {
          await m.insert(DesignEntity, { id, name: derived.name, version: 1 });
          await m.insert(DesignVersionEntity, { designId: id, version: 1, ...this.drawings.columnsOf(derived, document) });
        });
      },
    );
    return this.view(id);
  }

  /** The same design under a name of its own, to be changed apart: another palette, or a transfer. */
  async copy(id: string, name: string, copyId?: string): Promise<DesignView> {
    const design = await this.get(id);
    const { svg, edits } = await this.document(id, design.version);
    return this.add(name, svg, { id: copyId, edits: [...edits.filter((e) => e.type !== 'rename'), { type: 'rename', name }] });
  }

  /** Keeps all edits so far. What is stored must be a beginning of them; a version some order keeps is left alone. */
  async change(id: string, incoming: readonly unknown[]): Promise<DesignView> {
    if (incoming.length > MAX_EDITS)
      throw new Refusal(400, 'too-many-edits', msg`A design keeps ${MAX_EDITS} edits: make a copy and go on from there.`);
    const edits = incoming.map((e, i) => parseEdit(e, `edits.${i}`));
    const goesOnFrom = (known: readonly DesignEdit[]) => {
      if (!editsGoOn(edits, known)) throw changedElsewhere(msg`This design was changed elsewhere meanwhile: look at both, and choose.`);
    };
    const before = await this.document(id, (await this.get(id)).version);
    goesOnFrom(before.edits);
    const document = { ...before, edits };
    // Deriving says in one sentence what cannot be: an order that contradicts itself, an attribute that makes no sense.
    const columns = this.drawings.columnsOf(await this.drawings.derive(document), document);
    await this.designs.manager.transaction(async (m) => {
      const design = await m.findOne(DesignEntity, { where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!design) throw notFound('design');
      const known = (await m.findOneByOrFail(DesignVersionEntity, { designId: id, version: design.version })).document.edits;
      goesOnFrom(known);
      if (edits.length > known.length && (await this.isPinned(id, design.version, m))) {
        design.version += 1;
        await m.insert(DesignVersionEntity, { designId: id, version: design.version, ...columns });
      } else await m.update(DesignVersionEntity, { designId: id, version: design.version }, columns);
      design.name = columns.name;
      await m.save(DesignEntity, design);
    });
    return this.view(id);
  }

  /** Puts a design into the trash. What an order uses stays; orders in the trash bring it back with them. */
  async remove(id: string): Promise<void> {
    await this.get(id);
    await this.designs.manager.transaction(async (m) => {
      // Held, so that no order takes it up meanwhile.
      if (!(await m.findOne(DesignEntity, { where: { id }, lock: { mode: 'pessimistic_write' } }))) throw notFound('design');
      const [used] = await m.query(
        `SELECT 1 FROM "order_design" od JOIN "order" o ON o."id" = od."orderId" WHERE od."designId" = $1 AND o."deletedAt" IS NULL LIMIT 1`,
        [id],
      );
      if (used) throw new Refusal(409, 'design-used', msg`An order uses this design: take it off the order first.`);
      await m.softDelete(DesignEntity, { id });
    });
  }

  async restore(id: string): Promise<DesignView> {
    if (!(await this.designs.restore({ id, deletedAt: Not(IsNull()) })).affected) throw notFound(msg`design in the trash`);
    return this.view(id);
  }

  /** Deletes what lies in the trash, for good. */
  async removeForGood(id: string): Promise<void> {
    if (await this.uses.existsBy({ designId: id }))
      throw new Refusal(409, 'design-used', msg`An order in the trash uses this design: delete that for good first, or put it back.`);
    if (!(await this.designs.delete({ id, deletedAt: Not(IsNull()) })).affected) throw notFound(msg`design in the trash`);
  }

  private isPinned(designId: string, version: number, m?: EntityManager): Promise<boolean> {
    return m ? m.existsBy(OrderDesignEntity, { designId, version }) : this.uses.existsBy({ designId, version });
  }
}
