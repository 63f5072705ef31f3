import { BadInput, NoAnswer } from '@kestfog/core/units';
import type { ApiError } from '@kestfog/core/wire';
import { refusalText } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import type { ValidationError } from 'class-validator';
import type { Response } from 'express';
import { QueryRunnerAlreadyReleasedError, QueryRunnerProviderAlreadyReleasedError } from 'typeorm';

/** Nothing that is sent here nests deeper than a design's document, by far. */
export const MOST_DEEP = 64;
/** The message of the error for what does. */
export const TOO_DEEP = 'json.too.deep';

/** A refusal with a status and one clear sentence. */
export class Refusal extends HttpException {
  constructor(
    status: number,
    readonly code: string,
    message: string,
    now?: unknown,
  ) {
    super({ code, message, ...(now === undefined ? {} : { now }) } satisfies ApiError, status);
  }
}
const CHANGED = 'changed-elsewhere';
/** A change that goes on from what is there no more. */
export const changedElsewhere = (sentence: string) => new Refusal(409, CHANGED, sentence);
/** Where a change is refused because another came first, the answer tells what is there now. */
export async function tellingNow<T>(change: Promise<T>, now: () => Promise<unknown>): Promise<T> {
  try {
    return await change;
  } catch (error) {
    throw error instanceof Refusal && error.code === CHANGED ? new Refusal(409, CHANGED, error.message, await now()) : error;
  }
}
export const notFound = (what: string) => new Refusal(404, 'not-found', msg`There is no such ${what}: it may have been deleted.`);

/** What places of an order are called where people look: "openingHours[1]" is the second opening. */
const PLACES: Readonly<Record<string, string>> = {
  designs: msg`design`,
  trays: msg`tray`,
  openingHours: msg`opening`,
  decorators: msg`pair of hands`,
  pins: msg`wish`,
  tips: msg`tip`,
};
const FIELDS: Readonly<Record<string, string>> = {
  count: msg`its count`,
  spares: msg`its spares`,
  places: msg`what it holds`,
  widthMm: msg`its width in mm`,
  depthMm: msg`its depth in mm`,
  pace: msg`its pace`,
  id: 'its name',
  tray: msg`its tray`,
  kind: 'its kind',
  at: msg`its time`,
  from: msg`its beginning`,
  to: msg`its end`,
};
const PLACE = /^(\w+)(?:\.(\d+)|\[(\d+)\])(?: \(([^)]*)\))?(?:\.(\w+))?:? /;
/** A place at the beginning of a sentence, in words: "designs.0.count must …" is "design 1, its count: must …". */
export const placeInWords = (sentence: string): string =>
  sentence.replace(PLACE, (all, list: string, dotted?: string, bracketed?: string, name?: string, field?: string) => {
    const what = PLACES[list];
    if (!what) return all;
    return `${what} ${name ?? Number(dotted ?? bracketed) + 1}${field ? `, ${FIELDS[field] ?? field}` : ''}: `;
  });

/** The first thing wrong, said with its place: "design 1, its count: must not be less than 1". */
export function validationSentence(errors: readonly ValidationError[]): string {
  const walk = (list: readonly ValidationError[], path: string): string | null => {
    for (const e of list) {
      const at = path === '' ? e.property : `${path}.${e.property}`;
      const own = Object.values(e.constraints ?? {})[0];
      if (own) {
        if (e.constraints?.['whitelistValidation']) return msg`"${at}" is not known here: leave it out.`;
        return `${own.startsWith(e.property) ? at + own.slice(e.property.length) : `${at}: ${own}`}.`;
      }
      const inner = walk(e.children ?? [], at);
      if (inner) return inner;
    }
    return null;
  };
  const found = walk(errors, '');
  if (found) return placeInWords(found).replace('must be an integer number', 'must be a whole number');
  return msg`Something sent is not as expected: check the fields and try again.`;
}

/** Classes and codes by which PostgreSQL says that it, its room or a connection is missing (its manual, appendix A). */
const AWAY = /^(08|53|57|58)|^(55000|55P03|25P03|40001|40P01)$/;
const NETWORK = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ENOENT', 'ETIMEDOUT', 'EHOSTUNREACH', 'ENOTFOUND']);

/**
 * Whether an error says that the database is down, full, or did not answer in time, and not that something was wrong with what it was
 * asked.
 */
export function isDatabaseAway(error: unknown): boolean {
  const driver = (error as { driverError?: unknown } | null)?.driverError ?? error;
  if (!(driver instanceof Error)) return false;
  const { code } = driver as { code?: unknown };
  if (typeof code === 'string') return AWAY.test(code) || NETWORK.has(code);
  // Thrown off in the middle of a transaction: by whom it is noticed depends on the moment.
  if (driver instanceof QueryRunnerAlreadyReleasedError || driver instanceof QueryRunnerProviderAlreadyReleasedError) return true;
  // The driver's own complaints have no code.
  return /timeout exceeded when trying to connect|Connection terminated|Query read timeout|not queryable|connection error|Connection is not established|Driver not Connected/i.test(
    driver.message,
  );
}

/** Turns everything thrown into a code and one sentence; nothing of the inside leaks out. */
@Catch()
export class ErrorFilter implements ExceptionFilter {
  private readonly log = new Logger('api');

  catch(error: unknown, host: ArgumentsHost): void {
    const res = host.switchToHttp().getResponse<Response>();
    if (res.destroyed) return;
    const { status, body } = this.describe(error);
    if (res.headersSent) res.end();
    else {
      if (status === 429 || status === 503) res.setHeader('Retry-After', res.getHeader('Retry-After') ?? '2');
      res.status(status).json(body);
    }
  }

  private describe(error: unknown): { status: number; body: ApiError } {
    if (error instanceof BadInput) return { status: 400, body: { code: error.code, message: placeInWords(refusalText(error)) } };
    if (error instanceof NoAnswer) return { status: 422, body: { code: error.code, message: refusalText(error) } };
    const type = (error as { type?: string } | null)?.type;
    if (type === 'entity.too.large')
      return {
        status: 413,
        body: { code: 'too-large', message: msg`What was sent is larger than 2.5 MB: simplify the drawing or remove embedded pictures.` },
      };
    if (error instanceof Error && error.message === TOO_DEEP)
      return {
        status: 400,
        body: {
          code: 'too-deep',
          message: msg`What was sent nests more than ${MOST_DEEP} levels deep: nothing here does, so something made it wrongly.`,
        },
      };
    if (error instanceof HttpException) {
      const body = error.getResponse();
      if (typeof body === 'object' && 'code' in body) return { status: error.getStatus(), body: body as ApiError };
      const status = error.getStatus();
      // The framework wraps the parser's complaint; nothing else of ours answers 400 without a code.
      if (status === 400 && /JSON/.test(error.message))
        return { status, body: { code: 'not-json', message: msg`What was sent is not JSON: check its brackets and commas.` } };
      // The framework's own pipes, for what an address holds.
      if (status === 400 && /^Validation failed \(.* is expected\)$/.test(error.message))
        return { status, body: { code: 'address', message: msg`This address names nothing: it may have been cut off, or typed wrongly.` } };
      if (status === 413)
        return {
          status,
          body: { code: 'too-large', message: msg`What was sent is larger than 2.5 MB: simplify the drawing or remove embedded pictures.` },
        };
      return {
        status,
        body: {
          code: status === 404 ? 'not-found' : 'refused',
          message: status === 404 ? msg`There is nothing at this address.` : error.message,
        },
      };
    }
    // A row went, or came into use, between the look and the change.
    if ((error as { driverError?: { code?: string } } | null)?.driverError?.code === '23503')
      return {
        status: 409,
        body: {
          code: 'changed-meanwhile',
          message: msg`Something this names was deleted just now, or is still in use: load the page again, and look.`,
        },
      };
    const asked = (error as { driverError?: { code?: string } } | null)?.driverError?.code ?? '';
    if (asked.startsWith('22'))
      return {
        status: 400,
        body: {
          code: 'bad-value',
          message: msg`Something sent is not a value that can be kept: check the numbers, times and letters of it.`,
        },
      };
    if (isDatabaseAway(error)) {
      this.log.warn(msg`the database: ${error instanceof Error ? error.message : String(error)}`);
      return {
        status: 503,
        body: {
          code: 'database',
          message: msg`The database did not answer in time, so it is not known whether this was kept: look, and try again. What is sent
            twice from the bench counts once.`,
        },
      };
    }
    this.log.error(error instanceof Error ? error.stack : String(error));
    return {
      status: 500,
      body: {
        code: 'internal',
        message: msg`Something went wrong on the server, and it is not known whether this was kept: look, and try again. Its log says
          more.`,
      },
    };
  }
}
