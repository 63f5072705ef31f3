import { createHash, randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import type { RunView } from '@kestfog/core/wire';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { archivedTables } from '../src/archive/archive.service.js';
import { JPEG, type Started, startApp } from './harness.js';
import { beginRun, event } from './run-harness.js';

/** An archive of each release, named by its last migration; one is added where tables change. */
const RELEASES = new URL('fixtures/archives/', import.meta.url);

let from: Started;
let run: RunView;
let zip: Uint8Array;
const ask = (s: Started, method: string, path: string, body?: object) =>
  fetch(`${s.url}/api${path}`, {
    method,
    ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
  });
const out = async (s: Started) => new Uint8Array(await (await ask(s, 'GET', '/archive')).arrayBuffer());
const take = async (s: Started, bytes: Uint8Array, clashes?: string) => {
  const answer = await fetch(`${s.url}/api/archive${clashes ? `?clashes=${clashes}` : ''}`, {
    method: 'POST',
    headers: { 'content-type': 'application/zip' },
    body: Buffer.from(bytes),
  });
  return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
};
/** All rows and files, without when it was made. */
const contents = (bytes: Uint8Array) =>
  Object.fromEntries(
    Object.entries(unzipSync(bytes)).flatMap(([path, b]) =>
      path === 'manifest.json' ? [] : [[path, createHash('sha256').update(b).digest('hex')]],
    ),
  );
const ANSWERS = ['/orders', '/designs', '/lessons', '/recordings', '/notebook/runs', '/stock', '/kitchen', '/bench-touches'];
const answers = async (s: Started) =>
  Promise.all(
    [...ANSWERS, `/runs/${run.id}`].map(async (path) => (await (await ask(s, 'GET', path)).text()).replace(/"serverNowMs":\d+/, '')),
  );

beforeAll(async () => {
  from = await startApp();
  run = await beginRun(from.url);
  const device = randomUUID();
  const epochMs = Date.parse(run.plan.epoch as string);
  for (const [i, type] of (['runStarted', 'paused', 'resumed'] as const).entries())
    await ask(from, 'POST', `/runs/${run.id}/events`, event(device, i + 1, type, {}, { atMs: epochMs + i * 1000 }));
  await ask(from, 'POST', '/lessons', { text: 'Thicker “red”, 20 s.', runId: run.id, design: 'Mackerel', step: null, school: null });
  await ask(from, 'POST', '/recordings', {
    id: randomUUID(),
    runId: run.id,
    kind: 'photo',
    atMs: 1,
    design: null,
    step: null,
    school: null,
    base64: JPEG.toString('base64'),
  });
  zip = await out(from);
}, 120_000);
afterAll(() => from.stop());

describe('an archive', () => {
  it('has every table there is, but for what the application remembers of itself and who was let in to this machine', async () => {
    const there = await from.query(`SELECT tablename AS "name" FROM pg_tables WHERE schemaname = 'public'`);
    const left = there.map((t) => t['name'] as string).filter((n) => !archivedTables.includes(n));
    expect(left.sort()).toEqual(['device', 'migrations', 'setting']);
  });
  it('taken into an empty kitchen gives the same answers, and the same archive again', async () => {
    const to = await startApp();
    const taken = await take(to, zip);
    expect([taken.status, taken.body['files'], taken.body['already'], taken.body['replaced']]).toEqual([201, 1, 0, 0]);
    expect(await answers(to)).toEqual(await answers(from));
    expect(contents(await out(to))).toEqual(contents(await out(from)));
    // Once more it changes nothing.
    const again = await take(to, zip);
    expect([again.status, again.body['rows'], again.body['already']]).toEqual([201, 0, taken.body['rows']]);
    await to.stop();
  });
  it('into a full kitchen is refused with what clashes, all or nothing, until it is said which of the two stays', async () => {
    const to = await startApp();
    await take(to, zip);
    await to.query(`UPDATE "order" SET "name" = 'Renamed here' WHERE "id" = $1`, [run.orderId]);
    await to.query('DELETE FROM "lesson"');
    const clash = await take(to, zip);
    expect([clash.status, clash.body['code']]).toEqual([409, 'archive-clash']);
    expect(clash.body['message']).toMatch(/an order \(Renamed here\) is here already/);
    expect((await to.query('SELECT count(*)::int AS n FROM "lesson"'))[0]).toEqual({ n: 0 });
    const name = async () => (await to.query('SELECT "name" FROM "order"'))[0]?.['name'];
    expect([(await take(to, zip, 'keep')).body['kept'], await name()]).toEqual([1, 'Renamed here']);
    expect((await to.query('SELECT count(*)::int AS n FROM "lesson"'))[0]).toEqual({ n: 1 });
    expect([(await take(to, zip, 'replace')).body['replaced'], await name()]).toEqual([1, run.orderName]);
    // What follows from the logs is worked out by whoever is asked.
    await answers(to);
    expect(contents(await out(to))).toEqual(contents(await out(from)));
    await to.stop();
  });
  it('that is damaged, forged, too new, or none is refused in one sentence, and nothing is changed', async () => {
    const to = await startApp();
    const parts = unzipSync(zip);
    const manifest = JSON.parse(strFromU8(parts['manifest.json'] as Uint8Array)) as Record<string, unknown>;
    const packed = (more: Record<string, Uint8Array>, change: object = {}) =>
      zipSync({ ...parts, ...more, 'manifest.json': strToU8(JSON.stringify({ ...manifest, ...change })) });
    const without = { ...parts };
    delete without['tables/order.jsonl'];
    for (const [bytes, words] of [
      [strToU8('no zip at all'), /not a zip file/],
      [zipSync({ 'notes.txt': strToU8('x') }), /no manifest/],
      [packed({ 'tables/lesson.jsonl': strToU8('{"id":"x"}\n') }), /not as it was saved/],
      [packed({ 'more.txt': strToU8('x') }), /not in the archive's manifest/],
      [zipSync(without), /missing in the archive/],
      [packed({}, { format: 'kestfog-archive/2' }), /a newer release made it/],
      [packed({}, { schema: 'Later2999' }), /A newer release made this archive/],
      [zip.slice(0, zip.length - 40), /not a zip file, or it is damaged/],
    ] as const) {
      const { status, body } = await take(to, bytes);
      expect([status, body['code']], String(words)).toEqual([400, 'bad-archive']);
      expect(body['message']).toMatch(words);
    }
    expect(
      (await fetch(`${to.url}/api/archive`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })).status,
    ).toBe(400);
    expect((await to.query('SELECT count(*)::int AS n FROM "order"'))[0]).toEqual({ n: 0 });
    await to.stop();
  });
  it.each(readdirSync(RELEASES))('of an earlier release (%s) is taken in whole, for ever', async (file) => {
    const bytes = new Uint8Array(readFileSync(new URL(file, RELEASES)));
    const { tables } = JSON.parse(strFromU8(unzipSync(bytes)['manifest.json'] as Uint8Array)) as { tables: Record<string, number> };
    const to = await startApp();
    const { status, body } = await take(to, bytes);
    expect([status, body['rows']]).toEqual([201, Object.values(tables).reduce((n, rows) => n + rows, 0)]);
    for (const [table, n] of Object.entries(tables))
      expect([table, await to.query(`SELECT count(*)::int AS n FROM "${table}"`)]).toEqual([table, [{ n }]]);
    const [{ id }] = (await to.query('SELECT "id" FROM "run"')) as [{ id: string }];
    for (const path of [...ANSWERS, '/schools', '/colour-mixes', '/leftovers', '/touches', `/runs/${id}`])
      expect([path, (await ask(to, 'GET', path)).status]).toEqual([path, 200]);
    // And out again from here it is as whole.
    expect((await take(to, await out(to))).body).toMatchObject({ rows: 0, replaced: 0 });
    await to.stop();
  });
});
