import { randomUUID } from 'node:crypto';
import type { RunView } from '@kestfog/core/wire';
import type { Started } from './harness.js';
import { beginRun, event } from './run-harness.js';

/**
 * A kitchen after a season: `orders` of them, `runs` of those finished, each with its own plan and log. One is worked through the API,
 * the others are its copies.
 */
export async function season(s: Pick<Started, 'url' | 'query'>, orders: number, runs: number): Promise<RunView> {
  const run = await beginRun(s.url);
  const device = randomUUID();
  let seq = 0;
  const tell = async (type: string, data: object = {}) => {
    const answer = await fetch(`${s.url}/api/runs/${run.id}/events`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(event(device, ++seq, type, data)),
    });
    if (!answer.ok) throw new Error(await answer.text());
  };
  await tell('runStarted');
  for (const t of run.plan.tasks) {
    await tell('taskBegun', { taskId: t.id });
    await tell('taskDone', { taskId: t.id });
  }
  const column = (table: string, own: readonly string[]) =>
    s
      .query(
        `SELECT string_agg(format('%I', column_name), ', ' ORDER BY ordinal_position) AS c FROM information_schema.columns WHERE table_name = $1 AND column_name <> ALL($2)`,
        [table, own],
      )
      .then(([r]) => r?.['c'] as string);
  const orderColumns = await column('order', ['id', 'name']);
  const itemColumns = await column('order_design', ['orderId']);
  const planColumns = await column('plan', ['id', 'orderId']);
  const runColumns = await column('run', ['id', 'orderId', 'planId']);
  const eventColumns = await column('run_event', ['id', 'runId']);
  await s.query(
    `CREATE TABLE copy AS SELECT n, gen_random_uuid() AS o, gen_random_uuid() AS p, gen_random_uuid() AS r FROM generate_series(2, $1::int) n`,
    [orders],
  );
  await s.query(
    `INSERT INTO "order" ("id", "name", ${orderColumns}) SELECT o, 'Regatta ' || n, ${orderColumns} FROM "order", copy WHERE "id" = $1`,
    [run.orderId],
  );
  await s.query(
    `INSERT INTO "order_design" ("orderId", ${itemColumns}) SELECT o, ${itemColumns} FROM "order_design", copy WHERE "orderId" = $1`,
    [run.orderId],
  );
  await s.query(`INSERT INTO "plan" ("id", "orderId", ${planColumns}) SELECT p, o, ${planColumns} FROM "plan", copy WHERE "orderId" = $1`, [
    run.orderId,
  ]);
  await s.query(
    `INSERT INTO "run" ("id", "orderId", "planId", ${runColumns}) SELECT r, o, p, ${runColumns} FROM "run", copy WHERE "id" = $1 AND n <= $2`,
    [run.id, runs],
  );
  await s.query(
    `INSERT INTO "run_event" ("id", "runId", ${eventColumns}) SELECT gen_random_uuid(), r, ${eventColumns} FROM "run_event", copy WHERE "runId" = $1 AND n <= $2`,
    [run.id, runs],
  );
  await s.query('DROP TABLE copy');
  await s.query(`UPDATE "order" SET "name" = 'The first' WHERE "id" = $1`, [run.orderId]);
  return run;
}
