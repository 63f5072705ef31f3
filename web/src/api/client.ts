import type { ApiError } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { notePage } from '../app/newer-page.js';
import { keepAnswer, lastKnown } from './last-known.js';

/** A refusal by the server (status and its sentence), or no answer at all (status 0). */
export class ApiFailure extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

const TIMEOUT_MS = 30_000;
/** A large file takes its time. */
const FILE_TIMEOUT_MS = 300_000;

interface Init {
  readonly method?: string;
  readonly body?: unknown;
  /** sent as it is, by its type */
  readonly file?: Blob;
  readonly signal?: AbortSignal;
}

const gates = new Set<() => void>();
/** Tells when the server does not know this device yet; returns how to stop listening. */
export function onUnknownDevice(on: () => void): () => void {
  gates.add(on);
  return () => gates.delete(on);
}

/** Asks the server. What is only read is kept, and given as it was last known where the server does not answer. */
export async function api<T>(path: string, init: Init = {}): Promise<T> {
  if (init.method !== undefined && init.method !== 'GET') return ask<T>(path, init);
  try {
    const body = await ask<T>(path, init);
    void keepAnswer(path, body);
    return body;
  } catch (error) {
    const isAway = error instanceof ApiFailure && (error.status === 0 || error.status === 503) && !init.signal?.aborted;
    const known = isAway ? await lastKnown(path) : null;
    if (!known) throw error;
    return known.body as T;
  }
}

async function ask<T>(path: string, init: Init): Promise<T> {
  const timeout = AbortSignal.timeout(init.file ? FILE_TIMEOUT_MS : TIMEOUT_MS);
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method: init.method ?? 'GET',
      signal: init.signal ? AbortSignal.any([init.signal, timeout]) : timeout,
      ...(init.file ? { headers: { 'content-type': init.file.type }, body: init.file } : {}),
      ...(init.body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(init.body) }),
    });
  } catch {
    if (init.signal?.aborted) throw new ApiFailure(0, 'stopped', msg`It was stopped; nothing was changed.`);
    throw new ApiFailure(0, 'offline', msg`Kestfog’s server does not answer: check that it is running and that the network is there.`);
  }
  notePage(response.headers.get('kestfog-page'));
  if (response.status === 204) return undefined as T;
  const body = (await response.json().catch(() => null)) as unknown;
  if (!response.ok) {
    const error = (body ?? {}) as Partial<ApiError>;
    if (error.code === 'unknown-device') for (const gate of gates) gate();
    throw new ApiFailure(
      response.status,
      error.code ?? 'unknown',
      error.message ?? msg`The server refused (${response.status}): try again.`,
    );
  }
  return body as T;
}
