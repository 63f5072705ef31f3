import { createHash } from 'node:crypto';
import { buffer } from 'node:stream/consumers';
import { msg } from '@kestfog/core/words';
import { fromBufferPromise } from 'yauzl';
import { ZipFile } from 'yazl';
import { Refusal } from '../platform/errors.js';

/** The one version there is; an archive of a later one is of a later release. */
export const ARCHIVE_FORMAT = 'kestfog-archive/1';
/** So large an archive is taken, packed and unpacked, bytes. */
export const ARCHIVE_MOST_BYTES = 300_000_000;
const UNPACKED_MOST_BYTES = 1_500_000_000;
const MANIFEST = 'manifest.json';
/** Somebody waits: a tenth larger, and in a third of the time. */
const QUICK_LEVEL = 2;

/** Everything a kitchen has: rows of each table as JSON (RFC 8259), one a line, and the files they belong to. */
export interface Archive {
  /** the last migration of the database it was taken from */
  readonly schema: string;
  readonly madeAt: string;
  readonly rows: ReadonlyMap<string, readonly string[]>;
  readonly files: ReadonlyMap<string, Uint8Array>;
}
interface Manifest {
  readonly format: string;
  readonly schema: string;
  readonly madeAt: string;
  /** rows of each table */
  readonly tables: Readonly<Record<string, number>>;
  /** SHA-256 of every file in the archive, hexadecimal */
  readonly sha256: Readonly<Record<string, string>>;
}

const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const tablePath = (table: string): string => `tables/${table}.jsonl`;
const filePath = (id: string): string => `files/${id}`;

/** An archive as a zip file: a manifest with counts and hashes, a file of lines for each table, the files as they are. */
export function packArchive({ schema, madeAt, rows, files }: Archive): Promise<Buffer> {
  const parts = new Map<string, Buffer>([
    ...[...rows].map(([table, lines]) => [tablePath(table), Buffer.from(lines.map((l) => `${l}\n`).join(''))] as const),
    ...[...files].map(([id, bytes]) => [filePath(id), Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)] as const),
  ]);
  const manifest: Manifest = {
    format: ARCHIVE_FORMAT,
    schema,
    madeAt,
    tables: Object.fromEntries([...rows].map(([table, lines]) => [table, lines.length])),
    sha256: Object.fromEntries([...parts].map(([path, bytes]) => [path, hashOf(bytes)])),
  };
  const zip = new ZipFile();
  const mtime = new Date(madeAt);
  zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), MANIFEST, { mtime });
  // Photos and speech are packed already. Tables are packed in threads of the platform: taps at the bench do not wait for it.
  for (const [path, bytes] of parts)
    zip.addBuffer(bytes, path, path.startsWith('files/') ? { mtime, compress: false } : { mtime, compressionLevel: QUICK_LEVEL });
  zip.end();
  return buffer(zip.outputStream);
}

const refused = (why: string) => new Refusal(400, 'bad-archive', why);

/** The archive in a zip file. Rejects with a {@link Refusal} that says what is wrong with it. */
export async function unpackArchive(zipFile: Uint8Array): Promise<Archive> {
  const parts = await partsOf(zipFile).catch((error: unknown) => {
    throw error instanceof Refusal ? error : refused(msg`This is no archive of Kestfog: it is not a zip file, or it is damaged.`);
  });
  const manifest = manifestIn(parts.get(MANIFEST));
  for (const path of parts.keys())
    if (path !== MANIFEST && !Object.hasOwn(manifest.sha256, path)) throw refused(msg`"${path}" is not in the archive's manifest.`);
  for (const [path, hash] of Object.entries(manifest.sha256)) {
    const bytes = parts.get(path);
    if (!bytes) throw refused(msg`"${path}" is missing in the archive: it was not saved whole.`);
    if (hashOf(bytes) !== hash) throw refused(msg`"${path}" in the archive is not as it was saved.`);
  }
  const rows = new Map<string, readonly string[]>();
  for (const [table, count] of Object.entries(manifest.tables)) {
    const lines = (parts.get(tablePath(table)) ?? Buffer.alloc(0))
      .toString('utf8')
      .split('\n')
      .filter((l) => l !== '');
    if (lines.length !== count) throw refused(msg`The archive says ${count} rows of ${table} and has ${lines.length}.`);
    rows.set(table, lines);
  }
  const files = new Map(
    [...parts].flatMap(([path, bytes]) => (path.startsWith('files/') ? [[path.slice('files/'.length), bytes] as const] : [])),
  );
  return { schema: manifest.schema, madeAt: manifest.madeAt, rows, files };
}

/** The files in a zip file; a file that unpacks to more than it says is damaged, and so is the whole. */
async function partsOf(zipFile: Uint8Array): Promise<Map<string, Buffer>> {
  const zip = await fromBufferPromise(Buffer.from(zipFile.buffer, zipFile.byteOffset, zipFile.byteLength), { lazyEntries: true });
  const parts = new Map<string, Buffer>();
  let unpacked = 0;
  for await (const entry of zip.eachEntry()) {
    unpacked += entry.uncompressedSize;
    if (unpacked > UNPACKED_MOST_BYTES) throw refused(msg`Unpacked, this archive is far larger than any kitchen.`);
    parts.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  }
  return parts;
}

function manifestIn(bytes: Buffer | undefined): Manifest {
  let manifest: Partial<Manifest> | null = null;
  try {
    manifest = JSON.parse((bytes ?? Buffer.alloc(0)).toString('utf8')) as Partial<Manifest> | null;
  } catch {
    throw refused(msg`This is no archive of Kestfog: it has no manifest.`);
  }
  const { format, schema, madeAt, tables, sha256 } = manifest ?? {};
  if (typeof format === 'string' && /^kestfog-archive\/\d+$/.test(format) && format !== ARCHIVE_FORMAT)
    throw refused(msg`This archive is ${format}: a newer release made it, take that to read it.`);
  if (format !== ARCHIVE_FORMAT || typeof schema !== 'string' || typeof madeAt !== 'string' || !isTable(tables) || !isTable(sha256))
    throw refused(msg`This is no archive of Kestfog: its manifest is not one.`);
  return { format, schema, madeAt, tables: tables as Manifest['tables'], sha256: sha256 as Manifest['sha256'] };
}
const isTable = (x: unknown): boolean => typeof x === 'object' && x !== null && !Array.isArray(x);
