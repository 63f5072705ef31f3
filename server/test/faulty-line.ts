import { connect, createServer, type Socket } from 'node:net';
import { setTimeout as after } from 'node:timers/promises';

/** A line to a database that can be made slow, still or cut, as networks are. */
export interface FaultyLine {
  /** the database's address by this line */
  readonly url: string;
  /** what is sent takes so much longer, each way */
  slow(ms: number): void;
  /** nothing goes through, and nobody is told */
  still(isStill: boolean): void;
  /** all who are on it are thrown off */
  cut(): void;
  close(): Promise<void>;
}

export async function faultyLine(databaseUrl: string): Promise<FaultyLine> {
  const target = new URL(databaseUrl);
  const open = new Set<Socket>();
  let slowMs = 0;
  let isStill = false;
  const pass = async (from: Socket, to: Socket): Promise<void> => {
    for await (const piece of from) {
      if (slowMs > 0) await after(slowMs);
      while (isStill && !to.destroyed) await after(20);
      if (to.destroyed) return;
      to.write(piece as Buffer);
    }
  };
  const server = createServer((near) => {
    const far = connect(Number(target.port), target.hostname);
    for (const [one, other] of [
      [near, far],
      [far, near],
    ] as const) {
      open.add(one);
      one.setNoDelay(true);
      one.on('error', () => undefined);
      one.on('close', () => {
        open.delete(one);
        other.destroy();
      });
      void pass(one, other).catch(() => undefined);
    }
  });
  await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
  const url = new URL(databaseUrl);
  url.host = `127.0.0.1:${(server.address() as { port: number }).port}`;
  const cut = () => {
    for (const socket of open) socket.destroy();
  };
  return {
    url: url.href,
    slow: (ms) => {
      slowMs = ms;
    },
    still: (still) => {
      isStill = still;
    },
    cut,
    close: () => {
      cut();
      return new Promise((closed) => server.close(() => closed()));
    },
  };
}
