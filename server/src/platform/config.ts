import { asLocalName } from '../lan/announce.js';
import { firstLanAddress, type Lan, prepareLan, servedLan } from '../lan/lan.js';

/** Everything the environment decides, read once. */
export interface Config {
  readonly databaseUrl: string;
  readonly host: string;
  readonly port: number;
  readonly simulatedClock: boolean;
  /** first moment of a simulated clock */
  readonly clockStart: Date | null;
  readonly demo: 'once' | 'none' | 'reset';
  /** on the kitchen's network; null keeps to this machine */
  readonly lan: Lan | null;
  /** whether other processes work on the same database */
  readonly isShared: boolean;
  /** behind a proxy, whose word is taken for who asks */
  readonly isBehindProxy: boolean;
  /** takes orders to plan from the queue, and serves nobody */
  readonly onlyPlans: boolean;
}

export async function readConfig(env: NodeJS.ProcessEnv = process.env): Promise<Config> {
  const databaseUrl = env['DATABASE_URL'];
  if (!databaseUrl) throw new Error('DATABASE_URL is not set: start Kestfog with "npm start".');
  const demo = env['KESTFOG_DEMO'] ?? 'once';
  if (demo !== 'once' && demo !== 'none' && demo !== 'reset') throw new Error(`KESTFOG_DEMO must be once, none or reset, not "${demo}".`);
  const start = env['KESTFOG_CLOCK_START'];
  const port = Number(env['PORT'] ?? 3000);
  const lan = env['KESTFOG_LAN'] || null;
  const host = lan === 'auto' ? firstLanAddress() : (lan ?? env['HOST'] ?? '127.0.0.1');
  if (!host) throw new Error('This machine is on no network: connect it, or start without --lan.');
  const extraNames = (env['KESTFOG_LAN_NAMES'] ?? '').split(',').filter((n) => n !== '');
  const wished = env['KESTFOG_LAN_NAME'] ?? 'kestfog';
  const localName = wished === '' ? null : asLocalName(wished);
  if (wished !== '' && localName === null)
    throw new Error(`KESTFOG_LAN_NAME must be letters, digits and hyphens, such as kestfog, not "${wished}".`);
  const isPlain = env['KESTFOG_LAN_PLAIN'] === 'yes';
  const address = env['KESTFOG_ADDRESS'];
  if (address && !/^https?:\/\/[^/]+\/?$/.test(address))
    throw new Error(`KESTFOG_ADDRESS must be as a browser types it, such as https://kitchen.example, not "${address}".`);
  const prepared = lan ? await prepareLan({ dataFolder: env['KESTFOG_DATA'] ?? '.', host, port, extraNames, localName, isPlain }) : null;
  return {
    databaseUrl,
    host,
    port,
    lan: address ? servedLan(new URL(address)) : prepared,
    isShared: env['KESTFOG_SHARED'] === 'yes',
    isBehindProxy: Boolean(address),
    onlyPlans: env['KESTFOG_ONLY_PLANS'] === 'yes',
    simulatedClock: env['KESTFOG_CLOCK'] === 'simulated',
    clockStart: start ? new Date(start) : null,
    demo,
  };
}
export const CONFIG = Symbol('config');
