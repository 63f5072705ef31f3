import { randomUUID } from 'node:crypto';
import { createInterface } from 'node:readline';
import { Readable } from 'node:stream';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { freshDatabase } from './harness.js';
import { beginRun, event, freePort, launch } from './run-harness.js';
import { season } from './season.js';

/** Figures for docs/benchmarks.md, by hand: LOAD=1 bash bin/dev.sh npx vitest run --project server load. */
const LOAD = process.env['LOAD'] === '1';
const PHOTO_BYTES = 300_000;
const at = (ms: readonly number[], q: number) => Math.round([...ms].sort((a, b) => a - b)[Math.floor(q * (ms.length - 1))] as number);

describe.runIf(LOAD)('under load, the server in a process of its own', () => {
  it('a season of 500 orders and 200 finished runs, 200 readers, 50 followers and 5 taps a second', { timeout: 600_000 }, async () => {
    const databaseUrl = await freshDatabase();
    const port = await freePort();
    const server = await launch(databaseUrl, port);
    const url = `http://127.0.0.1:${port}`;
    const pool = new pg.Pool({ connectionString: databaseUrl, max: 2 });
    await season({ url, query: async (sql, values) => (await pool.query(sql, values)).rows as Record<string, unknown>[] }, 500, 200);
    const timed = async (path: string) => {
      const began = performance.now();
      const answer = await fetch(url + path);
      const { length } = await answer.text();
      expect(answer.status).toBe(200);
      return { ms: performance.now() - began, bytes: length };
    };
    const rows: string[] = [];
    for (const path of ['/api/orders', '/api/orders?state=packed', '/api/designs']) {
      await timed(path);
      const asked: { ms: number; bytes: number }[] = [];
      for (let k = 0; k < 30; k++) asked.push(await timed(path));
      rows.push(
        `GET ${path}: median ${at(
          asked.map((a) => a.ms),
          0.5,
        )} ms, ${((asked[0]?.bytes ?? 0) / 1000).toFixed(1)} kB`,
      );
    }
    const parallel = await Promise.all(Array.from({ length: 200 }, () => timed('/api/orders')));
    rows.push(
      `200 readers of /api/orders at once: p50 ${at(
        parallel.map((p) => p.ms),
        0.5,
      )} ms, p95 ${at(
        parallel.map((p) => p.ms),
        0.95,
      )} ms, all answered`,
    );
    const run = await beginRun(url);
    const heard: number[] = [];
    const sentAt = new Map<string, number>();
    const stop = new AbortController();
    for (let k = 0; k < 50; k++) {
      const stream = await fetch(`${url}/api/runs/${run.id}/stream`, { signal: stop.signal });
      const lines = createInterface({ input: Readable.fromWeb(stream.body as never) });
      lines.on('line', (l) => {
        const id = /^data: \{"event":\{"id":"([^"]+)"/.exec(l)?.[1];
        const sent = id === undefined ? undefined : sentAt.get(id);
        if (sent !== undefined) heard.push(performance.now() - sent);
      });
      lines.on('error', () => undefined);
    }
    const device = randomUUID();
    const taps: number[] = [];
    for (let n = 1; n <= 150; n++) {
      const began = performance.now();
      const e = event(device, n, n % 2 ? 'paused' : 'resumed');
      sentAt.set(e.id, began);
      const answer = await fetch(`${url}/api/runs/${run.id}/events`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(e),
      });
      expect(answer.status).toBe(201);
      taps.push(performance.now() - began);
      await new Promise((done) => setTimeout(done, Math.max(0, 200 - (performance.now() - began))));
    }
    await new Promise((done) => setTimeout(done, 500));
    rows.push(`taps, five a second: p50 ${at(taps, 0.5)} ms, p99 ${at(taps, 0.99)} ms`);
    rows.push(`heard by 50 followers (${heard.length} of ${150 * 50}): p50 ${at(heard, 0.5)} ms, p99 ${at(heard, 0.99)} ms`);
    const { stdout } = await import('node:child_process').then((c) => ({
      stdout: c.execFileSync('ps', ['-o', 'rss=', '-p', String(server.pid)]).toString(),
    }));
    rows.push(`memory of the server afterwards: ${Math.round(Number(stdout) / 1024)} MB`);
    process.stdout.write(`${rows.join('\n')}\n`);
    expect(heard.length).toBe(150 * 50);
    stop.abort();
    await pool.end();
    server.kill('SIGTERM');
  });

  it('an archive of that season with a photo of each run, out of one kitchen and into an empty one', { timeout: 600_000 }, async () => {
    const kitchens = [];
    for (let k = 0; k < 2; k++) {
      const databaseUrl = await freshDatabase();
      const port = await freePort();
      const server = await launch(databaseUrl, port);
      kitchens.push({ url: `http://127.0.0.1:${port}`, server, pool: new pg.Pool({ connectionString: databaseUrl, max: 2 }) });
    }
    const [from, to] = kitchens as [(typeof kitchens)[number], (typeof kitchens)[number]];
    await season(
      { url: from.url, query: async (sql, values) => (await from.pool.query(sql, values)).rows as Record<string, unknown>[] },
      500,
      200,
    );
    // As large as the page lets a photo become, and of no pattern that could be packed.
    await from.pool.query(
      `INSERT INTO "recording" ("id", "runId", "at", "kind", "type", "sizeBytes", "file")
        SELECT gen_random_uuid(), r."id", now(), 'photo', 'image/jpeg', $1::int, decode(string_agg(md5(random()::text || n), ''), 'hex')
        FROM "run" r, generate_series(1, $1::int / 16) n GROUP BY r."id"`,
      [PHOTO_BYTES],
    );
    let began = performance.now();
    const zip = Buffer.from(await (await fetch(`${from.url}/api/archive`)).arrayBuffer());
    const outS = (performance.now() - began) / 1000;
    began = performance.now();
    const taken = await fetch(`${to.url}/api/archive`, { method: 'POST', headers: { 'content-type': 'application/zip' }, body: zip });
    const inS = (performance.now() - began) / 1000;
    expect([taken.status, ((await taken.json()) as { files: number }).files]).toEqual([201, 200]);
    process.stdout.write(
      `a season's archive, ${Math.round(zip.length / 1e6)} MB: out in ${outS.toFixed(1)} s, in in ${inS.toFixed(1)} s\n`,
    );
    for (const { pool, server } of kitchens) {
      await pool.end();
      server.kill('SIGTERM');
    }
  });
});
