import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { DeviceView } from '@kestfog/core/wire';
import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Response } from 'express';
import { Subject } from 'rxjs';
import { In, MoreThan, Repository } from 'typeorm';
import { notFound } from '../platform/errors.js';
import { SettingEntity } from '../platform/setting.entity.js';
import { DeviceEntity } from './device.entity.js';
import { madePassphrase } from './passphrase.js';

/** A pass ends when its device was not heard of for so long; every use puts that off, so that none ends in the middle of a run. */
const PASS_MS = 180 * 86_400_000;
/** Where the passphrase is kept: in the database, so that it is one for every process. */
export const PASSPHRASE = 'passphrase';
/** Nobody has to know it to the second. */
const SEEN_EACH_MS = 60_000;
/** A stream stays open for as long as a page does: whether its device may still hear it is asked so often. */
const STREAMS_ASKED_EACH_MS = 5_000;

/** Devices on the kitchen's network: let in one by one, each with a pass of its own that can be taken from it. */
@Injectable()
export class DevicesService implements OnModuleDestroy {
  /** each new passphrase, for who shows it */
  readonly renewed = new Subject<string>();
  private readonly streams = new Map<string, Set<Response>>();
  private readonly asking = setInterval(() => void this.endStreams().catch(() => undefined), STREAMS_ASKED_EACH_MS).unref();

  constructor(
    @InjectRepository(DeviceEntity) private readonly devices: Repository<DeviceEntity>,
    @InjectRepository(SettingEntity) private readonly settings: Repository<SettingEntity>,
  ) {}

  /** What a device types to be let in; made when it is first asked for. */
  async passphrase(): Promise<string> {
    await this.settings.createQueryBuilder().insert().values({ key: PASSPHRASE, value: madePassphrase() }).orIgnore().execute();
    return (await this.settings.findOneByOrFail({ key: PASSPHRASE })).value;
  }

  /** Its pass, which is told this once. */
  async letIn(name: string): Promise<string> {
    const pass = randomBytes(32).toString('base64url');
    const now = new Date();
    await this.devices.insert({ id: randomUUID(), name, passSha256: hashOf(pass), letInAt: now, seenAt: now });
    return pass;
  }

  /** The device a pass was given to; null where it was taken from it, ended, or never was. */
  async of(pass: string | undefined): Promise<DeviceEntity | null> {
    if (!pass) return null;
    const nowMs = Date.now();
    const device = await this.devices.findOneBy({ passSha256: hashOf(pass), seenAt: MoreThan(new Date(nowMs - PASS_MS)) });
    if (device && nowMs - device.seenAt.getTime() > SEEN_EACH_MS) await this.devices.update({ id: device.id }, { seenAt: new Date(nowMs) });
    return device;
  }

  /** Those that can still come in, the last seen first. */
  async list(own: DeviceEntity | null): Promise<DeviceView[]> {
    const all = await this.devices.find({
      where: { seenAt: MoreThan(new Date(Date.now() - PASS_MS)) },
      order: { seenAt: 'DESC', id: 'ASC' },
    });
    return all.map((d) => ({
      id: d.id,
      name: d.name,
      letInAt: d.letInAt.toISOString(),
      seenAt: d.seenAt.toISOString(),
      isThis: d.id === own?.id,
    }));
  }

  async rename(id: string, name: string): Promise<void> {
    if ((await this.devices.update({ id }, { name })).affected === 0) throw notFound('device');
  }

  /**
   * Its pass opens nothing from now on, and what it was listening to ends. Who has it knows the passphrase, so there is another from then
   * on, which is returned.
   */
  async shutOut(id: string): Promise<string> {
    const passphrase = madePassphrase();
    await this.devices.manager.transaction(async (m) => {
      await m.delete(DeviceEntity, { id });
      await m.upsert(SettingEntity, { key: PASSPHRASE, value: passphrase }, ['key']);
    });
    this.renewed.next(passphrase);
    await this.endStreams();
    return passphrase;
  }

  /** A stream is heard by this device until it ends or the device is shut out, by this process or another. */
  hears(device: DeviceEntity, res: Response): void {
    const open = this.streams.get(device.id) ?? new Set();
    this.streams.set(device.id, open.add(res));
    res.once('close', () => {
      open.delete(res);
      if (open.size === 0 && this.streams.get(device.id) === open) this.streams.delete(device.id);
    });
  }

  onModuleDestroy(): void {
    clearInterval(this.asking);
  }

  private async endStreams(): Promise<void> {
    const ids = [...this.streams.keys()];
    if (ids.length === 0) return;
    const there = new Set((await this.devices.find({ select: { id: true }, where: { id: In(ids) } })).map((d) => d.id));
    for (const id of ids) if (!there.has(id)) for (const res of this.streams.get(id) ?? []) res.destroy();
  }
}

const hashOf = (pass: string): string => createHash('sha256').update(pass).digest('hex');
