import 'reflect-metadata';
import { readFile, writeFile } from 'node:fs/promises';
import type { ClashWay } from '@kestfog/core/wire';
import { DataSource } from 'typeorm';
import { ArchiveService } from './archive/archive.service.js';
import { dataSourceOptions, migrate } from './data-source.js';
import { WallClock } from './platform/clock.js';
import { Refusal } from './platform/errors.js';

/** `npm run archive -- out FILE`, `in FILE [--keep | --replace]`: see bin/archive.sh, which starts the database. */
const [what, file = '', way = 'refuse'] = process.argv.slice(2);
const url = process.env['DATABASE_URL'] as string;
await migrate(url);
const db = await new DataSource(dataSourceOptions(url, { max: 1 })).initialize();
const archive = new ArchiveService(db, new WallClock());
try {
  if (what === 'out') {
    const zip = await archive.out();
    // Never over another archive.
    await writeFile(file, zip, { flag: 'wx', mode: 0o600 });
    process.stdout.write(`everything is in ${file}, ${(zip.length / 1e6).toFixed(1)} MB\n`);
  } else {
    const { rows, files, already, kept, replaced } = await archive.in(await readFile(file), way as ClashWay);
    process.stdout.write(
      `${rows} rows and ${files} photos and recordings taken in; ${already} were here already, ${kept} stayed as they were here, ${replaced} gave way\n`,
    );
  }
} catch (error) {
  const { code, message } = error as NodeJS.ErrnoException;
  const words =
    code === 'EEXIST'
      ? `${file} is there already: choose another name.`
      : code === 'ENOENT'
        ? `there is no ${file}.`
        : error instanceof Refusal && error.code === 'archive-clash'
          ? `${message} With --keep what is here stays, with --replace the archive's takes its place.`
          : message;
  process.stderr.write(`kestfog: ${words}\n`);
  process.exitCode = 1;
} finally {
  await db.destroy();
}
