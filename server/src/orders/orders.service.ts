import { randomUUID } from 'node:crypto';
import { parseOrder } from '@kestfog/core/formats';
import type { BagRecord, HostChoice, OrderFileView, OrderInput, OrderSummary, OrderView, Page } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { type EntityManager, In, IsNull, Not, Repository } from 'typeorm';
import { CalibrationService } from '../calibration/calibration.service.js';
import { DesignEntity } from '../designs/design.entity.js';
import { changedElsewhere, notFound, Refusal } from '../platform/errors.js';
import { likePattern } from '../platform/like.js';
import { once } from '../platform/once.js';
import { keptOnTop } from '../platform/revisions.js';
import { RunEntity } from '../runs/run.entity.js';
import { RunFactsService } from '../runs/run-facts.service.js';
import { SchoolsService } from '../schools/schools.service.js';
import { BagEntity } from './bag.entity.js';
import { OrderDesignEntity, OrderEntity } from './order.entity.js';
import { isSameOrder, orderFile } from './order-file.js';
import { type Loaded, OrderLoader } from './order-loader.service.js';
import type { OrderState } from './order-states.js';

/** Orders a list shows at once. */
const PAGE = 12;

@Injectable()
export class OrdersService {
  constructor(
    @InjectRepository(OrderEntity) private readonly orders: Repository<OrderEntity>,
    @InjectRepository(OrderDesignEntity) private readonly items: Repository<OrderDesignEntity>,
    @InjectRepository(DesignEntity) private readonly designs: Repository<DesignEntity>,
    @InjectRepository(BagEntity) private readonly bags: Repository<BagEntity>,
    private readonly loader: OrderLoader,
    private readonly facts: RunFactsService,
    private readonly calibration: CalibrationService,
    private readonly schools: SchoolsService,
  ) {}

  /** A page of those still to be packed, soonest first, or of those that are, latest first; `q` is in their names or their designs'. */
  async list(state: OrderState, q: string, page: number): Promise<Page<OrderSummary>> {
    await this.facts.upToDate();
    const where = `FROM "order" o LEFT JOIN "run" r ON r."orderId" = coalesce(o."hostId", o."id") AND r."deletedAt" IS NULL
      WHERE CASE WHEN o."deletedAt" IS NOT NULL THEN 'trash' WHEN r."finished" THEN 'packed' ELSE 'open' END = $1 AND (o."name" ILIKE $2 OR EXISTS (SELECT 1 FROM "order_design" od
        JOIN "design" d ON d."id" = od."designId" WHERE od."orderId" = o."id" AND d."name" ILIKE $2))`;
    const values = [state, likePattern(q).value];
    const direction = state === 'open' ? 'ASC' : 'DESC';
    const [[{ total }], rows]: [[{ total: number }], { id: string }[]] = await Promise.all([
      this.orders.query(`SELECT count(*)::int AS total ${where}`, values),
      this.orders.query(
        `SELECT o."id" ${where} ORDER BY o."packBy" ${direction}, o."createdAt" ${direction}, o."id" LIMIT ${PAGE} OFFSET $3`,
        [...values, page * PAGE],
      ),
    ]);
    const found = await this.orders.find({ where: { id: In(rows.map((r) => r.id)) }, relations: { designs: true }, withDeleted: true });
    const place = new Map(rows.map((r, i) => [r.id, i]));
    found.sort((a, b) => (place.get(a.id) as number) - (place.get(b.id) as number));
    const items = await Promise.all((await this.loader.load(found)).map((l) => this.loader.summary(l)));
    return { items, total, page, pages: Math.max(1, Math.ceil(total / PAGE)) };
  }

  /** Orders whose bench an order could share: not begun, with a bench of their own. One that has guests stays host. */
  hosts(forId: string | null): Promise<HostChoice[]> {
    return this.orders.query(
      `SELECT o."id", o."name" FROM "order" o WHERE o."hostId" IS NULL AND o."deletedAt" IS NULL AND o."id" IS DISTINCT FROM $1
       AND NOT EXISTS (SELECT 1 FROM "run" r WHERE r."orderId" = o."id" AND r."deletedAt" IS NULL)
       AND NOT EXISTS (SELECT 1 FROM "order" g WHERE g."hostId" = $1) ORDER BY o."packBy", o."createdAt"`,
      [forId],
    );
  }

  async get(id: string, m: EntityManager = this.orders.manager): Promise<OrderEntity> {
    const found = await m.findOne(OrderEntity, { where: { id }, relations: { designs: true } });
    if (!found) throw notFound('order');
    found.designs.sort((a, b) => a.position - b.position);
    return found;
  }

  async loaded(id: string): Promise<Loaded> {
    return this.loader.loadOne(await this.get(id));
  }

  async getView(id: string): Promise<OrderView> {
    return this.loader.view(await this.loaded(id));
  }

  async create(input: OrderInput, id: string = randomUUID()): Promise<OrderView> {
    await once(
      id,
      (known) => this.orders.exists({ where: { id: known }, withDeleted: true }),
      () => this.save(null, input, id),
    );
    return this.getView(id);
  }

  /** `basedOn` is the revision the change goes on from; left out, whatever is there is changed. */
  async update(id: string, input: OrderInput, basedOn?: number): Promise<OrderView> {
    await this.save({ id, basedOn }, input);
    return this.getView(id);
  }

  /** Puts an order into the trash. Its guests get a bench of their own, and pieces for it are for nobody; its run can go on. */
  async remove(id: string): Promise<void> {
    await this.get(id);
    await this.orders.manager.transaction(async (m) => {
      await this.hold(m, [id]);
      await m.update(OrderEntity, { hostId: id }, { hostId: null });
      await m.update(OrderEntity, { transfersForId: id }, { transfersForId: null });
      await m.softDelete(OrderEntity, { id });
    });
  }

  /** Takes an order out of the trash, and the designs with it that lie there. */
  async restore(id: string): Promise<OrderView> {
    await this.orders.manager.transaction(async (m) => {
      if (!(await m.restore(OrderEntity, { id, deletedAt: Not(IsNull()) })).affected) throw notFound(msg`order in the trash`);
      const items = await m.findBy(OrderDesignEntity, { orderId: id });
      await m.restore(DesignEntity, { id: In(items.map((d) => d.designId)) });
    });
    return this.getView(id);
  }

  /** Deletes what lies in the trash, for good; what its run taught stays. */
  async removeForGood(id: string): Promise<void> {
    await this.facts.upToDate();
    await this.orders.manager.transaction(async (m) => {
      if (!(await m.existsBy(OrderEntity, { id })) && (await m.exists(OrderEntity, { where: { id }, withDeleted: true }))) {
        await this.calibration.keepWhatTaught(m, id);
        await m.delete(OrderEntity, { id });
      } else throw notFound(msg`order in the trash`);
    });
  }

  /** Keeps what was mixed and counted for one bag; the plan made before a new count is stale from then on. */
  async keepBag(orderId: string, bag: BagRecord): Promise<OrderView> {
    await this.get(orderId);
    const { colour, seconds, revision, ...said } = bag;
    const refusal = msg`This bag was counted elsewhere meanwhile: look at both, and choose.`;
    await keptOnTop(this.bags, BagEntity, { orderId, colour, seconds }, said, revision, refusal);
    return this.getView(orderId);
  }

  /** The order as the planner takes it, for the page to plan with. */
  async file(id: string): Promise<OrderFileView> {
    const { order, drawings } = await this.loader.forPlanning(await this.loaded(id));
    return { order, drawings };
  }

  /** Keeps an order, new or changed. An order and its host are held meanwhile, so that no work begins on what is being changed. */
  private async save(
    known: { readonly id: string; readonly basedOn: number | undefined } | null,
    input: OrderInput,
    newId?: string,
  ): Promise<void> {
    // The file format's own checks, so that both ways in say the same.
    parseOrder(
      orderFile(
        input,
        input.designs.map((d) => ({ ...d, file: d.designId })),
        await this.schools.get(input.school).catch(async (error: unknown) => {
          // The school it was made with may be gone: an order may keep it.
          const kept = known && (await this.orders.findOneBy({ id: known.id }));
          if (kept?.school === input.school) return this.schools.of(kept);
          throw error;
        }),
      ),
    );
    await this.orders.manager.transaction(async (m) => {
      await this.hold(m, [known?.id, input.hostId]);
      const order = known ? await this.get(known.id, m) : m.create(OrderEntity, { revision: 0, schoolKept: null });
      if (known) {
        // A guest is worked with its host: once that has begun, what is on the trays is on the trays.
        if (await m.existsBy(RunEntity, [{ orderId: known.id }, ...(order.hostId ? [{ orderId: order.hostId }] : [])]))
          throw new Refusal(
            409,
            'run-begun',
            msg`Work on this order has begun, so it cannot be changed any more: make a new order for what is left.`,
          );
        const isLate = known.basedOn !== undefined && known.basedOn !== order.revision;
        // Sent again because its answer was lost, it is there already.
        if (isLate && isSameOrder(order, input)) return;
        if (isLate) throw changedElsewhere(msg`This order was changed elsewhere meanwhile: look at both, and choose.`);
      }
      const versionOf = await this.versionsFor(m, order, input);
      await this.refuseWrongHost(m, known?.id, input.hostId);
      await this.refuseWrongParent(m, known?.id, input.transfersForId);
      Object.assign(order, {
        revision: order.revision + 1,
        schoolKept: order.school === input.school ? order.schoolKept : null,
        name: input.name,
        trays: input.trays,
        openingHours: input.openingHours,
        air: input.air,
        fan: input.fan ?? null,
        dehydrator: input.dehydrator,
        handGapMm: input.handGapMm,
        decorators: input.decorators,
        openBags: input.openBags,
        pins: input.pins,
        notes: input.notes,
        hostId: input.hostId,
        transfersForId: input.transfersForId,
        school: input.school,
        margin: input.margin,
        packBy: new Date(input.packBy),
        merges: input.merges,
      });
      order.designs = [];
      // Under a new name it is put in, never laid over one that is there.
      if (newId) await m.insert(OrderEntity, { ...order, id: newId });
      const id = newId ?? (await m.save(OrderEntity, order)).id;
      await m.delete(OrderDesignEntity, { orderId: id });
      const rows = input.designs.map((d, position) =>
        this.items.create({ orderId: id, position, designId: d.designId, count: d.count, spares: d.spares, version: versionOf(d) }),
      );
      await m.save(OrderDesignEntity, rows);
    });
  }

  /** Nobody else changes these orders, or begins work on them, until this transaction ends. */
  async hold(m: EntityManager, ids: readonly (string | null | undefined)[]): Promise<void> {
    const known = ids.filter((id) => id !== null && id !== undefined).sort();
    if (known.length > 0) await m.query(`SELECT 1 FROM "order" WHERE "id" = ANY($1) ORDER BY "id" FOR UPDATE`, [known]);
  }

  /** The version of each design: an order that is changed keeps those it had; what is new to it comes with its newest. */
  private async versionsFor(
    m: EntityManager,
    order: OrderEntity,
    input: OrderInput,
  ): Promise<(d: OrderInput['designs'][number]) => number> {
    const ids = [...new Set(input.designs.map((d) => d.designId))];
    // Held, so that none of them is deleted meanwhile.
    const known = new Map(
      (await m.find(DesignEntity, { where: { id: In(ids) }, lock: { mode: 'pessimistic_read' } })).map((d) => [d.id, d]),
    );
    if (known.size !== ids.length)
      throw new Refusal(400, 'unknown-design', msg`The order names a design that does not exist: choose another.`);
    const kept = new Map((order.designs ?? []).map((d) => [d.designId, d.version]));
    const versionOf = (d: OrderInput['designs'][number]) =>
      d.version ?? kept.get(d.designId) ?? (known.get(d.designId) as DesignEntity).version;
    for (const d of input.designs) {
      const { name, version } = known.get(d.designId) as DesignEntity;
      if (versionOf(d) > version)
        throw new Refusal(
          400,
          'unknown-version',
          msg`Version ${versionOf(d)} of ${name} does not exist: leave the version out for the newest.`,
        );
    }
    return versionOf;
  }

  /** A bench has one host: no guest of a guest, none of oneself, none where work has begun. */
  private async refuseWrongHost(m: EntityManager, id: string | undefined, hostId: string | null): Promise<void> {
    if (hostId === null) return;
    const host = await m.findOneBy(OrderEntity, { id: hostId });
    if (!host) throw new Refusal(400, 'unknown-host', msg`The order whose bench is to be shared does not exist: choose another.`);
    if (host.id === id)
      throw new Refusal(400, 'wrong-host', msg`An order cannot be a guest on its own bench: choose another order, or none.`);
    if (host.hostId !== null) throw new Refusal(400, 'wrong-host', msg`${host.name} is itself worked on another bench: choose that one.`);
    if (id !== undefined && (await m.existsBy(OrderEntity, { hostId: id })))
      throw new Refusal(400, 'wrong-host', msg`Other orders are worked on the bench of this one: let them go first.`);
    if (await m.existsBy(RunEntity, { orderId: hostId }))
      throw new Refusal(409, 'run-begun', msg`Work on ${host.name} has begun: its bench takes no more orders.`);
  }

  /** Pieces are for an order that is no transfer order itself, and not for oneself. */
  private async refuseWrongParent(m: EntityManager, id: string | undefined, parentId: string | null): Promise<void> {
    if (parentId === null) return;
    const parent = await m.findOneBy(OrderEntity, { id: parentId });
    if (!parent) throw new Refusal(400, 'unknown-parent', msg`The order these transfers are for does not exist: choose another.`);
    if (parent.id === id || parent.transfersForId !== null)
      throw new Refusal(400, 'wrong-parent', msg`${parent.name} makes transfers itself: choose the order they are put on in the end.`);
  }
}
