import { availableParallelism, loadavg } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Design, DesignDocument } from '@kestfog/core/design';
import type { DrawingRef } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { LRUCache } from 'lru-cache';
import PQueue from 'p-queue';
import { Piscina } from 'piscina';
import { Repository } from 'typeorm';
import { coreBuild } from '../platform/build.js';
import { notFound, Refusal } from '../platform/errors.js';
import { DesignVersionEntity } from './design.entity.js';
import type { Derived, DrawingAnswer } from './drawing-worker.js';

/** The worker is always the built one: a thread cannot load TypeScript. */
const WORKER = fileURLToPath(new URL('../../dist/designs/drawing-worker.js', import.meta.url));
/** What one drawing may take, in time and in memory, and how many may wait: *assumed*, ten times what one of 300 parts takes. */
export const DRAWING_BUDGET = { seconds: 2, megabytes: 100, waiting: 40 } as const;
/** Starting a thread is none of the drawing's time, and takes long on a busy machine: *assumed*. */
const STARTS_WITHIN_MS = 30_000;
/** A machine that has more to do than it can gives a thread a share of its time; so much longer is waited, at most. */
const LONGEST_STRETCH = 5;
const stretch = (): number => Math.min(LONGEST_STRETCH, Math.max(1, (loadavg()[0] ?? 0) / availableParallelism()));
const DRAWINGS_AT_HAND = 60;

/** Drawings are read, folded and derived here: in a thread of its own, within a budget, before anything is stored. */
@Injectable()
export class DrawingsService implements OnModuleDestroy {
  private readonly pool = new Piscina<DesignDocument | undefined, DrawingAnswer>({
    filename: WORKER,
    execArgv: [],
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: DRAWING_BUDGET.megabytes, maxYoungGenerationSizeMb: 16 },
  });
  /** one at a time, so that the budget is the drawing's own and not the line's */
  private readonly line = new PQueue({ concurrency: 1 });
  private readonly known = new LRUCache<string, Design>({ max: DRAWINGS_AT_HAND });

  constructor(@InjectRepository(DesignVersionEntity) private readonly versions: Repository<DesignVersionEntity>) {}

  async onModuleDestroy(): Promise<void> {
    await this.pool.destroy();
  }

  /** What a document stands for. Throws the reason why it cannot be, in one sentence. */
  async derive(document: DesignDocument): Promise<Derived> {
    if (this.line.size >= DRAWING_BUDGET.waiting)
      throw new Refusal(429, 'busy', msg`Many drawings are being read already: try again in a moment.`);
    const answer = (await this.line.add(() => this.read(document))) as DrawingAnswer;
    if (!answer.ok) throw new Refusal(400, answer.code, answer.message);
    const { ok: _, ...derived } = answer;
    return derived;
  }

  private async read(document: DesignDocument): Promise<DrawingAnswer> {
    await this.pool.run(undefined, { name: 'isReady', signal: AbortSignal.timeout(STARTS_WITHIN_MS) }).catch(() => {
      throw new Refusal(503, 'busy', msg`This machine has too much to do to read a drawing: try again in a moment.`);
    });
    const budget = AbortSignal.timeout(Math.round(DRAWING_BUDGET.seconds * 1000 * stretch()));
    try {
      return await this.pool.run(document, { signal: budget });
    } catch (error) {
      if (budget.aborted)
        return {
          ok: false,
          code: 'too-heavy',
          message: msg`The drawing takes longer than ${DRAWING_BUDGET.seconds} s to read: simplify its paths, or leave out what lies
            behind others.`,
        };
      if ((error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY')
        return {
          ok: false,
          code: 'too-heavy',
          message: msg`The drawing takes more than ${DRAWING_BUDGET.megabytes} MB to read: simplify its paths, or draw it at the size of a
            cookie.`,
        };
      throw error;
    }
  }

  /** The columns that keep what was derived. */
  columnsOf({ name, drawing, summary }: Derived, document: DesignDocument) {
    return { document, edits: document.edits.length, name, derivedBy: coreBuild, drawing, summary };
  }

  /** A version as it is drawn; derived anew where another core had derived it. */
  async drawing({ designId, version, edits }: DrawingRef): Promise<Design> {
    const key = `${designId} ${version} ${edits}`;
    const known = this.known.get(key);
    if (known) return known;
    const row = await this.versions.findOne({
      where: { designId, version },
      select: { designId: true, version: true, edits: true, derivedBy: true, drawing: true },
    });
    if (!row) throw notFound(msg`version of this design`);
    const drawing = row.derivedBy === coreBuild && row.drawing ? row.drawing : (await this.deriveAgain(designId, version)).drawing;
    // Kept under what it is, which may be more than was asked for.
    this.known.set(`${designId} ${version} ${row.edits}`, drawing);
    return drawing;
  }

  /** Derives a stored version anew and keeps that. */
  async deriveAgain(designId: string, version: number): Promise<Derived> {
    const row = await this.versions.findOneBy({ designId, version });
    if (!row) throw notFound(msg`version of this design`);
    const derived = await this.derive(row.document);
    const { document: _, ...columns } = this.columnsOf(derived, row.document);
    // Unless it was edited meanwhile: then that has derived it.
    await this.versions.update({ designId, version, edits: row.edits }, columns);
    return derived;
  }
}
