import { randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Letters and digits that are not mistaken for each other. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 3;
const GROUP = 4;

/**
 * The passphrase every device types once, kept in `folder` for its owner alone. Read each time it is needed, so that a new one holds for
 * every process at once.
 */
export function passphraseIn(folder: string): string {
  const file = join(folder, 'secrets.json');
  if (!existsSync(file)) return newPassphraseIn(folder);
  return (JSON.parse(readFileSync(file, 'utf8')) as { passphrase: string }).passphrase;
}

/** Whoever knew the one before cannot let a device in with it any more. */
export function newPassphraseIn(folder: string): string {
  const letters = [...randomBytes(GROUPS * GROUP * 4)]
    .filter((b) => b < LETTERS.length * Math.floor(256 / LETTERS.length))
    .map((b) => LETTERS[b % LETTERS.length]);
  const passphrase = Array.from({ length: GROUPS }, (_, i) => letters.slice(i * GROUP, (i + 1) * GROUP).join('')).join('-');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = join(folder, 'secrets.json');
  writeFileSync(`${file}.new`, JSON.stringify({ passphrase }), { mode: 0o600 });
  renameSync(`${file}.new`, file);
  return passphrase;
}

/** Whether what was typed is the passphrase; spaces, case and hyphens do not matter. */
export function isPassphrase(passphrase: string, typed: string): boolean {
  const plain = (s: string) => Buffer.from(s.toLowerCase().replace(/[^a-z0-9]/g, ''));
  const [a, b] = [plain(typed), plain(passphrase)];
  return a.length === b.length && timingSafeEqual(a, b);
}
