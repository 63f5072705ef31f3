import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { DesignSummary, OrderView, RunView } from '@kestfog/core/wire';
import request from 'supertest';
import { drawing, orderInput } from './harness.js';

export const event = (deviceId: string, deviceSeq: number, type: string, data: object = {}, more: object = {}) => ({
  id: randomUUID(),
  deviceId,
  deviceSeq,
  atMs: Date.parse('2026-06-05T14:00:00Z') + deviceSeq * 60_000,
  type,
  data,
  ...more,
});

export async function beginRun(url: string): Promise<RunView> {
  const post = (path: string, body: object) => request(url).post(`/api${path}`).send(body);
  const design = (await post('/designs', { name: 'Mackerel', svg: drawing('mackerel.svg') })).body as DesignSummary;
  const order = (await post('/orders', orderInput(design.id))).body as OrderView;
  await post(`/orders/${order.id}/plan`, {}).expect(201);
  return (await post(`/orders/${order.id}/run`, {}).expect(201)).body as RunView;
}

const MAIN = fileURLToPath(new URL('../dist/main.js', import.meta.url));

export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as { port: number };
  probe.close();
  await once(probe, 'close');
  return port;
}

/** The built server as a process of its own, ready to answer. */
export async function launch(databaseUrl: string, port: number, more: NodeJS.ProcessEnv = {}): Promise<ChildProcess> {
  const child = spawn('node', [MAIN], {
    env: { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port), KESTFOG_DEMO: 'none', KESTFOG_CLOCK: 'simulated', ...more },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  // Nobody may have to wait because nobody reads.
  child.stderr?.resume();
  await new Promise<void>((resolve, reject) => {
    child.stdout?.on('data', (d: Buffer) => /is ready|takes orders/.test(d.toString()) && resolve());
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return child;
}

/** Ends a process at once, as a power cut does; resolves when it is gone. */
export async function kill(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = once(child, 'exit');
  child.kill('SIGKILL');
  await gone;
}

/** Sends one event as a device does: the same one again until it is acknowledged. Returns how often it had to. */
export async function sendUntilTaken(url: string, runId: string, e: object, giveUpMs = 60_000): Promise<number> {
  const until = Date.now() + giveUpMs;
  for (let tries = 1; ; tries++) {
    try {
      const r = await fetch(`${url}/api/runs/${runId}/events`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(e),
        signal: AbortSignal.timeout(3000),
      });
      if (r.ok) return tries;
      const why = `${r.status} ${await r.text()}`;
      if (r.status < 500) throw new Error(`refused: ${why}`);
      if (Date.now() > until) throw new Error(`given up: ${why}`);
    } catch (error) {
      if (/^(refused|given up)/.test((error as Error).message) || Date.now() > until) throw error;
    }
    await new Promise((done) => setTimeout(done, 100));
  }
}
