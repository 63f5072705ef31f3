import { z } from 'zod';
import { findings } from '../drying/body.js';
import { dryingStates, surfaceStates } from '../drying/state.js';
import type { Plan } from '../formats/plan.js';
import { openPlan } from '../formats/plan-format.js';
import { defectIds } from '../steps/defects/index.js';
import { BadInput } from '../units/bad-input.js';
import { type FormatDefinition, openFormat } from '../units/format.js';
import { msg } from '../words/index.js';
import { asSaidNow, cookieOutcomes, type EarlierEvent, earlierEventTypes, type StoredEvent, shutChoices } from './event.js';

/**
 * `kestfog-run`: the log of one run at the bench, in the server's order, and the plan it was worked by. Version 2 added the plan,
 * trays carried away unplanned and defects that are to be covered; version 3 keeps what a finger found instead of what followed
 * from it; version 4 calls the dehydrator by that name. Everything earlier means what it meant.
 */
export interface RunLog {
  readonly format: 'kestfog-run/4';
  /** null in logs of version 1, which were kept without it */
  readonly plan: Plan | null;
  readonly events: readonly StoredEvent[];
}

/** A run that can be replayed on its own. */
export type ExportedRun = RunLog & { readonly plan: Plan };

const base = {
  id: z.string().min(1),
  deviceId: z.string().min(1),
  deviceSeq: z.int().min(1),
  atMs: z.number(),
  seq: z.int().min(1),
  doubtful: z.literal(true).optional(),
};
const nothing = z.object({});
const taskId = z.string().min(1);
const event = <T extends string, D extends z.ZodType>(type: T, data: D) => z.object({ ...base, type: z.literal(type), data });
const ofTask = z.object({ taskId });

const events = z.discriminatedUnion('type', [
  event('runStarted', nothing),
  event('taskBegun', ofTask),
  event('taskDone', ofTask),
  event('undone', z.object({ eventId: z.string().min(1) })),
  event('paused', nothing),
  event('resumed', nothing),
  event(
    'touched',
    z.object({
      taskId,
      cookie: z.int().min(0).nullable().default(null),
      part: z.string().nullable().default(null),
      state: z.enum(dryingStates).nullable().default(null),
      found: z.enum(findings),
    }),
  ),
  event('cookieDone', z.object({ taskId, cookie: z.int().min(0) })),
  event('imHere', ofTask),
  event('swapped', z.object({ taskId, insteadOf: taskId })),
  event('windowShut', z.object({ taskId, cookies: z.array(z.int().min(0)), choice: z.enum(shutChoices) })),
  event('skipped', ofTask),
  event('bagCounted', z.object({ colour: z.string(), seconds: z.number(), countedS: z.number() })),
  event(
    'defect',
    z.object({
      lotId: z.string(),
      cookie: z.int().min(0),
      part: z.string().nullable(),
      seen: z.enum(defectIds),
      surface: z.enum(surfaceStates),
      outcome: z.enum(cookieOutcomes),
    }),
  ),
  event('airRead', z.object({ tempC: z.number(), humidityPct: z.number() })),
  event('carried', z.object({ trayId: z.string().min(1), where: z.enum(['fan', 'dehydrator']), minutes: z.number() })),
  event('broughtBack', z.object({ trayId: z.string().min(1) })),
  event('toolsCounted', z.object({ out: z.boolean(), sharps: z.int().min(0), offcuts: z.int().min(0) })),
  event('dehydratorOff', nothing),
  event('planRevised', z.object({ baseSeq: z.int(), starts: z.record(z.string(), z.number()) })),
]);

/** "Still wet" and "crusted already" as looks at a body; `box` as dehydrator. */
function inWordsOfNow(json: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  const { events: list } = json;
  if (!Array.isArray(list)) return json;
  const types: readonly string[] = [...earlierEventTypes, 'carried'];
  const isEarlier = (e: unknown): e is EarlierEvent =>
    typeof e === 'object' &&
    e !== null &&
    'type' in e &&
    types.includes(String(e.type)) &&
    'data' in e &&
    typeof e.data === 'object' &&
    e.data !== null;
  return { ...json, events: list.map((e: unknown) => (isEarlier(e) ? asSaidNow(e) : e)) };
}

export const runFormat: FormatDefinition<RunLog> = {
  name: 'kestfog-run',
  version: 4,
  migrations: { 1: (json) => json, 2: inWordsOfNow, 3: inWordsOfNow },
  schema: z.object({
    format: z.literal('kestfog-run/4'),
    plan: z.unknown().default(null),
    events: z.array(events),
  }) as unknown as z.ZodType<RunLog>,
};

/** A run's log of any released version, its plan brought up to date as well. Throws a BadInput that names the place. */
export function openRun(json: unknown): RunLog {
  const run = openFormat(runFormat, json);
  try {
    return { ...run, plan: run.plan === null ? null : openPlan(run.plan) };
  } catch (error) {
    if (error instanceof BadInput) throw new BadInput(error.code, msg`plan: ${error.message}`, error.facts);
    throw error;
  }
}

/** A run with the plan it was worked by. Throws a BadInput where it was kept without one. */
export function withPlan(run: RunLog): ExportedRun {
  if (!run.plan)
    throw new BadInput('format', msg`plan: is missing, and without it the log cannot be read: export the run from its bench again.`, {
      place: 'plan',
    });
  return { ...run, plan: run.plan };
}
