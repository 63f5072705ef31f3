import './platform/begin-words.js';
import 'reflect-metadata';
import type { Server as SecureServer } from 'node:https';
import QRCode from 'qrcode';
import { createApp } from './create-app.js';
import { alone } from './data-source.js';
import { DemoService } from './demo/demo.service.js';
import { announce } from './lan/announce.js';
import { fingerprintOf } from './lan/certificate.js';
import { DevicesService } from './lan/devices.service.js';
import { door } from './lan/door.js';
import { addressBy, keepFresh } from './lan/lan.js';
import { readConfig } from './platform/config.js';

const ENDS_WITHIN_MS = 4_500;
/** Longer than browsers, proxies and scripts keep a connection they may use again: closed under them, their next request is lost. */
const KEPT_OPEN_MS = 75_000;

/** What cannot be started says so in one sentence. */
function stop(message: string): never {
  process.stderr.write(`kestfog: ${message}\n`);
  process.exit(1);
}

const config = await readConfig().catch((error: Error) => stop(error.message));
const app = await createApp(config);
await app.init();
await alone(config.databaseUrl, () => app.get(DemoService).prepare());
// What still hangs then would hang for ever; everything that was said yes to is in the database.
process.on('SIGTERM', () => setTimeout(() => process.exit(143), ENDS_WITHIN_MS).unref());
if (config.onlyPlans) {
  process.stdout.write('Kestfog takes orders to plan.\n');
  await new Promise(() => undefined);
}
app.getHttpServer().keepAliveTimeout = KEPT_OPEN_MS;
await app.listen(config.port, config.host).catch((error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRNOTAVAIL')
    stop(`${config.host} is not an address of this machine: leave the address out, or give one of its own.`);
  if (error.code === 'EADDRINUSE') stop(`port ${config.port} is taken: choose another with --port.`);
  throw error;
});
const { lan } = config;
const tell = (line: string) => process.stdout.write(`${line}\n`);
if (lan && !config.isShared) {
  const heard = await announce(lan);
  if (lan.door) {
    await new Promise<void>((opened, failed) =>
      door(lan, heard !== null)
        .once('error', failed)
        .listen(lan.door?.port, config.host, opened),
    ).catch(() => stop(`port ${lan.door?.port}, where devices are told how to trust the kitchen, is taken: choose another --port.`));
    if (lan.tls) keepFresh(lan.tls, app.getHttpServer() as SecureServer);
  }
  tell(await QRCode.toString(lan.door?.address ?? lan.address, { type: 'terminal', small: true }));
  if (lan.door && lan.tls) {
    tell(`First on a device, to trust the kitchen: ${lan.door.address}`);
    tell(`Fingerprint of its certificate (SHA-256): ${fingerprintOf(lan.tls.authority)}`);
  }
  const devices = app.get(DevicesService);
  tell(`Passphrase, once on each device: ${await devices.passphrase()}`);
  // The one above opens nothing any more.
  devices.renewed.subscribe((passphrase) => tell(`A device was shut out. Passphrase from now on: ${passphrase}`));
  if (heard) tell(`By name: ${addressBy(heard.name, lan)}`);
}
tell(`Kestfog is ready: ${lan?.address ?? `http://${config.host}:${config.port}`}`);
