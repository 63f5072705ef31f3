import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** What a kitchen's network needs to be let in: asked once of each device. */
export interface LanSecrets {
  /** typed once on each device */
  readonly passphrase: string;
  /** signs the passes given to devices, hex */
  readonly signingKey: string;
}

/** Letters and digits that are not mistaken for each other. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 3;
const GROUP = 4;
const PASS_MS = 180 * 86_400_000;

/** Made once and kept in the data folder, readable by its owner only. */
export function secretsIn(folder: string): LanSecrets {
  const file = join(folder, 'secrets.json');
  if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8')) as LanSecrets;
  const letters = [...randomBytes(GROUPS * GROUP * 4)]
    .filter((b) => b < LETTERS.length * Math.floor(256 / LETTERS.length))
    .map((b) => LETTERS[b % LETTERS.length]);
  const passphrase = Array.from({ length: GROUPS }, (_, i) => letters.slice(i * GROUP, (i + 1) * GROUP).join('')).join('-');
  const made = { passphrase, signingKey: randomBytes(32).toString('hex') };
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  writeFileSync(file, JSON.stringify(made), { mode: 0o600 });
  return made;
}

const signed = (issuedMs: string, key: string) => createHmac('sha256', Buffer.from(key, 'hex')).update(`device ${issuedMs}`).digest('hex');
function same(a: string, b: string): boolean {
  // Letters beyond ASCII take more than a byte each.
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
}

export const DEVICE_COOKIE = 'kestfog_device';
export const PASS_S = PASS_MS / 1000;

export const passFor = (secrets: LanSecrets, nowMs: number): string => `${nowMs}.${signed(String(nowMs), secrets.signingKey)}`;

export function isPass(secrets: LanSecrets, pass: string | undefined, nowMs: number): boolean {
  const [issued = '', mac = ''] = (pass ?? '').split('.');
  if (!/^\d{1,15}$/.test(issued) || !same(mac, signed(issued, secrets.signingKey))) return false;
  return Math.abs(nowMs - Number(issued)) < PASS_MS;
}

/** Whether what was typed is the passphrase; spaces, case and hyphens do not matter. */
export function isPassphrase(secrets: LanSecrets, typed: string): boolean {
  const plain = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, '');
  return same(plain(typed), plain(secrets.passphrase));
}
