import type { StoredEvent } from '@kestfog/core/bench';
import type { RunEventEntity } from './run.entity.js';

/** More than so far off the server's time, a moment is kept and not learned from. */
const DOUBTFUL_MS = 12 * 3_600_000;

export const toStored = (e: RunEventEntity): StoredEvent =>
  ({
    id: e.id,
    deviceId: e.deviceId,
    deviceSeq: e.deviceSeq,
    atMs: e.at.getTime(),
    type: e.type,
    data: e.data,
    seq: e.seq,
    ...(Math.abs(e.at.getTime() - e.receivedAt.getTime()) > DOUBTFUL_MS ? { doubtful: true } : {}),
  }) as StoredEvent;
