import type { LanView } from '@kestfog/core/wire';
import { Body, Controller, Get, HttpCode, Inject, Post, Req, Res } from '@nestjs/common';
import { IsString, MaxLength } from 'class-validator';
import { serialize } from 'cookie';
import type { Request, Response } from 'express';
import QRCode from 'qrcode';
import { CONFIG, type Config } from '../platform/config.js';
import { Refusal } from '../platform/errors.js';
import { isKnownDevice } from './device-gate.js';
import { DEVICE_COOKIE, isPassphrase, PASS_S, passFor } from './device-pass.js';

class PassphraseDto {
  @IsString() @MaxLength(100) passphrase: string;
}

/** Wrong passphrases from one address before it has to wait, and how long. */
const TRIES = 5;
const WAIT_MS = 60_000;

/** Devices on the kitchen's network: let in once by the passphrase, shown the way in for the next. */
@Controller('devices')
export class DevicesController {
  private readonly wrong = new Map<string, { count: number; untilMs: number }>();

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  @Get()
  async look(@Req() req: Request): Promise<LanView> {
    const { lan } = this.config;
    if (!lan) return { lan: false };
    if (!isKnownDevice(this.config, req)) return { lan: true, known: false };
    return { lan: true, known: true, address: lan.address, qr: await QRCode.toString(lan.address, { type: 'svg', margin: 1 }) };
  }

  @Post()
  @HttpCode(200)
  enter(@Body() body: PassphraseDto, @Req() req: Request, @Res({ passthrough: true }) res: Response): LanView {
    const { lan } = this.config;
    if (!lan) return { lan: false };
    const from = req.socket.remoteAddress ?? '';
    const nowMs = Date.now();
    const before = this.wrong.get(from);
    if (before && before.count >= TRIES && nowMs < before.untilMs)
      throw new Refusal(
        429,
        'too-many-tries',
        `That was wrong ${TRIES} times: wait a minute, and read it off the screen Kestfog was started on.`,
      );
    if (!isPassphrase(lan.secrets, body.passphrase)) {
      if (this.wrong.size > 1000) this.wrong.clear();
      this.wrong.set(from, { count: before && nowMs < before.untilMs ? before.count + 1 : 1, untilMs: nowMs + WAIT_MS });
      throw new Refusal(403, 'wrong-passphrase', 'That is not the passphrase: it stands on the screen Kestfog was started on.');
    }
    this.wrong.delete(from);
    const cookie = serialize(DEVICE_COOKIE, passFor(lan.secrets, nowMs), {
      httpOnly: true,
      sameSite: 'strict',
      secure: lan.tls !== null,
      path: '/',
      maxAge: PASS_S,
    });
    res.setHeader('Set-Cookie', cookie);
    return { lan: true, known: true };
  }
}
