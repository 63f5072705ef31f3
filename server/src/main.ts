import 'reflect-metadata';
import QRCode from 'qrcode';
import { createApp } from './create-app.js';
import { DemoService } from './demo/demo.service.js';
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
await app.get(DemoService).prepare();
app.getHttpServer().keepAliveTimeout = KEPT_OPEN_MS;
await app.listen(config.port, config.host).catch((error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRNOTAVAIL')
    stop(`${config.host} is not an address of this machine: leave the address out, or give one of its own.`);
  if (error.code === 'EADDRINUSE') stop(`port ${config.port} is taken: choose another with --port.`);
  throw error;
});
// What still hangs then would hang for ever; everything that was said yes to is in the database.
process.on('SIGTERM', () => setTimeout(() => process.exit(143), ENDS_WITHIN_MS).unref());
const { lan } = config;
if (lan) {
  process.stdout.write(`${await QRCode.toString(lan.address, { type: 'terminal', small: true })}\n`);
  process.stdout.write(`Passphrase, once on each device: ${lan.secrets.passphrase}\n`);
  if (lan.tls) process.stdout.write('Its certificate is its own: each device asks once whether to trust it.\n');
}
process.stdout.write(`Kestfog is ready: ${lan?.address ?? `http://${config.host}:${config.port}`}\n`);
