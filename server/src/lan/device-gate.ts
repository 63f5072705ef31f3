import { msg } from '@kestfog/core/words';
import { parse, serialize } from 'cookie';
import type { NextFunction, Request, Response } from 'express';
import type { DeviceEntity } from './device.entity.js';
import type { DevicesService } from './devices.service.js';
import { isOverTls, type Lan } from './lan.js';

/** Over TLS by a name that browsers take from this very host alone (RFC 6265bis, 4.1.3.2). */
const cookieOf = (lan: Lan) => `${isOverTls(lan) ? '__Host-' : ''}kestfog_device`;
/** As long as browsers keep one (RFC 6265bis, 400 days at most); what counts is what the server knows of the pass. */
const COOKIE_S = 400 * 86_400;

export function givePass(res: Response, pass: string, lan: Lan): void {
  res.setHeader(
    'Set-Cookie',
    serialize(cookieOf(lan), pass, { httpOnly: true, sameSite: 'strict', secure: isOverTls(lan), path: '/', maxAge: COOKIE_S }),
  );
}

/** Whom a request comes from, where somebody on the network asks. */
export type FromDevice = Request & { device?: DeviceEntity };

/** A calendar program has no passphrase: the secret in its address is looked at where the calendar is read. */
const CALENDAR = /^\/api\/calendar\/[\w-]{32}\/orders\.ics$/;
/** What watches over a server asks whether it is well, and is told no more. */
const HEALTH = /^\/api\/health$/;
/** What stays open for as long as somebody listens. */
const STREAM = /\/stream\/?$/i;
const ASKING_TO_COME_IN = /^\/api\/devices\/?$/i;

/**
 * On the kitchen's network nothing but the page itself, the asking to come in, whether it is well and the calendar by its secret is open
 * to a device that is not known. One that opens the page gets its pass for another while.
 */
export function deviceGate(lan: Lan, devices: DevicesService) {
  return async (req: FromDevice, res: Response, next: NextFunction): Promise<void> => {
    if (!/^\/api(\/|$)/i.test(req.path) || CALENDAR.test(req.path) || HEALTH.test(req.path)) return next();
    const pass = parse(req.headers.cookie ?? '')[cookieOf(lan)];
    const device = await devices.of(pass);
    if (device && pass) {
      req.device = device;
      if (ASKING_TO_COME_IN.test(req.path)) givePass(res, pass, lan);
      if (STREAM.test(req.path)) devices.hears(device, res);
      return next();
    }
    if (ASKING_TO_COME_IN.test(req.path)) return next();
    res.status(401).json({ code: 'unknown-device', message: msg`This device is not known yet: type the passphrase once.` });
  };
}
