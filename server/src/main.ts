import 'reflect-metadata';
import QRCode from 'qrcode';
import { createApp } from './create-app.js';
import { DemoService } from './demo/demo.service.js';
import { readConfig } from './platform/config.js';

const config = await readConfig();
const app = await createApp(config);
await app.init();
await app.get(DemoService).prepare();
await app.listen(config.port, config.host);
const { lan } = config;
if (lan) {
  process.stdout.write(`${await QRCode.toString(lan.address, { type: 'terminal', small: true })}\n`);
  process.stdout.write(`Passphrase, once on each device: ${lan.secrets.passphrase}\n`);
  if (lan.tls) process.stdout.write('Its certificate is its own: each device asks once whether to trust it.\n');
}
process.stdout.write(`Kestfog is ready: ${lan?.address ?? `http://${config.host}:${config.port}`}\n`);
