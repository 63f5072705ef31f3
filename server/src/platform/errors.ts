import { BadInput, NoAnswer } from '@kestfog/core/units';
import type { ApiError } from '@kestfog/core/wire';
import { refusalText } from '@kestfog/core/wording';
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import type { ValidationError } from 'class-validator';
import type { Response } from 'express';

/** A refusal with a status and one clear sentence. */
export class Refusal extends HttpException {
  constructor(status: number, code: string, message: string) {
    super({ code, message } satisfies ApiError, status);
  }
}
export const notFound = (what: string) => new Refusal(404, 'not-found', `There is no such ${what}: it may have been deleted.`);

/** The first thing wrong, said with its place: "designs.0.count must not be less than 1". */
export function validationSentence(errors: readonly ValidationError[]): string {
  const walk = (list: readonly ValidationError[], path: string): string | null => {
    for (const e of list) {
      const at = path === '' ? e.property : `${path}.${e.property}`;
      const own = Object.values(e.constraints ?? {})[0];
      if (own) {
        if (e.constraints?.['whitelistValidation']) return `"${at}" is not known here: leave it out.`;
        return `${own.startsWith(e.property) ? at + own.slice(e.property.length) : `${at}: ${own}`}.`;
      }
      const inner = walk(e.children ?? [], at);
      if (inner) return inner;
    }
    return null;
  };
  return walk(errors, '') ?? 'Something sent is not as expected: check the fields and try again.';
}

/** Turns everything thrown into a code and one sentence; nothing of the inside leaks out. */
@Catch()
export class ErrorFilter implements ExceptionFilter {
  private readonly log = new Logger('api');

  catch(error: unknown, host: ArgumentsHost): void {
    const res = host.switchToHttp().getResponse<Response>();
    const { status, body } = this.describe(error);
    if (res.headersSent) res.end();
    else res.status(status).json(body);
  }

  private describe(error: unknown): { status: number; body: ApiError } {
    if (error instanceof BadInput) return { status: 400, body: { code: error.code, message: refusalText(error) } };
    if (error instanceof NoAnswer) return { status: 422, body: { code: error.code, message: refusalText(error) } };
    const type = (error as { type?: string } | null)?.type;
    if (type === 'entity.too.large')
      return { status: 413, body: { code: 'too-large', message: 'What was sent is larger than 2.5 MB: simplify the drawing or remove embedded pictures.' } };
    if (error instanceof HttpException) {
      const body = error.getResponse();
      if (typeof body === 'object' && 'code' in body) return { status: error.getStatus(), body: body as ApiError };
      const status = error.getStatus();
      // The framework wraps the parser's complaint; nothing else of ours answers 400 without a code.
      if (status === 400 && /JSON/.test(error.message))
        return { status, body: { code: 'not-json', message: 'What was sent is not JSON: check its brackets and commas.' } };
      if (status === 413)
        return { status, body: { code: 'too-large', message: 'What was sent is larger than 2.5 MB: simplify the drawing or remove embedded pictures.' } };
      return {
        status,
        body: { code: status === 404 ? 'not-found' : 'refused', message: status === 404 ? 'There is nothing at this address.' : error.message },
      };
    }
    this.log.error(error instanceof Error ? error.stack : String(error));
    return {
      status: 500,
      body: { code: 'internal', message: 'Something went wrong on the server; nothing was changed. Try again, and look at its log if it stays.' },
    };
  }
}
