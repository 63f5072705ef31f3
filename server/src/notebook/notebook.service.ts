import { randomUUID } from 'node:crypto';
import { type AccountSummary, across } from '@kestfog/core/notebook';
import type { LessonView, NewLesson, NotebookAcross, NotebookRun, NotebookRunView, Page } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { CalibrationService } from '../calibration/calibration.service.js';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { likePattern } from '../platform/like.js';
import { once } from '../platform/once.js';
import { RunEventEntity } from '../runs/run.entity.js';
import { RunFactsService } from '../runs/run-facts.service.js';
import { LessonEntity, RunCorrectionEntity } from './notebook.entities.js';
import { RecordingsService } from './recordings.service.js';

/** Runs a page of the notebook shows. */
const PAGE = 20;
/** A moment is put right by so much at most; more than that was another evening. */
const MOST_RIGHT_MS = 24 * 3_600_000;

/** All finished runs: those that are there, and those whose orders are gone. Rows as $1 (a pattern) finds them. */
const RUNS = `FROM (
    SELECT r."id" AS "runId", o."name" AS "orderName", r."startedAt", CASE WHEN o."deletedAt" IS NULL THEN o."id" END AS "orderId", r."account",
      EXISTS (SELECT 1 FROM "learned_run" l WHERE l."runId" = r."id" AND l."leftOut") AS "leftOut", false AS "simulated"
      FROM "run" r JOIN "order" o ON o."id" = r."orderId" WHERE r."finished" AND r."deletedAt" IS NULL AND r."account" IS NOT NULL
    UNION ALL
    SELECT l."runId", l."orderName", l."startedAt", NULL, l."account", l."leftOut", l."simulated" FROM "learned_run" l
      WHERE l."account" IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "run" r WHERE r."id" = l."runId")
  ) n`;
const FOUND = `WHERE concat_ws(' ', n."orderName", n."account"->'summary'->>'school') ILIKE $1
    OR EXISTS (SELECT 1 FROM jsonb_array_elements(n."account"->'summary'->'designs') d WHERE d->>'name' ILIKE $1)
    OR EXISTS (SELECT 1 FROM jsonb_array_elements(n."account"->'summary'->'defects') d WHERE concat_ws(' ', replace(d->>'seen', '-', ' '), d->>'part') ILIKE $1)
    OR EXISTS (SELECT 1 FROM "lesson" t WHERE t."runId" = n."runId" AND t."text" ILIKE $1)`;

/** What happened in finished runs, and what it teaches. Nothing here goes with an order. */
@Injectable()
export class NotebookService {
  constructor(
    @InjectRepository(LessonEntity) private readonly lessons: Repository<LessonEntity>,
    @InjectRepository(RunCorrectionEntity) private readonly corrections: Repository<RunCorrectionEntity>,
    @InjectRepository(RunEventEntity) private readonly events: Repository<RunEventEntity>,
    private readonly recordings: RecordingsService,
    private readonly facts: RunFactsService,
    private readonly calibration: CalibrationService,
    private readonly clock: Clock,
  ) {}

  /** The newest first; `q` is in the order's name, its designs, its school, what went wrong, or a lesson. */
  async list(q: string, page: number): Promise<Page<NotebookRun>> {
    await this.facts.upToDate();
    const pattern = likePattern(q).value;
    const [[{ total }], items]: [[{ total: number }], NotebookRun[]] = await Promise.all([
      this.lessons.query(`SELECT count(*)::int AS total ${RUNS} ${FOUND}`, [pattern]),
      this.lessons.query(
        `SELECT n."runId", n."orderName", n."orderId", n."leftOut", n."simulated", n."account"->'summary' AS "summary" ${RUNS} ${FOUND}
          ORDER BY n."startedAt" DESC, n."runId" LIMIT ${PAGE} OFFSET $2`,
        [pattern, page * PAGE],
      ),
    ]);
    return { items, total, page, pages: Math.max(1, Math.ceil(total / PAGE)) };
  }

  async run(runId: string): Promise<NotebookRunView> {
    await this.facts.upToDate();
    const [found]: Omit<NotebookRunView, 'lessons' | 'recordings' | 'corrections'>[] = await this.lessons.query(
      `SELECT n."runId", n."orderName", n."orderId", n."leftOut", n."simulated", n."account"->'summary' AS "summary", n."account",
          (SELECT coalesce(sum(f."grams"), 0) FROM "leftover" f WHERE f."orderId" = n."orderId" AND f."deletedAt" IS NULL) AS "putByG" ${RUNS} WHERE n."runId" = $1`,
      [runId],
    );
    if (!found) throw notFound(msg`finished run`);
    const [lessons, recordings, corrections] = await Promise.all([
      this.lessons.find({ where: { runId }, order: { at: 'ASC' } }),
      this.recordings.ofRun(runId),
      this.corrections.find({ where: { runId }, order: { at: 'ASC' } }),
    ]);
    return {
      ...found,
      lessons: lessons.map(viewOf),
      recordings,
      corrections: corrections.map((c) => ({ eventId: c.eventId, atMs: c.at.getTime(), wasMs: c.was.getTime() })),
    };
  }

  /** What all runs tell together, but for those that are left out; the simulated ones of the demo only until there is a real one. */
  async across(zone: string): Promise<NotebookAcross> {
    await this.facts.upToDate();
    const rows: { summary: AccountSummary; simulated: boolean }[] = await this.lessons.query(
      `SELECT n."account"->'summary' AS "summary", n."simulated" ${RUNS} WHERE NOT n."leftOut"`,
    );
    const real = rows.filter((r) => !r.simulated);
    const simulated = real.length === 0 && rows.length > 0;
    const summaries = (simulated ? rows : real).map((r) => r.summary);
    return { ...across(summaries, zone), simulated, months: await this.calibration.byMonth(simulated, zone) };
  }

  async listLessons(): Promise<LessonView[]> {
    return (await this.lessons.find({ order: { at: 'DESC' } })).map(viewOf);
  }

  async addLesson({ id = randomUUID(), ...lesson }: NewLesson & { readonly id?: string | undefined }): Promise<LessonView> {
    const text = lesson.text.trim();
    if (text === '') throw new Refusal(400, 'no-lesson', msg`Write what is to be done otherwise the next time.`);
    await once(
      id,
      (known) => this.lessons.existsBy({ id: known }),
      () => this.lessons.insert({ ...lesson, text, id, at: new Date(this.clock.nowMs()) }),
    );
    return viewOf(await this.lessons.findOneByOrFail({ id }));
  }

  async removeLesson(id: string): Promise<void> {
    if (!(await this.lessons.delete({ id })).affected) throw notFound('lesson');
  }

  /**
   * Puts a moment of a finished run right; null takes that back. The log keeps what was said, and all that follows from it is worked out
   * anew.
   */
  async correct(runId: string, eventId: string, atMs: number | null): Promise<NotebookRunView> {
    const { visits } = (await this.run(runId)).account;
    const event = await this.events.findOneBy({ runId, id: eventId });
    if (!event) throw notFound(msg`moment of this run`);
    if (atMs !== null && Math.abs(atMs - event.at.getTime()) > MOST_RIGHT_MS)
      throw new Refusal(400, 'too-far', msg`That is more than a day from what the log says: look at the date.`);
    const isS = (atMs ?? event.at.getTime()) / 1000;
    for (const v of visits) {
      const [begunS, doneS] = [v.begunBy === eventId ? isS : v.begunS, v.doneBy === eventId ? isS : v.doneS];
      if (begunS !== null && doneS !== null && doneS < begunS)
        throw new Refusal(
          400,
          'ends-before',
          msg`Then "${v.title}" on tray ${v.trayId} would end before it began: put its other time right first.`,
        );
    }
    if (atMs === null || atMs === event.at.getTime()) await this.corrections.delete({ eventId });
    else await this.corrections.upsert({ eventId, runId, at: new Date(atMs), was: event.at }, ['eventId']);
    await this.facts.again(runId);
    return this.run(runId);
  }
}

const viewOf = (l: LessonEntity): LessonView => ({ ...l, at: l.at.toISOString() });
