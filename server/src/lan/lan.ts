import type { Server } from 'node:https';
import { isIP } from 'node:net';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { type Certificates, certificatesIn } from './certificate.js';

/** What being reachable in the kitchen takes; null in the configuration keeps Kestfog to this machine. */
export interface Lan {
  /** as a browser types it just now */
  readonly address: string;
  /** null where it was started without, or something before it has one */
  readonly tls: (Certificates & { renewed(): Promise<Certificates> }) | null;
  /** where a device that trusts nothing yet is told how to; null where there is nothing to trust */
  readonly door: { readonly port: number; readonly address: string } | null;
  /** the name it is found by on the network, `.local`; null where none is wanted */
  readonly localName: string | null;
  /** addresses and names it answers to just now, without port, as in a certificate */
  names(): readonly string[];
}

type Interfaces = ReturnType<typeof networkInterfaces>;

/** Addresses of this machine that others can reach, IPv4 first. */
export const lanAddresses = (all: Interfaces = networkInterfaces()): string[] =>
  Object.values(all)
    .flatMap((list) => list ?? [])
    .filter((a) => !a.internal && !a.address.startsWith('fe80'))
    .sort((a, b) => Number(a.family === 'IPv6') - Number(b.family === 'IPv6'))
    .map((a) => a.address);
/** The first address of this machine that others can reach; null without a network. */
export const firstLanAddress = (all?: Interfaces): string | null => lanAddresses(all).find((a) => isIP(a) === 4) ?? null;

const EVERY_ADDRESS = ['0.0.0.0', '::'];
const OWN_MACHINE = ['127.0.0.1', 'localhost'];
export const asTyped = (host: string): string => (isIP(host) === 6 ? `[${host}]` : host);

export interface LanWishes {
  readonly dataFolder: string;
  /** an address of this machine, or 0.0.0.0 or :: for all it has */
  readonly host: string;
  readonly port: number;
  /** names somebody else's name server knows it by */
  readonly extraNames: readonly string[];
  readonly localName: string | null;
  readonly isPlain: boolean;
}

export async function prepareLan(wishes: LanWishes, addresses: () => string[] = lanAddresses): Promise<Lan> {
  const { host, port, extraNames, localName, isPlain } = wishes;
  const folder = join(wishes.dataFolder, 'lan');
  const isEvery = EVERY_ADDRESS.includes(host);
  const names = () => [...(isEvery ? [...addresses(), ...OWN_MACHINE] : [host]), ...(localName === null ? [] : [localName]), ...extraNames];
  const shown = () => asTyped(isEvery ? (addresses()[0] ?? '127.0.0.1') : host);
  const doorPort = port + 1;
  const renewed = () => certificatesIn(folder, names(), Date.now());
  return {
    get address() {
      return `${isPlain ? 'http' : 'https'}://${shown()}:${port}`;
    },
    tls: isPlain ? null : { ...(await renewed()), renewed },
    door: isPlain
      ? null
      : {
          port: doorPort,
          get address() {
            return `http://${shown()}:${doorPort}`;
          },
        },
    localName,
    names,
  };
}

/** Reached through a proxy that has the certificate, at the one `address` devices know. */
export function servedLan(address: URL): Lan {
  return { address: address.origin, tls: null, door: null, localName: null, names: () => [address.hostname] };
}
/** The same place by a name it is found by. */
export function addressBy(name: string, { address }: Lan): string {
  const url = new URL(address);
  url.hostname = name;
  return url.origin;
}
/** Whether what devices send is hidden from others on the way. */
export const isOverTls = (lan: Lan): boolean => lan.address.startsWith('https:');

const LOOKED_AT_EACH_MS = 3_600_000;
/** The certificate of a server that runs for months does not end under it, and knows the addresses its machine has by then. */
export function keepFresh({ renewed }: NonNullable<Lan['tls']>, server: Server): void {
  const look = async () => server.setSecureContext((await renewed()).leaf);
  setInterval(() => void look().catch(() => undefined), LOOKED_AT_EACH_MS).unref();
}
