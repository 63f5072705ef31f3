import { randomBytes, timingSafeEqual } from 'node:crypto';

/** Letters and digits that are not mistaken for each other. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 3;
const GROUP = 4;

/** What every device types once: some 59 bits, in groups that can be read out across a kitchen. */
export function madePassphrase(): string {
  const letters = [...randomBytes(GROUPS * GROUP * 4)]
    .filter((b) => b < LETTERS.length * Math.floor(256 / LETTERS.length))
    .map((b) => LETTERS[b % LETTERS.length]);
  return Array.from({ length: GROUPS }, (_, i) => letters.slice(i * GROUP, (i + 1) * GROUP).join('')).join('-');
}

/** Whether what was typed is the passphrase; spaces, case and hyphens do not matter. */
export function isPassphrase(passphrase: string, typed: string): boolean {
  const plain = (s: string) => Buffer.from(s.toLowerCase().replace(/[^a-z0-9]/g, ''));
  const [a, b] = [plain(typed), plain(passphrase)];
  return a.length === b.length && timingSafeEqual(a, b);
}
