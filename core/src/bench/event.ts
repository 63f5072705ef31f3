import type { Finding } from '../drying/body.js';
import type { DryingState, SurfaceState } from '../drying/state.js';
import type { StayPlace } from '../formats/plan.js';
import type { DefectId } from '../steps/defects/index.js';
import type { LotId, StepId, TaskId, TrayId } from '../units/id.js';

/**
 * What happened at the bench; a closed union, append-only, folded by one reducer. `atMs` is the device's clock put right by the
 * server's.
 */
export interface EventBase {
  /** made on the device, so that sending twice counts once */
  readonly id: string;
  readonly deviceId: string;
  /** counts up by one on each device */
  readonly deviceSeq: number;
  readonly atMs: number;
}
export type RunEvent =
  | (EventBase & { readonly type: 'runStarted'; readonly data: Record<string, never> })
  | (EventBase & { readonly type: 'taskBegun'; readonly data: { readonly taskId: TaskId } })
  | (EventBase & { readonly type: 'taskDone'; readonly data: { readonly taskId: TaskId } })
  | (EventBase & { readonly type: 'undone'; readonly data: { readonly eventId: string } })
  | (EventBase & { readonly type: 'paused'; readonly data: Record<string, never> })
  | (EventBase & { readonly type: 'resumed'; readonly data: Record<string, never> })
  /** a finger looked at what a task waits for: which cookie and step, for which state, and what it found */
  | (EventBase & { readonly type: 'touched'; readonly data: Touched })
  /** one cookie of a task, for who ticks them one by one; with the last the task is done */
  | (EventBase & { readonly type: 'cookieDone'; readonly data: { readonly taskId: TaskId; readonly cookie: number } })
  /** the hands are at this task: what it needs before it was done too, though nobody said so */
  | (EventBase & { readonly type: 'imHere'; readonly data: { readonly taskId: TaskId } })
  /** taken up in place of another, which is put down */
  | (EventBase & { readonly type: 'swapped'; readonly data: { readonly taskId: TaskId; readonly insteadOf: TaskId } })
  /** wet work that comes too late for some cookies of a task, and what becomes of it */
  | (EventBase & {
      readonly type: 'windowShut';
      readonly data: { readonly taskId: TaskId; readonly cookies: readonly number[]; readonly choice: ShutChoice };
    })
  /** a task that is not done at all */
  | (EventBase & { readonly type: 'skipped'; readonly data: { readonly taskId: TaskId } })
  /** what a bag counts now, reference seconds */
  | (EventBase & {
      readonly type: 'bagCounted';
      readonly data: { readonly colour: string; readonly seconds: number; readonly countedS: number };
    })
  /** something went wrong on a part of a cookie, and what was made of it */
  | (EventBase & { readonly type: 'defect'; readonly data: DefectReport })
  /** the room's air from now on */
  | (EventBase & { readonly type: 'airRead'; readonly data: { readonly tempC: number; readonly humidityPct: number } })
  /** a tray was carried away from the bench though no plan said so, for so many minutes */
  | (EventBase & {
      readonly type: 'carried';
      readonly data: { readonly trayId: TrayId; readonly where: StayPlace; readonly minutes: number };
    })
  /** … and is back on it */
  | (EventBase & { readonly type: 'broughtBack'; readonly data: { readonly trayId: TrayId } })
  /** sharp tools, and ends cut off bags, counted out in the morning and in at the end of a day */
  | (EventBase & { readonly type: 'toolsCounted'; readonly data: ToolCount })
  /** the dehydrator was switched off */
  | (EventBase & { readonly type: 'dehydratorOff'; readonly data: Record<string, never> })
  /** what is open, at other times; made for the log as it stood at `baseSeq`, and taken only if nothing came between */
  | (EventBase & {
      readonly type: 'planRevised';
      readonly data: { readonly baseSeq: number; readonly starts: Readonly<Record<string, number>> };
    });

export const runEventTypes = [
  'runStarted',
  'taskBegun',
  'taskDone',
  'undone',
  'paused',
  'resumed',
  'touched',
  'cookieDone',
  'imHere',
  'swapped',
  'windowShut',
  'skipped',
  'bagCounted',
  'defect',
  'airRead',
  'carried',
  'broughtBack',
  'toolsCounted',
  'dehydratorOff',
  'planRevised',
] as const satisfies readonly RunEvent['type'][];

/**
 * What is seen rather than done. Observations count by their own time, in whatever order they arrive; what is done counts in the
 * server's order.
 */
export const observationTypes = [
  'touched',
  'airRead',
  'bagCounted',
  'carried',
  'broughtBack',
  'toolsCounted',
  'dehydratorOff',
] as const satisfies readonly RunEvent['type'][];
export const isObservation = (e: Pick<RunEvent, 'type'>): boolean => (observationTypes as readonly RunEvent['type'][]).includes(e.type);

/** A look at a body; cookie, step and state are null where nobody said which was meant: the one furthest from what was asked. */
export interface Touched {
  readonly taskId: TaskId;
  /** of the lot, from 0 */
  readonly cookie: number | null;
  /** the step that laid it */
  readonly part: StepId | null;
  readonly state: DryingState | null;
  readonly found: Finding;
}

export interface ToolCount {
  readonly out: boolean;
  /** scribes, needles, blades, tips */
  readonly sharps: number;
  /** ends cut off bags, found again; 0 when counted out */
  readonly offcuts: number;
}

/** What becomes of wet work that comes too late: left out, piped on the crust, or the cookie scraped and begun again. */
export const shutChoices = ['skip', 'relief', 'again'] as const;
export type ShutChoice = (typeof shutChoices)[number];

/** What became of a cookie with a defect; the last four take it out of its lot. */
export const cookieOutcomes = ['mended', 'covered', 'to-cover', 'left', 'spare', 'shorter', 'tie-dye', 'again'] as const;
export type CookieOutcome = (typeof cookieOutcomes)[number];
/** Whether there is more or less to do because of it. */
export const changesTasks = (outcome: CookieOutcome): boolean => takesOut(outcome) || outcome === 'to-cover';
export const takesOut = (outcome: CookieOutcome): boolean =>
  outcome === 'spare' || outcome === 'shorter' || outcome === 'tie-dye' || outcome === 'again';

export interface DefectReport {
  readonly lotId: LotId;
  readonly cookie: number;
  /** part of the design that was touched; null for the whole cookie */
  readonly part: string | null;
  readonly seen: DefectId;
  /** what the surface was then */
  readonly surface: SurfaceState;
  readonly outcome: CookieOutcome;
}

/** Events of earlier releases that say the same in another way. */
export type EarlierEvent =
  | (EventBase & { readonly type: 'stillWet'; readonly data: { readonly taskId: TaskId; readonly untilS: number } })
  | (EventBase & { readonly type: 'crustedAlready'; readonly data: { readonly taskId: TaskId } })
  | (EventBase & { readonly type: 'boxOff'; readonly data: Record<string, never> })
  | (EventBase & {
      readonly type: 'carried';
      readonly data: { readonly trayId: TrayId; readonly where: StayPlace | 'box'; readonly minutes: number };
    });
/** Types that are not said any more; a tray is still carried, though no longer to a `box`. */
export const earlierEventTypes = ['stillWet', 'crustedAlready', 'boxOff'] as const satisfies readonly EarlierEvent['type'][];

/** An event of any release as it is said now: when to look again was a conclusion, and is drawn anew; a dehydrator was a box. */
export function asSaidNow(e: RunEvent | EarlierEvent): RunEvent {
  switch (e.type) {
    case 'stillWet':
    case 'crustedAlready': {
      const data: Touched = {
        taskId: e.data.taskId,
        cookie: null,
        part: null,
        state: null,
        found: e.type === 'stillWet' ? 'not-yet' : 'reached',
      };
      return { ...e, type: 'touched', data };
    }
    case 'boxOff':
      return { ...e, type: 'dehydratorOff' };
    case 'carried':
      return { ...e, data: { ...e.data, where: e.data.where === 'box' ? 'dehydrator' : e.data.where } };
    default:
      return e;
  }
}

/** As the server keeps it: `seq` is the order that counts; `doubtful` where its time is more than half a day off the server's. */
export type StoredEvent = RunEvent & { readonly seq: number; readonly doubtful?: true };
