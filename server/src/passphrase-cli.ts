import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { dataSourceOptions, migrate } from './data-source.js';
import { DeviceEntity } from './lan/device.entity.js';
import { DevicesService } from './lan/devices.service.js';
import { SettingEntity } from './platform/setting.entity.js';

/** `npm run serve -- --passphrase`: what a device types to be let in, for who may read the database anyway. */
const url = process.env['DATABASE_URL'] as string;
await migrate(url);
const db = await new DataSource(dataSourceOptions(url, { max: 1 })).initialize();
const devices = new DevicesService(db.getRepository(DeviceEntity), db.getRepository(SettingEntity));
process.stdout.write(`${await devices.passphrase()}\n`);
devices.onModuleDestroy();
await db.destroy();
