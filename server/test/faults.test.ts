import { execFile, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { createInterface } from 'node:readline';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { foldRun, type StoredEvent } from '@kestfog/core/bench';
import { seededRng } from '@kestfog/core/time';
import type { RunView } from '@kestfog/core/wire';
import { afterAll, describe, expect, it } from 'vitest';
import { freshDatabase, startApp } from './harness.js';
import { beginRun, event, freePort, launch, sendUntilTaken } from './run-harness.js';

/** Half of them kill the database, half the server; more by hand: FAULT_ROUNDS=100 FAULT_SEED=7. */
const ROUNDS = Number(process.env['FAULT_ROUNDS'] ?? 10);
const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const sh = promisify(execFile);
/** A database cluster of this test's own, that may be killed. */
const DATA = `${process.env['KESTFOG_DATA'] ?? '/tmp/kestfog'}-faults`;
const pg = async (script: string, port = ''): Promise<string> =>
  (
    await sh('bash', ['-c', `set -euo pipefail; . bin/lib.sh; . bin/pg.sh; ${script}`], {
      cwd: ROOT,
      env: { ...process.env, KESTFOG_DATA: DATA, ...(port ? { PG_PORT: port } : {}) },
    })
  ).stdout.trim();

const viewOf = async (url: string, id: string) => (await (await fetch(`${url}/api/runs/${id}`)).json()) as RunView;

describe('server and database killed at any moment', () => {
  afterAll(async () => {
    await pg('pg_find; pg_stop || true; rm -rf "$KESTFOG_DATA"').catch(() => undefined);
  });
  it('what was acknowledged is there once, in its order; what was not is sent again and there once', {
    timeout: 20_000 + ROUNDS * 15_000,
  }, async () => {
    const url0 = await pg('pg_start >/dev/null; printf %s "$DATABASE_URL"');
    const pgPort = new URL(url0).port;
    const port = await freePort();
    const url = `http://127.0.0.1:${port}`;
    let server = await launch(url0, port);
    const run = await beginRun(url);
    const rng = seededRng(Number(process.env['FAULT_SEED'] ?? 20261125));
    const tablet = randomUUID();
    const acknowledged: string[] = [];
    let again = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const target = round % 2 === 0 ? 'database' : 'server';
      const killed = new Promise<void>((done, fail) =>
        setTimeout(
          () => {
            const kill = async () => {
              if (target === 'database') {
                // The postmaster alone: its children find out by themselves, as after an out-of-memory kill.
                await pg('pg_find; kill -9 "$(pg_pid_line 1)"');
                await pg('pg_again', pgPort);
              } else {
                const gone = once(server, 'exit');
                server.kill('SIGKILL');
                await gone;
                server = await launch(url0, port);
              }
            };
            kill().then(done, fail);
          },
          40 + rng() * 260,
        ),
      );
      let over = false;
      void killed.finally(() => {
        over = true;
      });
      for (let n = 0; !over || n < 3; n++) {
        const e = event(tablet, acknowledged.length + 1, acknowledged.length % 2 ? 'resumed' : 'paused');
        again += (await sendUntilTaken(url, run.id, e)) - 1;
        acknowledged.push(e.id);
      }
      await killed;
    }
    const kept = (await viewOf(url, run.id)).events;
    expect(kept.map((e) => e.id)).toEqual(acknowledged);
    expect(kept.map((e) => e.seq)).toEqual(kept.map((_, i) => i + 1));
    // The kills were felt: some taps had to be sent more than once.
    expect(again).toBeGreaterThan(0);
    const end = once(server, 'exit');
    server.kill('SIGTERM');
    await end;
  });
});

describe('a database that ended, and another program on its port', () => {
  it('waits for its own port, where the server looks for it, and comes back there', { timeout: 120_000 }, async () => {
    const data = `${DATA}-port`;
    const env = { KESTFOG_DATA: data, PG_PORT: '54380' };
    const on = (script: string) =>
      sh('bash', ['-c', `set -euo pipefail; . bin/lib.sh; . bin/pg.sh; ${script}`], { cwd: ROOT, env: { ...process.env, ...env } });
    await on('pg_start');
    const port = Number((await on('pg_pid_line 4')).stdout.trim());
    env.PG_PORT = String(port);
    await on('pg_find; pg_stop');
    const other = createServer().listen(port, '127.0.0.1');
    await once(other, 'listening');
    await expect(on('pg_again')).rejects.toThrow(`port ${port}, where the database was, is taken by another program`);
    other.close();
    await once(other, 'close');
    await on('pg_again');
    expect(Number((await on('pg_pid_line 4')).stdout.trim())).toBe(port);
    await on('pg_find; pg_stop; rm -rf "$KESTFOG_DATA"');
  });
});

describe('many devices on one run', () => {
  it('five that work and twenty that follow see one log, and fold it to one state', { timeout: 60_000 }, async () => {
    const s = await startApp({ databaseUrl: await freshDatabase() });
    const run = await beginRun(s.url);
    const abort = new AbortController();
    const seen: StoredEvent[][] = [];
    const follow = async (last: number) => {
      const own: StoredEvent[] = [];
      seen.push(own);
      const response = await fetch(`${s.url}/api/runs/${run.id}/stream?last=${last}`, { signal: abort.signal });
      const reader = (response.body as ReadableStream<Uint8Array>).pipeThrough(new TextDecoderStream()).getReader();
      let text = '';
      for (;;) {
        const { value, done } = await reader.read();
        if (done) return;
        text += value;
        const parts = text.split('\n\n');
        text = parts.pop() ?? '';
        for (const part of parts) {
          const data = /^data: (\{"event".*)$/m.exec(part)?.[1];
          if (data) own.push((JSON.parse(data) as { event: StoredEvent }).event);
        }
      }
    };
    const followers = Array.from({ length: 15 }, () => follow(0).catch(() => undefined));
    const each = 20;
    // Two of them are ten minutes off, one half a day and more: the server's order counts, and the odd one is marked.
    const skewsMs = [0, 600_000, -600_000, 0, 14 * 3_600_000];
    const start = Date.parse('2026-06-04T12:00:00Z');
    const work = skewsMs.map(async (skewMs) => {
      const device = randomUUID();
      for (let i = 1; i <= each; i++) {
        const task = run.plan.tasks[i % run.plan.tasks.length]?.id as string;
        const e = event(device, i, i % 4 === 0 ? 'paused' : 'taskDone', i % 4 === 0 ? {} : { taskId: task }, {
          atMs: start + i * 1000 + skewMs,
        });
        await sendUntilTaken(s.url, run.id, e);
        // Sent again by a nervous network.
        if (i % 5 === 0) await sendUntilTaken(s.url, run.id, e);
      }
    });
    await new Promise((done) => setTimeout(done, 300));
    // The last five join in the middle.
    for (let i = 0; i < 5; i++) followers.push(follow(0).catch(() => undefined));
    await Promise.all(work);
    const log = (await viewOf(s.url, run.id)).events;
    expect(log).toHaveLength(each * skewsMs.length);
    const until = Date.now() + 15_000;
    while (seen.some((own) => own.length < log.length) && Date.now() < until) await new Promise((done) => setTimeout(done, 50));
    expect(seen).toHaveLength(20);
    for (const own of seen) expect(own).toEqual(log);
    expect(log.filter((e) => e.doubtful)).toHaveLength(each);
    const states = seen.map((own) => JSON.stringify([...foldRun(run.plan, own).tasks]));
    expect(new Set(states).size).toBe(1);
    abort.abort();
    await Promise.all(followers);
    await s.stop();
  });
});

describe('e. the server process killed under the start command', () => {
  const HOME = `${process.env['KESTFOG_DATA'] ?? '/tmp/kestfog'}-restart`;
  it('is there again by itself, with all that was kept, and ends when it is asked to', { timeout: 120_000 }, async () => {
    const port = await freePort();
    const { DATABASE_URL: _, PG_PORT: __, ...env } = process.env;
    const start = spawn('bash', ['bin/start.sh', '--port', String(port), '--empty'], {
      cwd: ROOT,
      env: { ...env, KESTFOG_DATA: HOME },
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    const lines = createInterface({ input: start.stdout });
    const ready = () => new Promise<void>((done) => lines.on('line', (l) => l.includes('is ready') && done()));
    await ready();
    const url = `http://127.0.0.1:${port}/api`;
    const kitchen = (await (await fetch(`${url}/kitchen`)).json()) as { floodCount: number };
    const put = (floodCount: number) =>
      fetch(`${url}/kitchen`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ ...kitchen, floodCount }),
      });
    expect((await put(13)).status).toBe(200);
    // Past its first seconds, in which an end would mean that it cannot even begin.
    await new Promise((done) => setTimeout(done, 4000));
    const pid = (await sh('pgrep', ['-P', String(start.pid), '-f', 'dist/main.js'])).stdout.trim();
    const again = ready();
    process.kill(Number(pid), 'SIGKILL');
    await again;
    expect(((await (await fetch(`${url}/kitchen`)).json()) as { floodCount: number }).floodCount).toBe(13);
    const ended = once(start, 'exit');
    start.kill('SIGTERM');
    await ended;
    await expect(fetch(`${url}/health`)).rejects.toThrow();
    await sh('rm', ['-rf', HOME]);
  });
});
