/** What happened at the bench; a closed union, append-only, folded by one reducer. `atMs` is the device's clock put right by the server's. */
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
  | (EventBase & { readonly type: 'taskBegun'; readonly data: { readonly taskId: string } })
  | (EventBase & { readonly type: 'taskDone'; readonly data: { readonly taskId: string } })
  | (EventBase & { readonly type: 'undone'; readonly data: { readonly eventId: string } })
  | (EventBase & { readonly type: 'paused'; readonly data: Record<string, never> })
  | (EventBase & { readonly type: 'resumed'; readonly data: Record<string, never> })
  /** a finger found it not dry enough for the task; it is looked at again no sooner than `untilS`, seconds since the epoch */
  | (EventBase & { readonly type: 'stillWet'; readonly data: { readonly taskId: string; readonly untilS: number } })
  /** what is open, at other times; made for the log as it stood at `baseSeq`, and taken only if nothing came between */
  | (EventBase & { readonly type: 'planRevised'; readonly data: { readonly baseSeq: number; readonly starts: Readonly<Record<string, number>> } });

export const runEventTypes = ['runStarted', 'taskBegun', 'taskDone', 'undone', 'paused', 'resumed', 'stillWet', 'planRevised'] as const;
/** As the server keeps it: `seq` is the order that counts. */
export type StoredEvent = RunEvent & { readonly seq: number };
