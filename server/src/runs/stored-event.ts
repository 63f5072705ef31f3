import type { StoredEvent } from '@kestfog/core';
import type { RunEventEntity } from './run.entity.js';

export const toStored = (e: RunEventEntity): StoredEvent =>
  ({ id: e.id, deviceId: e.deviceId, deviceSeq: e.deviceSeq, atMs: e.at.getTime(), type: e.type, data: e.data, seq: e.seq }) as StoredEvent;
