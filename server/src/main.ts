import 'reflect-metadata';
import { createApp } from './create-app.js';
import { DemoService } from './demo/demo.service.js';
import { readConfig } from './platform/config.js';

const config = readConfig();
const app = await createApp(config);
await app.init();
await app.get(DemoService).prepare();
await app.listen(config.port, config.host);
process.stdout.write(`Kestfog is ready: http://${config.host}:${config.port}\n`);
