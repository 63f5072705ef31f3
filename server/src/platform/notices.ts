import { randomUUID } from 'node:crypto';
import { msg } from '@kestfog/core/words';
import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import pg from 'pg';
import { Subject } from 'rxjs';
import type { EntityManager } from 'typeorm';
import { CONFIG, type Config } from './config.js';

/** Something that was kept, for whoever shows it: a run has more events, another weather is played. */
export type Notice = { readonly of: 'run'; readonly id: string } | { readonly of: 'climate' };
/** Notices may have been missed: whatever is shown is asked for again. */
export type Heard = Notice | { readonly of: 'all' };

const CHANNEL = 'kestfog';
const AGAIN_MS = 1_000;

/**
 * Tells what was kept to everybody who listens, in this process and, where several share one database, in the others (LISTEN and NOTIFY
 * of PostgreSQL). A notice carries no data: what it speaks of is read from the database, so that one that is lost or comes twice does no
 * harm; after a connection that was lost `all` is heard.
 */
@Injectable()
export class Notices implements OnApplicationBootstrap, OnModuleDestroy {
  readonly heard = new Subject<Heard>();
  /** this process among those that share the database */
  private readonly self = randomUUID();
  private listener: pg.Client | null = null;
  private isEnding = false;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  async onApplicationBootstrap(): Promise<void> {
    if (this.config.isShared) await this.listen();
  }
  async onModuleDestroy(): Promise<void> {
    this.isEnding = true;
    await this.listener?.end().catch(() => undefined);
  }

  /** Within the transaction that keeps it, so that the others hear of it exactly when it is kept. */
  async tellOthers(m: EntityManager, notice: Notice): Promise<void> {
    if (this.config.isShared) await m.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify({ ...notice, by: this.self })]);
  }
  /** Once it is kept. */
  tellHere(notice: Notice): void {
    this.heard.next(notice);
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: this.config.databaseUrl, keepAlive: true, application_name: 'kestfog notices' });
    client.on('notification', ({ payload }) => {
      const { by, ...notice } = JSON.parse(payload ?? '{}') as Notice & { readonly by: string };
      if (by !== this.self) this.heard.next(notice as Notice);
    });
    // An error ends the connection; it is the end that is acted on.
    client.on('error', (error) => Logger.warn(msg`Listening to the other processes: ${error.message}`, Notices.name));
    client.on('end', () => {
      if (!this.isEnding) setTimeout(() => void this.listen().catch(() => undefined), AGAIN_MS).unref();
    });
    this.listener = client;
    await client.connect();
    await client.query(`LISTEN ${CHANNEL}`);
    this.heard.next({ of: 'all' });
  }
}
