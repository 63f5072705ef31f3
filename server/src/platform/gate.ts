import { msg } from '@kestfog/core/words';
import { type CallHandler, type ExecutionContext, Injectable, type NestInterceptor, SetMetadata } from '@nestjs/common';
import { SSE_METADATA } from '@nestjs/common/constants.js';
import { Reflector } from '@nestjs/core';
import type { Request, Response } from 'express';
import PQueue from 'p-queue';
import { finalize, from, type Observable, switchMap } from 'rxjs';
import { Refusal } from './errors.js';

/** Requests worked on at once, fewer than there are connections to the database, and those that may wait: *assumed*. */
const AT_ONCE = 8;
const MOST_WAITING = 400;
const RETRY_AFTER_S = 2;

const UNGATED = 'ungated';
/** For what waits long without working: plans in a thread of their own, and being asked whether one is well. */
export const Ungated = () => SetMetadata(UNGATED, true);
const FIRST = 'first';
/** For taps at the bench: they go before lists. */
export const First = () => SetMetadata(FIRST, true);

/**
 * Lets so many requests in at once; the others wait in line, and when the line is long they are sent away with when to come again.
 * Who has left the line is not worked for; a request that is worked on keeps its place until it ends, whether its client is there or
 * not, so that giving up and asking again makes nothing pile up.
 */
@Injectable()
export class Gate implements NestInterceptor {
  private readonly line = new PQueue({ concurrency: AT_ONCE });

  constructor(private readonly reflector: Reflector) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const handler = context.getHandler();
    // A stream stays open as long as its page does.
    if (this.reflector.get<boolean>(UNGATED, handler) || this.reflector.get<boolean>(SSE_METADATA, handler)) return next.handle();
    const http = context.switchToHttp();
    const [req, res] = [http.getRequest<Request>(), http.getResponse<Response>()];
    if (this.line.size >= MOST_WAITING) {
      res.setHeader('Retry-After', String(RETRY_AFTER_S));
      throw new Refusal(429, 'busy', msg`Kestfog has too much to answer at once: it is asked again in a moment.`);
    }
    return from(this.entered(req, res, this.reflector.get<boolean>(FIRST, handler) ? 1 : 0)).pipe(
      switchMap((leave) => next.handle().pipe(finalize(leave))),
    );
  }

  /** Resolves to what is called on leaving once it is this request's turn; rejects where its client has left. */
  private entered(req: Request, res: Response, priority: number): Promise<() => void> {
    return new Promise((enter, refuse) => {
      const gone = () => req.socket.destroyed || res.destroyed;
      void this.line.add(
        () =>
          new Promise<void>((leave) => {
            if (!gone()) return enter(leave);
            leave();
            refuse(new Refusal(499, 'left', msg`The client has left.`));
          }),
        { priority },
      );
    });
  }
}
