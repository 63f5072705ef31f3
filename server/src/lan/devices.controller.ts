import type { DeviceView, LanView, NewPassphrase } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post, Put, Req, Res } from '@nestjs/common';
import { Throttle } from '@nestjs/throttler';
import { Transform } from 'class-transformer';
import { IsString, Length, MaxLength } from 'class-validator';
import type { Response } from 'express';
import QRCode from 'qrcode';
import { CONFIG, type Config } from '../platform/config.js';
import { Refusal } from '../platform/errors.js';
import { ASKING } from '../platform/rates.js';
import { fingerprintOf } from './certificate.js';
import { type FromDevice, givePass } from './device-gate.js';
import { DevicesService } from './devices.service.js';
import { isPassphrase } from './passphrase.js';

const trimmed = Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value));

class NameDto {
  @trimmed @IsString() @Length(1, 60, { message: msg`name must have 1 to 60 letters` }) name: string;
}
class EnterDto extends NameDto {
  @IsString() @MaxLength(100) passphrase: string;
}

/** Devices on the kitchen's network: let in once by the passphrase, shown the way in for the next, shut out when they are lost. */
@Controller('devices')
export class DevicesController {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly devices: DevicesService,
  ) {}

  @Get()
  async look(@Req() req: FromDevice): Promise<LanView> {
    const { lan } = this.config;
    if (!lan) return { lan: false };
    if (!req.device) return { lan: true, known: false };
    const way = lan.door?.address ?? lan.address;
    return {
      lan: true,
      known: true,
      address: lan.address,
      door: lan.door?.address ?? null,
      fingerprint: lan.tls ? fingerprintOf(lan.tls.authority) : null,
      passphrase: await this.devices.passphrase(),
      qr: await QRCode.toString(way, { type: 'svg', margin: 1 }),
    };
  }

  @Get('known')
  async known(@Req() req: FromDevice): Promise<DeviceView[]> {
    return this.config.lan ? this.devices.list(req.device ?? null) : [];
  }

  @Post()
  @HttpCode(200)
  @Throttle(ASKING)
  async enter(@Body() body: EnterDto, @Res({ passthrough: true }) res: Response): Promise<LanView> {
    const { lan } = this.config;
    if (!lan) return { lan: false };
    if (!isPassphrase(await this.devices.passphrase(), body.passphrase))
      throw new Refusal(403, 'wrong-passphrase', msg`That is not the passphrase: it stands on the screen Kestfog was started on.`);
    givePass(res, await this.devices.letIn(body.name), lan);
    return { lan: true, known: true };
  }

  @Put(':id')
  @HttpCode(204)
  rename(@Param('id', ParseUUIDPipe) id: string, @Body() { name }: NameDto): Promise<void> {
    return this.devices.rename(id, name);
  }

  /** Shuts a device out. Who has it knows the passphrase, so there is a new one, told in the answer. */
  @Delete(':id')
  async shutOut(@Param('id', ParseUUIDPipe) id: string): Promise<NewPassphrase> {
    const { lan } = this.config;
    if (!lan) throw new Refusal(409, 'own-machine', msg`Kestfog is on this machine alone: there is no other device.`);
    return { passphrase: await this.devices.shutOut(id) };
  }
}
