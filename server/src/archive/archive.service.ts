import type { ClashWay, TakenIn } from '@kestfog/core/wire';
import { msg, plural } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource, type EntityManager, type EntityMetadata, QueryFailedError } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { Refusal } from '../platform/errors.js';
import { type Archive, packArchive, unpackArchive } from './archive-file.js';

/** What is kept, with what must be there before it first, and what a row of it is called. */
const TABLES: Readonly<Record<string, string>> = {
  kitchen: msg`the kitchen`,
  design: msg`a design`,
  design_version: msg`a version of a design`,
  school: msg`a school`,
  order: msg`an order`,
  order_design: msg`a design of an order`,
  bag: msg`a bag of an order`,
  colour_mix: msg`how a colour is mixed`,
  leftover: msg`left-over icing`,
  thinning_step: msg`a step of thinning`,
  touch: msg`a touch`,
  plan: msg`a plan`,
  run: msg`a run`,
  run_event: msg`a moment of a run`,
  learned_run: msg`what a run taught`,
  lesson: msg`a lesson`,
  recording: msg`a photo or spoken words`,
  run_correction: msg`a moment put right`,
  stock_thing: msg`a thing of the stock`,
  stock_booking: msg`what was taken off the stock`,
};
/** What follows from the rest, and may have been worked out by another release: no clash where only that differs. */
const DERIVED: Readonly<Record<string, readonly string[]>> = {
  design_version: ['name', 'derivedBy', 'drawing', 'summary', 'edits'],
  run: ['factsBy', 'factsSeq', 'done', 'total', 'finished', 'liftedAt', 'taught', 'account'],
};
/** Bytes are files of the archive, not letters in a row. */
const FILE_COLUMN: Readonly<Record<string, string>> = { recording: 'file' };

/** A row that is here already, and not the same. */
interface Clash {
  readonly what: string;
  readonly name: string;
}
/** Rows go to the database in pieces of so many letters. */
const PIECE_LETTERS = 1_000_000;
const CLASHES_SHOWN = 20;
const NONE_MET = { already: '0', clashing: '0' } as const;
const q = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** Everything a kitchen has, out into one file and in again: all or nothing. */
@Injectable()
export class ArchiveService {
  constructor(
    @InjectDataSource() private readonly db: DataSource,
    private readonly clock: Clock,
  ) {}

  /** As it stands at one moment, whoever writes meanwhile. */
  async out(): Promise<Uint8Array> {
    const all = await this.db.transaction('REPEATABLE READ', async (m): Promise<Archive> => {
      await m.query('SET TRANSACTION READ ONLY');
      const rows = new Map<string, string[]>();
      for (const table of Object.keys(TABLES)) {
        const { keys } = this.shapeOf(table);
        const without = FILE_COLUMN[table] ? ` - '${FILE_COLUMN[table]}'` : '';
        const found: { row: string }[] = await m.query(
          `SELECT (to_jsonb(t)${without})::text AS "row" FROM ${q(table)} t ORDER BY ${keys.map(q).join(', ')}`,
        );
        rows.set(
          table,
          found.map((f) => f.row),
        );
      }
      const files = new Map<string, Uint8Array>();
      for (const [table, column] of Object.entries(FILE_COLUMN))
        for (const { id, file } of (await m.query(`SELECT "id", ${q(column)} AS "file" FROM ${q(table)} ORDER BY "id"`)) as {
          id: string;
          file: Buffer;
        }[])
          files.set(id, file);
      return { schema: await this.schema(m), madeAt: new Date(this.clock.nowMs()).toISOString(), rows, files };
    });
    // Packed once the database is let go: it waits for nobody who takes long.
    return packArchive(all);
  }

  /** Takes an archive in, into an empty kitchen or a full one. Throws a {@link Refusal} that names what is in the way; nothing is changed then. */
  async in(zip: Uint8Array, way: ClashWay): Promise<TakenIn> {
    const archive = await unpackArchive(zip);
    await this.checkSchema(archive);
    for (const table of archive.rows.keys())
      if (!(table in TABLES)) throw new Refusal(400, 'bad-archive', msg`The archive has "${table}", which nothing here is called.`);
    try {
      return await this.db.transaction((m) => this.takeIn(m, archive, way));
    } catch (error) {
      if (error instanceof QueryFailedError)
        throw new Refusal(400, 'bad-archive', msg`Something in the archive cannot be kept, so nothing was taken in: ${error.message}.`);
      throw error;
    }
  }

  private async takeIn(m: EntityManager, { rows, files }: Archive, way: ClashWay): Promise<TakenIn> {
    const total = { rows: 0, files: 0, already: 0, kept: 0, replaced: 0 };
    const clashes: Clash[] = [];
    for (const table of Object.keys(TABLES)) {
      const lines = rows.get(table) ?? [];
      const given = lines[0] === undefined ? [] : Object.keys(JSON.parse(lines[0]) as object);
      const { keys, columns } = this.shapeOf(table);
      const unknown = given.find((c) => !columns.includes(c));
      if (unknown !== undefined)
        throw new Refusal(400, 'bad-archive', msg`The archive has "${unknown}" of ${table}, which nothing here is called.`);
      const own = columns.filter((c) => given.includes(c));
      const compared = own.filter((c) => !keys.includes(c) && !(DERIVED[table] ?? []).includes(c));
      const same = (a: string, b: string) =>
        compared.length === 0
          ? 'true'
          : compared.map((c) => `to_jsonb(${a}.${q(c)}) IS NOT DISTINCT FROM to_jsonb(${b}.${q(c)})`).join(' AND ');
      const meet = keys.map((k) => `a.${q(k)} = b.${q(k)}`).join(' AND ');
      const [{ any }]: [{ any: boolean }] = await m.query(`SELECT EXISTS (SELECT 1 FROM ${q(table)}) AS "any"`);
      const isBare = !any;
      for (const piece of piecesOf(lines)) {
        const json = `[${piece.join(',')}]`;
        const from = `jsonb_populate_recordset(NULL::${q(table)}, $1::jsonb) a`;
        const [met]: [{ already: string; clashing: string }] = isBare
          ? [NONE_MET]
          : await m.query(
              `SELECT count(*) FILTER (WHERE ${same('a', 'b')}) AS "already", count(*) FILTER (WHERE NOT (${same('a', 'b')})) AS "clashing"
            FROM ${from} JOIN ${q(table)} b ON ${meet}`,
              [json],
            );
        const [already, clashing] = [Number(met.already), Number(met.clashing)];
        if (clashing > 0 && way === 'refuse') {
          const found: { row: Record<string, unknown> }[] = await m.query(
            `SELECT to_jsonb(b) AS "row" FROM ${from} JOIN ${q(table)} b ON ${meet} WHERE NOT (${same('a', 'b')}) LIMIT ${CLASHES_SHOWN}`,
            [json],
          );
          clashes.push(...found.map(({ row }) => ({ what: TABLES[table] as string, name: nameOf(row, keys) })));
          continue;
        }
        const file = FILE_COLUMN[table];
        const into = [...own, ...(file ? [file] : [])];
        const change = own.filter((c) => !keys.includes(c)).map((c) => `${q(c)} = EXCLUDED.${q(c)}`);
        await m.query(
          `INSERT INTO ${q(table)} (${into.map(q).join(', ')}) SELECT ${[...own.map((c) => `a.${q(c)}`), ...(file ? [`''::bytea`] : [])].join(', ')}
            FROM ${from} ON CONFLICT (${keys.map(q).join(', ')}) ${way === 'replace' && change.length > 0 ? `DO UPDATE SET ${change.join(', ')}` : 'DO NOTHING'}`,
          [json],
        );
        total.already += already;
        total[way === 'replace' ? 'replaced' : 'kept'] += clashing;
        total.rows += piece.length - already - (way === 'replace' ? 0 : clashing);
      }
    }
    if (clashes.length > 0) {
      const some = clashes.slice(0, 5).map((c) => (c.name === '' ? c.what : `${c.what} (${c.name})`));
      throw new Refusal(
        409,
        'archive-clash',
        msg`Nothing was taken in: ${some.join(', ')}${clashes.length > 5 ? msg` and more` : ''} ${plural(clashes.length, 'is', 'are')}
          here already, and not the same. Say whether what is here stays or the archive's takes its place.`,
        clashes.slice(0, CLASHES_SHOWN),
      );
    }
    // Moments of one run from two places make one log; what follows from it is worked out anew.
    await m.query(`UPDATE "run" r SET "lastSeq" = s."seq", "factsSeq" = NULL
      FROM (SELECT "runId", max("seq") AS "seq" FROM "run_event" GROUP BY "runId") s WHERE s."runId" = r."id" AND r."lastSeq" < s."seq"`);
    for (const [id, bytes] of files) {
      const put = await m.query(`UPDATE "recording" SET "file" = $2 WHERE "id" = $1 AND length("file") = 0 RETURNING 1`, [
        id,
        Buffer.from(bytes),
      ]);
      total.files += put[1] ?? 0;
    }
    const [bare]: [{ n: string }] = await m.query(`SELECT count(*) AS n FROM "recording" WHERE length("file") = 0`);
    if (Number(bare.n) > 0)
      throw new Refusal(400, 'bad-archive', msg`A photo or spoken words are missing in the archive, so nothing was taken in.`);
    return total;
  }

  /** Whether an archive is of this release's tables or of earlier ones. */
  private async checkSchema({ schema }: Archive): Promise<void> {
    const known = await this.db.query(`SELECT 1 FROM "migrations" WHERE "name" = $1`, [schema]);
    if (known.length === 0)
      throw new Refusal(400, 'bad-archive', msg`A newer release made this archive: bring Kestfog up to date first, then take it in.`);
  }
  private async schema(m: EntityManager): Promise<string> {
    const [last]: [{ name: string }] = await m.query(`SELECT "name" FROM "migrations" ORDER BY "timestamp" DESC LIMIT 1`);
    return last.name;
  }
  private shapeOf(table: string): { readonly keys: readonly string[]; readonly columns: readonly string[] } {
    const meta = this.db.entityMetadatas.find((e) => e.tableName === table) as EntityMetadata;
    return { keys: meta.primaryColumns.map((c) => c.databaseName), columns: meta.columns.map((c) => c.databaseName) };
  }
}

/** Tables the archive holds, for who checks that none is left out. */
export const archivedTables = Object.keys(TABLES);

/** By what somebody knows a row: its name, else its key. */
const nameOf = (row: Record<string, unknown>, keys: readonly string[]): string =>
  String(row['name'] ?? row['orderName'] ?? row['text'] ?? row['item'] ?? row['colour'] ?? keys.map((k) => row[k]).join(' '));

function piecesOf(lines: readonly string[]): string[][] {
  const out: string[][] = [];
  let letters = Number.POSITIVE_INFINITY;
  for (const line of lines) {
    if (letters + line.length > PIECE_LETTERS) {
      out.push([]);
      letters = 0;
    }
    (out.at(-1) as string[]).push(line);
    letters += line.length;
  }
  return out;
}
