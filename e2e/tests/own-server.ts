import { spawn } from 'node:child_process';
import { rmSync } from 'node:fs';

const ROOT = new URL('../../', import.meta.url).pathname;

export interface OwnServer {
  /** where it keeps what it has */
  readonly data: string;
  /** As a user starts it, with these options; resolves with what it printed once it is ready. */
  start(...options: string[]): Promise<string>;
  stop(): Promise<void>;
  /** With all it kept. */
  remove(): void;
}

/** A Kestfog beside that of the journeys: empty, with data of its own. */
export function ownServer(name: string, env: NodeJS.ProcessEnv = {}): OwnServer {
  const data = `${ROOT}node_modules/.cache/kestfog-e2e-${name}-${process.pid}`;
  let running: ReturnType<typeof spawn> | undefined;
  return {
    data,
    start(...options) {
      const child = spawn('bash', ['bin/start.sh', '--empty', ...options], {
        cwd: ROOT,
        env: {
          ...process.env,
          KESTFOG_DATA: data,
          KESTFOG_CLOCK: 'simulated',
          KESTFOG_CLOCK_START: '2026-06-05T13:00:00Z',
          TZ: 'UTC',
          ...env,
        },
      });
      running = child;
      return new Promise((resolve, reject) => {
        let text = '';
        const on = (d: Buffer) => {
          text += d.toString();
          if (text.includes('is ready')) resolve(text);
        };
        child.stdout.on('data', on);
        child.stderr.on('data', on);
        child.on('exit', () => reject(new Error(text)));
      });
    },
    async stop() {
      const child = running;
      running = undefined;
      if (!child || child.exitCode !== null) return;
      const gone = new Promise((done) => child.once('exit', done));
      child.kill('SIGTERM');
      await gone;
    },
    remove: () => rmSync(data, { recursive: true, force: true }),
  };
}
