import type { StepGraph } from '../steps/derive.js';
import { bagsKey, type Step } from '../steps/step.js';
import type { DesignId, LotId, StayId, StepId, TaskId, TrayId } from '../units/id.js';
import { carryIdOf, takeOutIdOf } from './ids.js';
import type { Lot, Plan, PlanDesign, PlanTask, PlanWait, Stay } from './plan.js';

/** A plan whose tasks may know more than they were planned with. */
export interface PlanOf<T extends PlanTask> extends Omit<Plan, 'tasks'> {
  readonly tasks: readonly T[];
}

/** What is asked of a plan, answered in one place and at once: whose, where, when due, behind what. Seconds since the epoch. */
export class PlanIndex<T extends PlanTask = PlanTask> {
  /** milliseconds at which the plan's seconds begin; 0 where it has no epoch */
  readonly epochMs: number;
  private readonly tasks: ReadonlyMap<TaskId, T>;
  private readonly place: ReadonlyMap<TaskId, number>;
  private readonly lotsById = new Map<LotId, Lot>();
  private readonly designs: ReadonlyMap<DesignId, PlanDesign>;
  private steps: Map<StepGraph, ReadonlyMap<StepId, Step>> | null = null;
  private into: Map<TaskId, PlanWait[]> | null = null;
  private outOf: Map<TaskId, PlanWait[]> | null = null;
  private onTray: Map<TrayId, T[]> | null = null;
  private onLot: Map<LotId, T[]> | null = null;

  constructor(readonly plan: PlanOf<T>) {
    this.epochMs = Date.parse(plan.epoch ?? '') || 0;
    this.tasks = new Map(plan.tasks.map((t) => [t.id, t]));
    this.place = new Map(plan.tasks.map((t, i) => [t.id, i]));
    for (const tray of plan.trays) for (const lot of tray.lots) this.lotsById.set(lot.id, lot);
    this.designs = new Map(plan.designs.map((d) => [d.id, d]));
  }

  /** milliseconds of a moment of the plan, and back */
  readonly msOf = (s: number): number => this.epochMs + s * 1000;
  readonly sOf = (ms: number): number => (ms - this.epochMs) / 1000;

  task(id: TaskId): T | undefined {
    return this.tasks.get(id);
  }
  /** Where a task stands in the plan's order; −1 for one that is not in it. */
  placeOf(id: TaskId): number {
    return this.place.get(id) ?? -1;
  }
  get lots(): Lot[] {
    return [...this.lotsById.values()];
  }
  lot(id: LotId | null): Lot | undefined {
    return id === null ? undefined : this.lotsById.get(id);
  }
  lotsOf(designId: DesignId): Lot[] {
    return this.lots.filter((l) => l.designId === designId);
  }
  design(id: DesignId): PlanDesign | undefined {
    return this.designs.get(id);
  }
  /** The design that a lot, or what is done on it, is of. */
  designOf(of: LotId | null | Pick<PlanTask, 'lotId'>): PlanDesign | undefined {
    const lot = this.lot(typeof of === 'object' && of !== null ? of.lotId : of);
    return lot && this.designs.get(lot.designId);
  }
  graphOf(of: LotId | null | Pick<PlanTask, 'lotId'>): StepGraph | undefined {
    return this.designOf(of)?.graph;
  }
  step(of: LotId | null | Pick<PlanTask, 'lotId'>, stepId: StepId): Step | undefined {
    const graph = this.graphOf(of);
    if (!graph) return undefined;
    this.steps ??= new Map();
    let steps = this.steps.get(graph);
    if (!steps) {
      steps = new Map(graph.steps.map((s) => [s.id, s]));
      this.steps.set(graph, steps);
    }
    return steps.get(stepId);
  }

  /** Lags that a task waits behind, and those that others wait behind it. */
  waitsInto(id: TaskId): readonly PlanWait[] {
    this.into ??= grouped(this.plan.waits, (w) => w.to);
    return this.into.get(id) ?? [];
  }
  waitsFrom(id: TaskId): readonly PlanWait[] {
    this.outOf ??= grouped(this.plan.waits, (w) => w.from);
    return this.outOf.get(id) ?? [];
  }
  tasksOnTray(id: TrayId): readonly T[] {
    this.onTray ??= grouped(this.plan.tasks, (t) => t.trayId);
    return this.onTray.get(id) ?? [];
  }
  tasksOnLot(id: LotId | null): readonly T[] {
    this.onLot ??= grouped(
      this.plan.tasks.filter((t) => t.lotId !== null),
      (t) => t.lotId as LotId,
    );
    return id === null ? [] : (this.onLot.get(id) ?? []);
  }

  /** When what a task packs is due: its design's own time, else the order's; null where nothing is, and for all other work. */
  dueOf(task: Pick<PlanTask, 'kind' | 'lotId'>): number | null {
    return task.kind === 'pack' ? (this.designOf(task)?.packBy ?? this.plan.packBy) : null;
  }
  /** The last moment a task may end: when it is due, and never after the bench closes for the last time. */
  latestEndOf(task: Pick<PlanTask, 'kind' | 'lotId'>): number {
    return Math.min(this.dueOf(task) ?? this.lastClose, this.lastClose);
  }
  get lastClose(): number {
    return Math.max(...this.plan.openingHours.map(([, to]) => to));
  }

  /** What a task takes up: its bags, or the tool of a detail; null for bare hands. Tasks of one family need no change between them. */
  familyOf(task: Pick<PlanTask, 'bags' | 'kind' | 'motions'>): string | null {
    if (task.bags.length > 0) return bagsKey(task.bags);
    return task.kind === 'detail' ? (task.motions[0]?.technique ?? null) : null;
  }

  /** Which opening of the bench a moment lies in, or comes before; −1 after the last. */
  openingAt(atS: number): number {
    return this.plan.openingHours.findIndex(([, to]) => atS < to);
  }
  /** The moment itself, or when the bench opens again. */
  whenOpen(atS: number): number {
    return Math.max(atS, this.plan.openingHours[this.openingAt(atS)]?.[0] ?? atS);
  }
  /** The opening a moment lies in; −1 while the bench is closed. */
  openingDuring(atS: number): number {
    return this.plan.openingHours.findIndex(([from, to]) => from <= atS && atS < to);
  }
  /** When the bench closes on the day of a moment: the end of the opening it lies in, or of the next one; Infinity after the last. */
  closesAfter(atS: number): number {
    return this.plan.openingHours[this.openingAt(atS)]?.[1] ?? Number.POSITIVE_INFINITY;
  }
  /** Earliest moment from `fromS` on at which work of so many seconds ends before the bench closes; `fromS` where none does. */
  openFrom(fromS: number, durationS: number): number {
    for (const [from, to] of this.plan.openingHours) {
      const startS = Math.max(fromS, from);
      if (startS + durationS <= to) return startS;
    }
    return fromS;
  }

  /** The carrying of a tray to where it dries, and for the dehydrator the taking out. */
  carryOf(stay: { readonly id: StayId }): T | undefined {
    return this.tasks.get(carryIdOf(stay.id));
  }
  takeOutOf(stay: { readonly id: StayId }): T | undefined {
    return this.tasks.get(takeOutIdOf(stay.id));
  }
  /** The stay that a task carries a tray to. */
  stayBehind(task: Pick<PlanTask, 'id' | 'kind'>): Stay | undefined {
    return task.kind === 'carry' ? this.plan.stays.find((s) => carryIdOf(s.id) === task.id) : undefined;
  }
  /** The stay that a task carries a tray to or fetches it from. */
  stayOf(task: Pick<PlanTask, 'id' | 'kind'>): Stay | undefined {
    return task.kind === 'take-out' ? this.plan.stays.find((s) => takeOutIdOf(s.id) === task.id) : this.stayBehind(task);
  }
}

function grouped<K, V>(list: readonly V[], keyOf: (v: V) => K): Map<K, V[]> {
  const out = new Map<K, V[]>();
  for (const v of list) {
    const key = keyOf(v);
    const own = out.get(key);
    if (own) own.push(v);
    else out.set(key, [v]);
  }
  return out;
}

const known = new WeakMap<object, PlanIndex<PlanTask>>();

/** The index of a plan; a plan is never changed, so it is made once. */
export function planIndex<T extends PlanTask>(plan: PlanOf<T>): PlanIndex<T> {
  let index = known.get(plan) as PlanIndex<T> | undefined;
  if (!index) {
    index = new PlanIndex(plan);
    known.set(plan, index as unknown as PlanIndex<PlanTask>);
  }
  return index;
}
