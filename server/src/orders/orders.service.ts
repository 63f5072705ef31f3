import { createHash } from 'node:crypto';
import { foldRun, runIndex } from '@kestfog/core/bench';
import type { PaceOf } from '@kestfog/core/calibration';
import { type Design, foldDesign } from '@kestfog/core/design';
import type { Factors } from '@kestfog/core/drying';
import { type Decorator, type OrderFile, parseOrder, planIndex } from '@kestfog/core/formats';
import { MODEL_VERSION } from '@kestfog/core/planning';
import type { School, Tip } from '@kestfog/core/steps';
import type { BagRecord, OrderDesignView, OrderFileView, OrderInput, OrderView, RunSummary } from '@kestfog/core/wire';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { In, Repository } from 'typeorm';
import { CalibrationService } from '../calibration/calibration.service.js';
import { DesignEntity, DesignVersionEntity } from '../designs/design.entity.js';
import { KitchenService } from '../kitchen/kitchen.service.js';
import { PlanEntity } from '../plans/plan.entity.js';
import { notFound, Refusal } from '../platform/errors.js';
import { RunEntity } from '../runs/run.entity.js';
import { toStored } from '../runs/stored-event.js';
import { SchoolsService } from '../schools/schools.service.js';
import { BagEntity } from './bag.entity.js';
import { OrderDesignEntity, OrderEntity } from './order.entity.js';

@Injectable()
export class OrdersService {
  constructor(
    @InjectRepository(OrderEntity) private readonly orders: Repository<OrderEntity>,
    @InjectRepository(OrderDesignEntity) private readonly items: Repository<OrderDesignEntity>,
    @InjectRepository(DesignEntity) private readonly designs: Repository<DesignEntity>,
    @InjectRepository(BagEntity) private readonly bags: Repository<BagEntity>,
    @InjectRepository(PlanEntity) private readonly plans: Repository<PlanEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    private readonly calibration: CalibrationService,
    private readonly schools: SchoolsService,
    private readonly kitchen: KitchenService,
    @InjectRepository(DesignVersionEntity) private readonly versions: Repository<DesignVersionEntity>,
  ) {}

  async list(): Promise<OrderView[]> {
    const all = await this.orders.find({ relations: { designs: true }, order: { packBy: 'ASC', createdAt: 'ASC' } });
    return Promise.all(all.map((o) => this.view(o)));
  }

  async get(id: string): Promise<OrderEntity> {
    const found = await this.orders.findOne({ where: { id }, relations: { designs: true } });
    if (!found) throw notFound('order');
    found.designs.sort((a, b) => a.position - b.position);
    return found;
  }

  async getView(id: string): Promise<OrderView> {
    return this.view(await this.get(id));
  }

  async create(input: OrderInput): Promise<OrderView> {
    return this.view(await this.save(this.orders.create(), input));
  }

  async update(id: string, input: OrderInput): Promise<OrderView> {
    const order = await this.get(id);
    // A guest is worked with its host: once that has begun, what is on the trays is on the trays.
    if (await this.runs.existsBy([{ orderId: id }, ...(order.hostId ? [{ orderId: order.hostId }] : [])]))
      throw new Refusal(409, 'run-begun', 'Work on this order has begun, so it cannot be changed any more: make a new order for what is left.');
    return this.view(await this.save(order, input));
  }

  async remove(id: string): Promise<void> {
    await this.get(id);
    await this.orders.manager.transaction(async (m) => {
      await this.calibration.keepWhatTaught(m, id);
      await m.delete(OrderEntity, { id });
    });
  }

  /** Keeps what was mixed and counted for one bag; the plan made before a new count is stale from then on. */
  async keepBag(orderId: string, bag: BagRecord): Promise<OrderView> {
    const order = await this.get(orderId);
    await this.bags.upsert({ orderId, colour: bag.colour, seconds: bag.seconds, mixedG: bag.mixedG, countedS: bag.countedS, word: bag.word }, [
      'orderId',
      'colour',
      'seconds',
    ]);
    return this.view(order);
  }

  private async bagsOf(orderId: string): Promise<BagRecord[]> {
    const rows = await this.bags.find({ where: { orderId }, order: { colour: 'ASC', seconds: 'ASC' } });
    return rows.map(({ colour, seconds, mixedG, countedS, word }) => ({ colour, seconds, mixedG, countedS, word }));
  }

  private async save(order: OrderEntity, input: OrderInput): Promise<OrderEntity> {
    const ids = [...new Set(input.designs.map((d) => d.designId))];
    const known = new Map((await this.designs.findBy({ id: In(ids) })).map((d) => [d.id, d]));
    if (known.size !== ids.length) throw new Refusal(400, 'unknown-design', 'The order names a design that does not exist: choose another.');
    // An order that is changed keeps the versions it had; what is new to it comes with its newest.
    const kept = new Map((order.designs ?? []).map((d) => [d.designId, d.version]));
    const versionOf = (d: OrderInput['designs'][number]) => d.version ?? kept.get(d.designId) ?? (known.get(d.designId) as DesignEntity).version;
    for (const d of input.designs)
      if (versionOf(d) > (known.get(d.designId) as DesignEntity).version)
        throw new Refusal(
          400,
          'unknown-version',
          `Version ${versionOf(d)} of ${(known.get(d.designId) as DesignEntity).name} does not exist: leave the version out for the newest.`,
        );
    await this.refuseWrongHost(order.id, input.hostId);
    await this.refuseWrongParent(order.id, input.transfersForId);
    // The file format's own checks, so that both ways in say the same.
    parseOrder(
      this.fileFrom(
        input,
        input.designs.map((d) => ({ ...d, file: d.designId })),
        await this.schools.get(input.school),
      ),
    );
    return this.orders.manager.transaction(async (m) => {
      Object.assign(order, {
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
      const saved = await m.save(OrderEntity, order);
      await m.delete(OrderDesignEntity, { orderId: saved.id });
      saved.designs = await m.save(
        OrderDesignEntity,
        input.designs.map((d, position) =>
          this.items.create({ orderId: saved.id, position, designId: d.designId, count: d.count, spares: d.spares, version: versionOf(d) }),
        ),
      );
      return saved;
    });
  }

  /** The order in the open format; `designs` with the name of each one's drawing, guests' included. */
  private fileFrom(
    input: Omit<OrderInput, 'designs'>,
    designs: readonly {
      readonly file: string;
      readonly count: number;
      readonly spares: number;
      readonly for?: string;
      readonly packBy?: string;
      readonly pieces?: boolean;
    }[],
    school: School,
    bags: readonly BagRecord[] = [],
    {
      paces,
      ...more
    }: {
      readonly factors?: Factors;
      readonly tips?: readonly Tip[];
      readonly piecesFrom?: string | null;
      readonly paces?: ReadonlyMap<string, PaceOf>;
    } = {},
  ): unknown {
    const iso = (time: string) => new Date(time).toISOString();
    const pins = input.pins.map((p) =>
      p.kind === 'away' ? { ...p, from: iso(p.from), to: iso(p.to) } : p.kind === 'not-before' ? { ...p, at: iso(p.at) } : p,
    );
    const file = {
      format: 'kestfog-order/3',
      name: input.name,
      designs: designs.map((d) => ({ file: d.file, count: d.count, spares: d.spares, for: d.for, packBy: d.packBy && iso(d.packBy), pieces: d.pieces })),
      trays: input.trays,
      handGapMm: input.handGapMm,
      openingHours: input.openingHours.map((b) => [iso(b.from), iso(b.to)]),
      air: input.air,
      fan: input.fan,
      dehydrator: input.dehydrator,
      decorators: input.decorators.map((d) => ({ ...d, ...takesOf(paces?.get(d.id)) })),
      openBags: input.openBags,
      pins,
      school,
      margin: input.margin,
      packBy: iso(input.packBy),
      bags: bags.filter((b) => b.countedS !== null).map((b) => ({ colour: b.colour, seconds: b.seconds, countedS: b.countedS })),
      merges: input.merges,
      ...more,
    };
    // What was left out of a request is there as undefined; in a file it is not there.
    return JSON.parse(JSON.stringify(file));
  }

  /** A bench has one host: no guest of a guest, none of oneself, none where work has begun. */
  private async refuseWrongHost(id: string | undefined, hostId: string | null): Promise<void> {
    if (hostId === null) return;
    const host = await this.orders.findOneBy({ id: hostId });
    if (!host) throw new Refusal(400, 'unknown-host', 'The order whose bench is to be shared does not exist: choose another.');
    if (host.id === id) throw new Refusal(400, 'wrong-host', 'An order cannot be a guest on its own bench: choose another order, or none.');
    if (host.hostId !== null) throw new Refusal(400, 'wrong-host', `${host.name} is itself worked on another bench: choose that one.`);
    if (id !== undefined && (await this.orders.existsBy({ hostId: id })))
      throw new Refusal(400, 'wrong-host', 'Other orders are worked on the bench of this one: let them go first.');
    if (await this.runs.existsBy({ orderId: hostId })) throw new Refusal(409, 'run-begun', `Work on ${host.name} has begun: its bench takes no more orders.`);
  }

  /** Pieces are for an order that is no transfer order itself, and not for oneself. */
  private async refuseWrongParent(id: string | undefined, parentId: string | null): Promise<void> {
    if (parentId === null) return;
    const parent = await this.orders.findOneBy({ id: parentId });
    if (!parent) throw new Refusal(400, 'unknown-parent', 'The order these transfers are for does not exist: choose another.');
    if (parent.id === id || parent.transfersForId !== null)
      throw new Refusal(400, 'wrong-parent', `${parent.name} makes transfers itself: choose the order they are put on in the end.`);
  }

  /** Orders that make pieces for this one. */
  private transfersOf(o: OrderEntity): Promise<OrderEntity[]> {
    return this.orders.find({ where: { transfersForId: o.id }, relations: { designs: true }, order: { createdAt: 'ASC' } });
  }

  /** When the pieces of an order on a bench of its own can be lifted: as it was planned, or as it was done; null while it has no plan. */
  private async liftAt(t: OrderEntity): Promise<string | null> {
    const run = await this.runs.findOne({ where: { orderId: t.id }, relations: { events: true, plan: true }, order: { startedAt: 'DESC' } });
    if (run) {
      const state = foldRun(run.plan.plan, [...run.events].sort((a, b) => a.seq - b.seq).map(toStored));
      const index = runIndex(state);
      const lifts = state.plan.tasks.filter((x) => x.kind === 'pack');
      return new Date(Math.max(...lifts.map((x) => index.doneMs(x.id) ?? index.plan.msOf(x.endS)))).toISOString();
    }
    const plan = await this.plans.findOne({ where: { orderId: t.id }, order: { createdAt: 'DESC' } });
    return plan ? at(plan, plan.plan.endS) : null;
  }

  /** From when pieces made elsewhere are there; refused while nobody can say. */
  private async piecesFrom(o: OrderEntity): Promise<string | null> {
    const elsewhere = (await this.transfersOf(o)).filter((t) => t.hostId !== o.id);
    const times = await Promise.all(elsewhere.map((t) => this.liftAt(t)));
    // Without a plan they are lifted by when they are due at the latest.
    const known = elsewhere.map((t, i) => times[i] ?? t.packBy.toISOString());
    return known.length === 0 ? null : (known.sort().at(-1) as string);
  }

  inputOf(o: OrderEntity): OrderInput {
    return {
      name: o.name,
      designs: [...o.designs]
        .sort((a, b) => a.position - b.position)
        .map((d) => ({ designId: d.designId, count: d.count, spares: d.spares, version: d.version })),
      trays: o.trays,
      openingHours: o.openingHours,
      air: o.air,
      fan: o.fan,
      dehydrator: o.dehydrator,
      handGapMm: o.handGapMm,
      decorators: o.decorators,
      openBags: o.openBags,
      pins: o.pins,
      notes: o.notes,
      hostId: o.hostId,
      transfersForId: o.transfersForId,
      school: o.school,
      margin: o.margin,
      packBy: o.packBy.toISOString(),
      merges: o.merges,
    };
  }

  /** The designs of an order as it keeps them, in its order, then those of its guests. */
  private async designsOf(o: OrderEntity): Promise<OrderDesignView[]> {
    const guests = await this.orders.find({ where: { hostId: o.id }, relations: { designs: true }, order: { packBy: 'ASC', createdAt: 'ASC' } });
    const of = (x: OrderEntity, guestOf: OrderDesignView['guestOf']) => [...x.designs].sort((a, b) => a.position - b.position).map((d) => ({ d, guestOf }));
    const items = [
      ...of(o, null),
      ...guests.flatMap((g) => of(g, { id: g.id, name: g.name, packBy: g.packBy.toISOString(), pieces: g.transfersForId === o.id })),
    ];
    const rows = new Map((await this.designs.findBy({ id: In(items.map(({ d }) => d.designId)) })).map((d) => [d.id, d]));
    return Promise.all(
      items.map(async ({ d, guestOf }) => {
        const drawing = await this.drawing(d.designId, d.version);
        return {
          designId: d.designId,
          count: d.count,
          spares: d.spares,
          guestOf,
          version: d.version,
          latest: rows.get(d.designId)?.version ?? d.version,
          name: drawing.name,
          drawing,
        };
      }),
    );
  }

  /** The order as the planner takes it, for the page to plan with. */
  async file(id: string): Promise<OrderFileView> {
    const { order, drawings } = await this.forPlanning(await this.get(id));
    return { order, drawings };
  }

  private readonly folded = new Map<string, { edits: number; design: Design }>();

  /** A version as a design; only the newest can still change, and then it has more edits. */
  private async drawing(designId: string, version: number): Promise<Design> {
    const row = await this.versions.findOneBy({ designId, version });
    if (!row) throw notFound('version of this design');
    const key = `${designId} ${version}`;
    const known = this.folded.get(key);
    if (known?.edits === row.document.edits.length) return known.design;
    const design = foldDesign(row.document);
    this.folded.set(key, { edits: row.document.edits.length, design });
    return design;
  }

  /** What the planner needs: the order in the open format and its drawings, in order. */
  async forPlanning(o: OrderEntity, designs?: readonly OrderDesignView[]): Promise<{ order: OrderFile; drawings: readonly Design[]; inputHash: string }> {
    const input = this.inputOf(o);
    const kept = designs ?? (await this.designsOf(o));
    const piecesFrom = await this.piecesFrom(o);
    const order = parseOrder(
      this.fileFrom(
        input,
        kept.map((d) => ({
          file: `${d.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.svg`,
          count: d.count,
          spares: d.spares,
          ...(d.guestOf ? { for: d.guestOf.name, packBy: d.guestOf.packBy, pieces: d.guestOf.pieces } : {}),
        })),
        await this.schools.get(o.school),
        await this.bagsOf(o.id),
        { ...(await this.calibration.learnedForPlans()), tips: (await this.kitchen.kept()).tips, piecesFrom },
      ),
    );
    const drawings = kept.map((d) => d.drawing);
    const inputHash = createHash('sha256')
      .update(JSON.stringify([MODEL_VERSION, { ...order, name: '' }, drawings]))
      .digest('hex');
    return { order, drawings, inputHash };
  }

  private async view(o: OrderEntity): Promise<OrderView> {
    const plan = await this.plans.findOne({ where: { orderId: o.id }, order: { createdAt: 'DESC' } });
    const run = await this.runs.findOne({ where: { orderId: o.id }, relations: { events: true, plan: true }, order: { startedAt: 'DESC' } });
    const designs = await this.designsOf(o);
    const stale = plan ? plan.inputHash !== (await this.forPlanning(o, designs)).inputHash : false;
    return {
      id: o.id,
      createdAt: o.createdAt.toISOString(),
      ...this.inputOf(o),
      designs,
      transfers: await Promise.all(
        (await this.transfersOf(o)).map(async (t) => ({
          id: t.id,
          name: t.name,
          pieces: t.designs.reduce((sum, d) => sum + d.count, 0),
          spares: t.designs.reduce((sum, d) => sum + d.spares, 0),
          shared: t.hostId === o.id,
          liftAt: t.hostId === o.id ? (plan ? liftedOnBench(plan, t.name) : null) : await this.liftAt(t),
        })),
      ),
      transfersForName: o.transfersForId ? ((await this.orders.findOneBy({ id: o.transfersForId }))?.name ?? null) : null,
      hostName: o.hostId ? ((await this.orders.findOneBy({ id: o.hostId }))?.name ?? null) : null,
      schoolUsed: await this.schools.get(o.school),
      plan: plan
        ? {
            id: plan.id,
            createdAt: plan.createdAt.toISOString(),
            startsAt: at(plan, plan.plan.tasks[0]?.startS ?? 0),
            endsAt: at(plan, plan.plan.endS),
            handsOnS: plan.plan.handsOnS,
            lateS: plan.plan.late?.byS ?? 0,
            stale,
          }
        : null,
      run: run ? summaryOf(run) : null,
      bags: await this.bagsOf(o.id),
    };
  }
}

/** What was learned of somebody's motions, where it is worth a word: within 3 % of the assumed seconds it is left at those. */
function takesOf(pace: PaceOf | undefined): Pick<Decorator, 'takes'> {
  const own = Object.entries(pace ?? {}).flatMap(([kind, p]) =>
    p.visits > 0 && Math.abs(Math.log(p.takes)) > 0.03 ? [[kind, Math.round(p.takes * 1000) / 1000]] : [],
  );
  return own.length === 0 ? {} : { takes: Object.fromEntries(own) };
}

const at = (p: PlanEntity, s: number) => new Date(planIndex(p.plan).msOf(s)).toISOString();

/** When the last pieces of a guest are lifted on the bench they share. */
function liftedOnBench(p: PlanEntity, guest: string): string | null {
  const ids = new Set(p.plan.designs.filter((d) => d.pieces && d.for === guest).map((d) => d.id));
  const index = planIndex(p.plan);
  const lifts = p.plan.tasks.filter((t) => t.kind === 'pack' && ids.has(index.lot(t.lotId)?.designId ?? ''));
  return lifts.length === 0 ? null : at(p, Math.max(...lifts.map((t) => t.endS)));
}

function summaryOf(run: RunEntity): RunSummary {
  const state = foldRun(run.plan.plan, [...run.events].sort((a, b) => a.seq - b.seq).map(toStored));
  return {
    id: run.id,
    startedAt: run.startedAt.toISOString(),
    done: state.plan.tasks.length - runIndex(state).open.length,
    total: state.plan.tasks.length,
    finished: state.finished,
  };
}
