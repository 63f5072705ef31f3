import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { type Certificate, certificateIn } from './certificate.js';
import { type LanSecrets, secretsIn } from './device-pass.js';

/** What being reachable in the kitchen takes; null in the configuration keeps Kestfog to this machine. */
export interface Lan {
  /** as a browser types it */
  readonly address: string;
  readonly secrets: LanSecrets;
  /** null where it was started without one */
  readonly tls: Certificate | null;
  /** names it answers to, without port */
  readonly names: readonly string[];
}

/** The first address of this machine that others can reach; null without a network. */
export const firstLanAddress = (all = networkInterfaces()): string | null =>
  Object.values(all)
    .flatMap((list) => list ?? [])
    .find((a) => a.family === 'IPv4' && !a.internal)?.address ?? null;

export async function prepareLan(
  dataFolder: string,
  host: string,
  port: number,
  extraNames: readonly string[],
  plain: boolean,
): Promise<Lan> {
  const folder = join(dataFolder, 'lan');
  const names = [host, ...extraNames];
  const shown = host.includes(':') ? `[${host}]` : host;
  return {
    address: `${plain ? 'http' : 'https'}://${shown}:${port}`,
    secrets: secretsIn(folder),
    tls: plain ? null : await certificateIn(folder, names, Date.now()),
    names: [shown, ...extraNames],
  };
}
