import { createHash } from 'node:crypto';
import type { Design } from '@kestfog/core/design';
import { type OrderFile, parseOrder } from '@kestfog/core/formats';
import { MODEL_VERSION } from '@kestfog/core/planning';
import type { BagRecord, OrderDesignView, OrderPlanSummary, OrderSummary, OrderView, RunSummary } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { In, Repository } from 'typeorm';
import { CalibrationService, type Learned } from '../calibration/calibration.service.js';
import { DesignEntity, DesignVersionEntity } from '../designs/design.entity.js';
import { DrawingsService } from '../designs/drawings.service.js';
import { KitchenService } from '../kitchen/kitchen.service.js';
import { PlanEntity, type PlanSummary, planSummary } from '../plans/plan.entity.js';
import { RunEntity } from '../runs/run.entity.js';
import { RunFactsService } from '../runs/run-facts.service.js';
import { SchoolsService } from '../schools/schools.service.js';
import { BagEntity } from './bag.entity.js';
import { OrderEntity } from './order.entity.js';
import { inputOf, orderFile } from './order-file.js';

/** A design of an order, or of one of its guests, in the version that order keeps. */
interface Item {
  readonly designId: string;
  readonly version: number;
  readonly edits: number;
  /** as that version has it */
  readonly name: string;
  readonly latest: number;
  readonly count: number;
  readonly spares: number;
  readonly guestOf: OrderDesignView['guestOf'];
}
/** The plan of an order that counts, without the plan itself. */
type PlanRow = Pick<PlanEntity, 'id' | 'orderId' | 'inputHash' | 'createdAt'> & { readonly summary: PlanSummary };
type RunRow = Pick<RunEntity, 'id' | 'orderId' | 'startedAt' | 'done' | 'total' | 'finished' | 'liftedAt'>;

/** An order with everything around it that its plan follows from, or that is shown of it. */
export interface Loaded {
  readonly order: OrderEntity;
  readonly items: readonly Item[];
  /** orders worked on its bench */
  readonly guests: readonly OrderEntity[];
  /** the orders that make its pieces, with when they can be lifted */
  readonly transfers: readonly { readonly order: OrderEntity; readonly liftAt: string | null }[];
  readonly bags: readonly BagRecord[];
  readonly plan: PlanRow | null;
  readonly run: RunRow | null;
  readonly hostName: string | null;
  readonly transfersForName: string | null;
  readonly kitchen: { readonly tips: OrderFile['tips']; readonly learned: Learned };
}

/** Orders with what is around them: always many at once, so that a list asks as often as a single one does. */
@Injectable()
export class OrderLoader {
  constructor(
    @InjectRepository(OrderEntity) private readonly orders: Repository<OrderEntity>,
    @InjectRepository(DesignEntity) private readonly designs: Repository<DesignEntity>,
    @InjectRepository(DesignVersionEntity) private readonly versions: Repository<DesignVersionEntity>,
    @InjectRepository(BagEntity) private readonly bags: Repository<BagEntity>,
    @InjectRepository(PlanEntity) private readonly plans: Repository<PlanEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    private readonly facts: RunFactsService,
    private readonly drawings: DrawingsService,
    private readonly calibration: CalibrationService,
    private readonly schools: SchoolsService,
    private readonly kitchen: KitchenService,
  ) {}

  /** In the order of `orders`. */
  async load(orders: readonly OrderEntity[]): Promise<Loaded[]> {
    if (orders.length === 0) return [];
    const ids = orders.map((o) => o.id);
    await this.facts.upToDate();
    const [guests, makers, learned, { tips }] = await Promise.all([
      this.orders.find({ where: { hostId: In(ids) }, relations: { designs: true }, order: { packBy: 'ASC', createdAt: 'ASC' } }),
      this.orders.find({ where: { transfersForId: In(ids) }, relations: { designs: true }, order: { createdAt: 'ASC' } }),
      this.calibration.learnedForPlans(),
      this.kitchen.kept(),
    ]);
    const designIds = [...new Set([...orders, ...guests].flatMap((o) => o.designs.map((d) => d.designId)))];
    const named = orders.flatMap((o) => [o.hostId ?? [], o.transfersForId ?? []].flat());
    const around = [...new Set([...ids, ...makers.map((m) => m.id)])];
    const [latest, versions, bags, names, plans, runs] = await Promise.all([
      this.designs.find({ where: { id: In(designIds) }, select: { id: true, version: true } }),
      this.versions.find({ where: { designId: In(designIds) }, select: { designId: true, version: true, edits: true, name: true } }),
      this.bags.find({ where: { orderId: In(ids) }, order: { colour: 'ASC', seconds: 'ASC' } }),
      this.orders.find({ where: { id: In(named) }, select: { id: true, name: true } }),
      this.latestPlans(around),
      this.runs.find({ where: { orderId: In(around) } }),
    ]);
    const latestOf = new Map(latest.map((d) => [d.id, d.version]));
    const versionOf = new Map(versions.map((v) => [`${v.designId} ${v.version}`, v]));
    const nameOf = new Map(names.map((n) => [n.id, n.name]));
    const planOf = new Map(plans.map((p) => [p.orderId, p]));
    const runOf = new Map(runs.map((r) => [r.orderId, r]));
    const itemsOf = (o: OrderEntity, guestOf: Item['guestOf']): Item[] =>
      [...o.designs]
        .sort((a, b) => a.position - b.position)
        .map(({ designId, version, count, spares }) => {
          const v = versionOf.get(`${designId} ${version}`);
          return {
            designId,
            version,
            edits: v?.edits ?? 0,
            name: v?.name ?? '',
            latest: latestOf.get(designId) ?? version,
            count,
            spares,
            guestOf,
          };
        });
    return orders.map((o): Loaded => {
      const plan = planOf.get(o.id) ?? null;
      // Lifted as it was done, as it was planned, or by nobody knows when.
      const liftAt = (t: OrderEntity) =>
        t.hostId === o.id
          ? (plan?.summary.lifts[t.name] ?? null)
          : (runOf.get(t.id)?.liftedAt?.toISOString() ?? planOf.get(t.id)?.summary.endsAt ?? null);
      return {
        order: o,
        guests: guests.filter((g) => g.hostId === o.id),
        items: [
          ...itemsOf(o, null),
          ...guests
            .filter((g) => g.hostId === o.id)
            .flatMap((g) => itemsOf(g, { id: g.id, name: g.name, packBy: g.packBy.toISOString(), pieces: g.transfersForId === o.id })),
        ],
        transfers: makers.filter((t) => t.transfersForId === o.id).map((t) => ({ order: t, liftAt: liftAt(t) })),
        bags: bags.filter((b) => b.orderId === o.id).map(({ orderId: _, order: _o, ...bag }) => bag),
        plan,
        run: runOf.get(o.id) ?? null,
        hostName: (o.hostId && nameOf.get(o.hostId)) || null,
        transfersForName: (o.transfersForId && nameOf.get(o.transfersForId)) || null,
        kitchen: { tips, learned },
      };
    });
  }

  async loadOne(order: OrderEntity): Promise<Loaded> {
    return (await this.load([order]))[0] as Loaded;
  }

  /** Of each order the plan that was made last. */
  private async latestPlans(orderIds: readonly string[]): Promise<PlanRow[]> {
    const rows: (Omit<PlanRow, 'summary'> & { summary: PlanSummary | null })[] = await this.plans.query(
      `SELECT DISTINCT ON ("orderId") "id", "orderId", "inputHash", "createdAt", "summary" FROM "plan"
       WHERE "orderId" = ANY($1) ORDER BY "orderId", "createdAt" DESC`,
      [orderIds],
    );
    return Promise.all(rows.map(async (r): Promise<PlanRow> => ({ ...r, summary: r.summary ?? (await this.summarised(r.id)) })));
  }
  private async summarised(id: string): Promise<PlanSummary> {
    const { plan } = await this.plans.findOneByOrFail({ id });
    const summary = planSummary(plan);
    await this.plans.update({ id }, { summary });
    return summary;
  }

  /** The order in the open format, with all its plan is made from. */
  async fileOf({ order, items, transfers, bags, kitchen }: Loaded): Promise<OrderFile> {
    // Without a plan pieces made elsewhere are lifted by when they are due at the latest.
    const elsewhere = transfers.filter((t) => t.order.hostId !== order.id).map((t) => t.liftAt ?? t.order.packBy.toISOString());
    return parseOrder(
      orderFile(
        inputOf(order),
        items.map((d) => ({
          file: `${d.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.svg`,
          count: d.count,
          spares: d.spares,
          ...(d.guestOf ? { for: d.guestOf.name, packBy: d.guestOf.packBy, pieces: d.guestOf.pieces } : {}),
        })),
        await this.schools.of(order),
        bags,
        { ...kitchen.learned, tips: kitchen.tips, piecesFrom: elsewhere.sort().at(-1) ?? null },
      ),
    );
  }

  /** What a plan is made from, in short: a version with so many edits is always the same drawing. */
  private hashOf(file: OrderFile, items: readonly Item[]): string {
    const drawings = items.map((d) => [d.designId, d.version, d.edits]);
    return createHash('sha256')
      .update(JSON.stringify([MODEL_VERSION, { ...file, name: '' }, drawings]))
      .digest('hex');
  }

  drawingsOf(items: readonly Item[]): Promise<Design[]> {
    return Promise.all(items.map((d) => this.drawings.drawing(d)));
  }

  /** What the planner needs: the order in the open format and its drawings, in order. */
  async forPlanning(loaded: Loaded): Promise<{ order: OrderFile; drawings: readonly Design[]; inputHash: string }> {
    const order = await this.fileOf(loaded);
    return { order, drawings: await this.drawingsOf(loaded.items), inputHash: this.hashOf(order, loaded.items) };
  }

  /** Whether an order was changed since it was planned. One that cannot be planned as it stands any more was. */
  async isStale(loaded: Loaded): Promise<boolean> {
    try {
      return loaded.plan !== null && loaded.plan.inputHash !== this.hashOf(await this.fileOf(loaded), loaded.items);
    } catch {
      return true;
    }
  }

  private async planOf(loaded: Loaded): Promise<OrderPlanSummary | null> {
    if (!loaded.plan) return null;
    const { id, createdAt, summary } = loaded.plan;
    const { lifts: _, ...times } = summary;
    return { id, createdAt: createdAt.toISOString(), ...times, stale: await this.isStale(loaded) };
  }

  async summary(loaded: Loaded): Promise<OrderSummary> {
    const { order, items, run, hostName } = loaded;
    return {
      id: order.id,
      name: order.name,
      packBy: order.packBy.toISOString(),
      cookies: items.reduce((s, d) => s + d.count, 0),
      trays: order.trays.length,
      designs: items.map(({ designId, version, edits, name, count }) => ({ designId, version, edits, name, count })),
      hostId: order.hostId,
      hostName,
      plan: await this.planOf(loaded),
      run: run ? runSummary(run) : null,
    };
  }

  async view(loaded: Loaded): Promise<OrderView> {
    const { order, items, transfers, run, bags, hostName, transfersForName } = loaded;
    const drawings = await this.drawingsOf(items);
    return {
      id: order.id,
      createdAt: order.createdAt.toISOString(),
      revision: order.revision,
      ...inputOf(order),
      designs: items.map((d, i): OrderDesignView => ({ ...d, drawing: drawings[i] as Design })),
      transfers: transfers.map(({ order: t, liftAt }) => ({
        id: t.id,
        name: t.name,
        pieces: t.designs.reduce((sum, d) => sum + d.count, 0),
        spares: t.designs.reduce((sum, d) => sum + d.spares, 0),
        shared: t.hostId === order.id,
        liftAt,
      })),
      transfersForName,
      hostName,
      schoolUsed: await this.schools.of(order),
      plan: await this.planOf(loaded),
      run: run ? runSummary(run) : null,
      bags,
    };
  }
}

const runSummary = ({ id, startedAt, done, total, finished }: RunRow): RunSummary => ({
  id,
  startedAt: startedAt.toISOString(),
  done,
  total,
  finished,
});
