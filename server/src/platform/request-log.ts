import { ConsoleLogger } from '@nestjs/common';
import type { NextFunction, Response } from 'express';
import type { FromDevice } from '../lan/device-gate.js';

/** The one path that opens something by itself. */
const SECRET = /(\/calendar\/)[\w-]{32}/;

/**
 * One line for each request that was answered: what was asked, how it ended, how long it took, and by which device. No body, no query, no
 * cookie, and no secret of a path.
 */
export function requestLog() {
  const log = new ConsoleLogger('request', { json: true, colors: false });
  return (req: FromDevice, res: Response, next: NextFunction): void => {
    const began = performance.now();
    const [path = ''] = req.originalUrl.split('?');
    if (path.startsWith('/api/'))
      res.once('close', () =>
        log.log({
          method: req.method,
          path: path.replace(SECRET, '$1…'),
          status: res.statusCode,
          // Who went away before the answer heard nothing.
          answered: res.writableFinished,
          ms: Math.round(performance.now() - began),
          ...(req.device ? { device: req.device.id } : {}),
        }),
      );
    next();
  };
}
