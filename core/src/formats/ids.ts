import type { DesignId, LotId, StayId, StepId, TaskId, TrayId } from '../units/id.js';
import type { StayPlace } from './plan.js';

/** How the parts of a plan are named: the one place where a name is put together. */

/** Cookies of one design on one tray. */
export const lotIdOf = (trayId: TrayId, designId: DesignId): LotId => `${trayId}.${designId}`;
/** Work on a lot that is done in one go; numbered from 1 where it is split into groups of cookies. */
export const taskIdOf = (lotId: LotId, bundleId: string, group: number | null): TaskId =>
  `${lotId}.${bundleId}${group === null ? '' : `.${group}`}`;
/** A tray's stay before the fan or in the dehydrator, after a round or after a batch of it. */
export const stayIdOf = (s: {
  readonly trayId: TrayId;
  readonly where: StayPlace;
  readonly round: number;
  readonly batch: number | null;
}): StayId => `${s.trayId}.${s.where}.r${s.round}${s.batch === null ? '' : `b${s.batch}`}`;
export const carryIdOf = (stay: StayId): TaskId => `${stay}.carry`;
export const takeOutIdOf = (stay: StayId): TaskId => `${stay}.out`;
/** A cookie begun again, or rescued as something else, is a lot of its own. */
export const newLotIdOf = (lotId: LotId, as: string, cookie: number): LotId => `${lotId}.${as}${cookie + 1}`;
/** A design begun on a cookie in place of its own: its outline as a tie-dye, or flooded only. */
export const TIE_DYE = 'tie-dye';
export const rescuedDesignId = (of: DesignId, plain: boolean): DesignId => `${of}.${TIE_DYE}${plain ? '-plain' : ''}`;
/** Work of a task that is piped in relief later. */
export const reliefIdOf = (task: TaskId): TaskId => `${task}.relief`;
const COVER = 'cover.';
/** What covers a defect of one cookie, as a step of its design and as a task. */
export const coverStepIdOf = (lotId: LotId, cookie: number): StepId => `${COVER}${lotId}.${cookie + 1}`;
export const isCoverStep = (id: StepId): boolean => id.startsWith(COVER);
export const coverTaskIdOf = (lotId: LotId, step: StepId): TaskId => `${lotId}.${step}`;

/** The same name, with a mark behind it where it is taken: "+" for the second, "++" for the third, or as said. */
export function freeName(wanted: string, isTaken: (id: string) => boolean, mark: (n: number) => string = (n) => '+'.repeat(n - 1)): string {
  let id = wanted;
  for (let n = 2; isTaken(id); n++) id = `${wanted}${mark(n)}`;
  return id;
}

/** One cookie of a lot, from 0. */
export const cookieKey = (lotId: LotId, cookie: number): string => `${lotId} ${cookie}`;
/** The icing one step left on one cookie. */
export const bodyKey = (lotId: LotId, cookie: number, stepId: StepId): string => `${cookieKey(lotId, cookie)} ${stepId}`;
/** Two tasks with something between them. */
export const lagKey = (from: TaskId, to: TaskId): string => `${from} > ${to}`;
