import { parse, serialize } from 'cookie';
import type { NextFunction, Request, Response } from 'express';
import type { Config } from '../platform/config.js';
import type { DeviceEntity } from './device.entity.js';
import type { DevicesService } from './devices.service.js';
import { isOverTls } from './lan.js';

const DEVICE_COOKIE = 'kestfog_device';
/** As long as browsers keep one (RFC 6265bis, 400 days at most); what counts is what the server knows of the pass. */
const COOKIE_S = 400 * 86_400;

export const passOf = (req: Request): string | undefined => parse(req.headers.cookie ?? '')[DEVICE_COOKIE];
export function givePass(res: Response, pass: string, isOverTls: boolean): void {
  res.setHeader(
    'Set-Cookie',
    serialize(DEVICE_COOKIE, pass, { httpOnly: true, sameSite: 'strict', secure: isOverTls, path: '/', maxAge: COOKIE_S }),
  );
}

/** Whom a request comes from, where somebody on the network asks. */
export type FromDevice = Request & { device?: DeviceEntity };

/** A calendar program has no passphrase: the secret in its address is looked at where the calendar is read. */
const CALENDAR = /^\/api\/calendar\/[\w-]{32}\/orders\.ics$/;
/** What watches over a server asks whether it is well, and is told no more. */
const HEALTH = /^\/api\/health$/;
const ASKING_TO_COME_IN = /^\/api\/devices\/?$/i;

/**
 * On the kitchen's network nothing but the page itself, the asking to come in, whether it is well and the calendar by its secret is open to a device that is
 * not known. One that opens the page gets its pass for another while.
 */
export function deviceGate({ lan }: Config, devices: DevicesService) {
  return async (req: FromDevice, res: Response, next: NextFunction): Promise<void> => {
    if (!/^\/api(\/|$)/i.test(req.path) || CALENDAR.test(req.path) || HEALTH.test(req.path)) return next();
    const pass = passOf(req);
    const device = await devices.of(pass);
    if (device && pass) {
      req.device = device;
      if (ASKING_TO_COME_IN.test(req.path)) givePass(res, pass, lan !== null && isOverTls(lan));
      if (req.headers.accept?.includes('text/event-stream')) devices.hears(device, res);
      return next();
    }
    if (ASKING_TO_COME_IN.test(req.path)) return next();
    res.status(401).json({ code: 'unknown-device', message: 'This device is not known yet: type the passphrase once.' });
  };
}
