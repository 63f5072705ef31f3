import { asSaidNow, type EarlierEvent, type RunEvent, type whyNotUndone } from '@kestfog/core/bench';
import type { Lot, PlanTask } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { Refusal } from '../platform/errors.js';
import type { EventDataDto, RunEventDto } from './run-event.dto.js';

/** What a run knows, asked only where an event needs it. */
export interface RunKnows {
  readonly task: (id: string) => Promise<PlanTask | undefined>;
  readonly lot: (id: string) => Promise<Lot | undefined>;
  readonly hasTray: (id: string) => Promise<boolean>;
  readonly whyNotUndone: (eventId: string) => Promise<ReturnType<typeof whyNotUndone>>;
  readonly lastSeq: () => Promise<number>;
}
type Body = Pick<RunEvent, 'type' | 'data'>;

/** Type and data of an event as the core's closed union has them. Throws a {@link Refusal} that names what is missing. */
export async function checkedBody(dto: RunEventDto, run: RunKnows): Promise<Body> {
  const { data } = dto;
  const taskId = async (field: 'taskId' | 'insteadOf' = 'taskId'): Promise<string> => {
    const id = data[field];
    if (!id || !(await run.task(id)))
      throw new Refusal(400, 'unknown-task', msg`data.${field} must name a task of the plan, not "${id ?? ''}".`);
    return id;
  };
  const trayId = async (): Promise<string> => {
    const id = needed(data, 'trayId');
    if (!(await run.hasTray(id))) throw new Refusal(400, 'unknown-tray', msg`There is no tray "${id}" in this order.`);
    return id;
  };
  switch (dto.type) {
    case 'taskBegun':
    case 'taskDone':
    case 'imHere':
    case 'skipped':
      return { type: dto.type, data: { taskId: await taskId() } };
    case 'cookieDone':
      return { type: dto.type, data: { taskId: await taskId(), cookie: needed(data, 'cookie') } };
    case 'swapped':
      return { type: dto.type, data: { taskId: await taskId(), insteadOf: await taskId('insteadOf') } };
    case 'touched':
      return {
        type: dto.type,
        data: {
          taskId: await taskId(),
          cookie: data.cookie ?? null,
          part: data.part ?? null,
          state: data.state ?? null,
          found: needed(data, 'found'),
        },
      };
    // A page that was open before an update says it the earlier way.
    case 'stillWet':
    case 'crustedAlready': {
      const said = asSaidNow({ ...dto, type: dto.type, data: { taskId: await taskId(), untilS: 0 } } as EarlierEvent);
      return { type: said.type, data: said.data } as Body;
    }
    case 'windowShut':
      return { type: dto.type, data: { taskId: await taskId(), cookies: needed(data, 'cookies'), choice: needed(data, 'choice') } };
    case 'bagCounted':
      return {
        type: dto.type,
        data: { colour: needed(data, 'colour'), seconds: needed(data, 'seconds'), countedS: needed(data, 'countedS') },
      };
    case 'airRead':
      return { type: dto.type, data: { tempC: needed(data, 'tempC'), humidityPct: needed(data, 'humidityPct') } };
    case 'defect': {
      const lotId = needed(data, 'lotId');
      const cookie = needed(data, 'cookie');
      const lot = await run.lot(lotId);
      if (!lot || cookie >= lot.cookies)
        throw new Refusal(400, 'unknown-cookie', msg`There is no cookie ${cookie + 1} of "${lotId}" on the trays.`);
      const report = {
        lotId,
        cookie,
        part: data.part ?? null,
        seen: needed(data, 'seen'),
        surface: needed(data, 'surface'),
        outcome: needed(data, 'outcome'),
      };
      return { type: dto.type, data: report };
    }
    case 'undone': {
      const eventId = needed(data, 'eventId');
      const why = await run.whyNotUndone(eventId);
      if (why?.code === 'built-upon')
        throw new Refusal(
          409,
          why.code,
          why.facts['trayId']
            ? msg`This cannot be taken back: tray ${why.facts['trayId']} was carried away with it. Take that back first.`
            : msg`This cannot be taken back: ${why.facts['taskId']} was begun on the strength of it. Take that back first.`,
        );
      if (why) throw new Refusal(409, why.code, msg`There is nothing to take back: that step is not standing any more.`);
      return { type: dto.type, data: { eventId } };
    }
    case 'planRevised':
      return { type: dto.type, data: await revision(data, run) };
    case 'carried':
      return {
        type: dto.type,
        data: { trayId: await trayId(), where: needed(data, 'where') === 'fan' ? 'fan' : 'dehydrator', minutes: needed(data, 'minutes') },
      };
    case 'toolsCounted':
      return { type: dto.type, data: { out: needed(data, 'out'), sharps: needed(data, 'sharps'), offcuts: needed(data, 'offcuts') } };
    case 'broughtBack':
      return { type: dto.type, data: { trayId: await trayId() } };
    case 'runStarted':
    case 'paused':
    case 'resumed':
    case 'dehydratorOff':
      return { type: dto.type, data: {} };
    case 'boxOff':
      return { type: 'dehydratorOff', data: {} };
  }
}

function needed<K extends keyof EventDataDto>(data: EventDataDto, field: K): NonNullable<EventDataDto[K]> {
  const value = data[field];
  if (value === undefined || value === null) throw new Refusal(400, 'incomplete', msg`data.${field} is missing.`);
  return value as NonNullable<EventDataDto[K]>;
}

async function revision(data: EventDataDto, run: RunKnows): Promise<{ baseSeq: number; starts: Record<string, number> }> {
  const { baseSeq, starts } = data;
  if (baseSeq === undefined || !starts)
    throw new Refusal(400, 'bad-revision', msg`data.baseSeq and data.starts must say what was planned, and for which log.`);
  for (const [id, at] of Object.entries(starts))
    if (typeof at !== 'number' || !Number.isFinite(at) || at < 0 || !(await run.task(id)))
      throw new Refusal(400, 'bad-revision', msg`data.starts must give tasks of the plan their seconds, not ${id.slice(0, 80)}.`);
  // Something happened after it was made: whoever made it plans again from there.
  if ((await run.lastSeq()) !== baseSeq)
    throw new Refusal(409, 'plan-base', msg`The bench has gone on since this was planned: it is planned again.`);
  return { baseSeq, starts: starts as Record<string, number> };
}
