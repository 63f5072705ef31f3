import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const data = mkdtempSync(join(tmpdir(), 'kestfog-backups-'));
const env = { ...process.env, KESTFOG_DATA: data, PG_PORT: '54700' };
const bash = async (script: string): Promise<{ out: string; said: string; status: number }> => {
  try {
    const { stdout, stderr } = await promisify(execFile)(
      'bash',
      ['-c', `set -euo pipefail; . bin/lib.sh; . bin/pg.sh; . bin/backups.sh; ${script}`],
      {
        cwd: ROOT,
        env,
      },
    );
    return { out: stdout.trim(), said: stderr.trim(), status: 0 };
  } catch (error) {
    const e = error as { stdout: string; stderr: string; code: number };
    return { out: e.stdout.trim(), said: e.stderr.trim(), status: e.code };
  }
};
/** With the database up; it stays up from one to the next. */
const up = (script: string) => bash(`pg_start; ${script}`);
const sql = async (text: string) => (await up(`pg_on psql -X -A -t -q -c "${text}"`)).out;
const names = () => readdirSync(join(data, 'backups')).sort();

beforeAll(async () => {
  // As root the cluster's account has to reach it.
  expect((await bash(`chmod 755 ${data}; pg_start; backup_worth && exit 7 || true`)).status).toBe(0);
  await sql("CREATE TABLE cookie (name text, photo bytea); INSERT INTO cookie VALUES ('gull', decode('00ff00', 'hex'))");
}, 120_000);
afterAll(async () => {
  await bash('pg_find; pg_stop');
  rmSync(data, { recursive: true, force: true });
}, 60_000);

describe('backups', () => {
  it('are made before tables are changed for a release, once, and of a database with something in it', async () => {
    const first = await up('backup_before_migration');
    expect(first.said).toMatch(/saved as \d{8}T\d{6}Z-before-migration\.dump/);
    expect((await up('backup_before_migration')).said).toBe('');
    expect(names()).toHaveLength(1);
    // Nobody else on the machine reads what a kitchen has.
    expect(statSync(join(data, 'backups', names()[0] as string)).mode & 0o077).toBe(0);
    writeFileSync(join(data, 'schema'), 'of an earlier release');
    expect((await up('sleep 1; backup_before_migration')).said).toMatch(/before-migration/);
  }, 60_000);
  it('before the demo takes their place everything is saved, and one command brings it back whole', async () => {
    const { said } = await up('sleep 1; backup_before_reset');
    const name = /saved as (\S+);/.exec(said)?.[1] as string;
    expect(said).toContain(`npm run backup -- restore ${name}`);
    await sql("TRUNCATE cookie; INSERT INTO cookie VALUES ('demo', NULL); CREATE TABLE of_a_later_release (x int)");
    const back = await up(`sleep 1; backup_restore ${name}`);
    expect([back.status, back.said]).toEqual([0, expect.stringContaining(`${name} is put back; what was there is saved as`)]);
    expect(await sql("SELECT name, encode(photo, 'hex') FROM cookie")).toBe('gull|00ff00');
    expect(await sql("SELECT to_regclass('of_a_later_release') IS NULL")).toBe('t');
    // What the restore replaced was saved as well, and comes back the same way.
    const before = names().findLast((n) => n.endsWith('before-restore.dump')) as string;
    await up(`sleep 1; backup_restore ${before}`);
    expect(await sql('SELECT name FROM cookie')).toBe('demo');
  }, 60_000);
  it('one that is damaged, or not there, changes nothing', async () => {
    writeFileSync(join(data, 'backups', '20260101T000000Z-daily.dump'), 'half a file');
    for (const [name, words] of [
      ['20260101T000000Z-daily.dump', 'is damaged'],
      ['20250101T000000Z-daily.dump', 'there is no backup'],
      ['../db-password', 'is no backup'],
    ]) {
      const { status, said } = await up(`backup_restore ${name}`);
      expect([status, said]).toEqual([1, expect.stringContaining(words as string)]);
    }
    expect(await sql('SELECT name FROM cookie')).toBe('demo');
    rmSync(join(data, 'backups', '20260101T000000Z-daily.dump'));
  }, 60_000);
  it('are the last ten; a daily one is not made twice in a day, also across restarts', async () => {
    // The loop ends when its first sleep is cut off.
    const daily = 'sleep() { exit 0; }; backup_daily';
    await up(daily);
    const made = () => names().filter((n) => n.endsWith('-daily.dump'));
    const [today] = made();
    expect(made()).toHaveLength(1);
    await up(daily);
    expect(made()).toEqual([today]);
    const old = new Date(Date.now() - 25 * 3_600_000);
    for (const n of names()) utimesSync(join(data, 'backups', n), old, old);
    await up(`command sleep 1; ${daily}`);
    expect(made()).toHaveLength(2);
    for (let k = 0; k < 10; k++) writeFileSync(join(data, 'backups', `2026010${k}T000000Z-by-hand.dump`), 'an old one');
    await up('command sleep 1; backup_make by-hand >/dev/null');
    // The oldest went; what was made today is there.
    expect([names().length, names()[0]?.slice(0, 8), names().filter((n) => n.endsWith('-daily.dump')).length]).toEqual([10, '20260108', 2]);
  }, 90_000);
});
