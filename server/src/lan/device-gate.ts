import { parse } from 'cookie';
import type { NextFunction, Request, Response } from 'express';
import type { Config } from '../platform/config.js';
import { DEVICE_COOKIE, isPass } from './device-pass.js';

export const isKnownDevice = ({ lan }: Config, req: Request): boolean =>
  lan === null || isPass(lan.secrets, parse(req.headers.cookie ?? '')[DEVICE_COOKIE], Date.now());

/** A calendar program has no passphrase: the secret in its address is looked at where the calendar is read. */
const CALENDAR = /^\/api\/calendar\/[\w-]{32}\/orders\.ics$/;

/**
 * On the kitchen's network nothing but the page itself, the asking for the passphrase and the calendar by its secret is open to a device
 * that is not known.
 */
export function deviceGate(config: Config) {
  return (req: Request, res: Response, next: NextFunction) => {
    if (!/^\/api(\/|$)/i.test(req.path) || CALENDAR.test(req.path) || /^\/api\/devices\/?$/i.test(req.path) || isKnownDevice(config, req))
      return next();
    res.status(401).json({ code: 'unknown-device', message: 'This device is not known yet: type the passphrase once.' });
  };
}
