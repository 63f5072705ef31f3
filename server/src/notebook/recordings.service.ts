import { RECORDING_MOST_BYTES, RECORDINGS_OF_RUN } from '@kestfog/core/notebook';
import type { NewRecording, RecordingView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { fileTypeFromBuffer } from 'file-type';
import { Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { once } from '../platform/once.js';
import { RecordingEntity } from './notebook.entities.js';

/** What browsers take photos and record speech as, by what the bytes say, and the media type each is given out as. */
const TYPES: Readonly<Record<NewRecording['kind'], Readonly<Record<string, string>>>> = {
  photo: { jpg: 'image/jpeg', webp: 'image/webp' },
  voice: { webm: 'audio/webm', ogg: 'audio/ogg', oga: 'audio/ogg', opus: 'audio/ogg', m4a: 'audio/mp4', mp4: 'audio/mp4' },
};
const CANNOT_BE_READ: Readonly<Record<NewRecording['kind'], string>> = {
  photo: msg`This is no photo that can be kept: take it again, or choose a JPEG or WebP.`,
  voice: msg`These are no spoken words that can be kept: record them again.`,
};

/** Photos and spoken words. They belong to a run, and stay in the notebook when that or its order is gone. */
@Injectable()
export class RecordingsService {
  constructor(
    @InjectRepository(RecordingEntity) private readonly recordings: Repository<RecordingEntity>,
    private readonly clock: Clock,
  ) {}

  async ofRun(runId: string): Promise<RecordingView[]> {
    return (await this.recordings.find({ where: { runId }, order: { at: 'ASC', id: 'ASC' } })).map(viewOf);
  }
  async spoken(): Promise<RecordingView[]> {
    return (await this.recordings.find({ where: { kind: 'voice' }, order: { at: 'DESC', id: 'ASC' } })).map(viewOf);
  }

  async add({ base64, atMs, ...recording }: NewRecording): Promise<RecordingView> {
    const { id, runId, kind } = recording;
    const file = Buffer.from(base64, 'base64');
    if (file.length > RECORDING_MOST_BYTES) throw new Refusal(413, 'too-large', msg`It has more than ${RECORDING_MOST_BYTES / 1e6} MB.`);
    const type = TYPES[kind][(await fileTypeFromBuffer(file))?.ext ?? ''];
    if (type === undefined) throw new Refusal(400, 'no-recording', CANNOT_BE_READ[kind]);
    const [run] = await this.recordings.query(
      `SELECT 1 FROM "run" WHERE "id" = $1 UNION ALL SELECT 1 FROM "learned_run" WHERE "runId" = $1 LIMIT 1`,
      [runId],
    );
    if (!run) throw notFound('run');
    // A device whose clock is ahead took it no later than now.
    const at = new Date(Math.min(atMs, this.clock.nowMs()));
    await once(
      id,
      (known) => this.recordings.existsBy({ id: known }),
      async () => {
        if ((await this.recordings.countBy({ runId })) >= RECORDINGS_OF_RUN)
          throw new Refusal(409, 'full', msg`This evening has ${RECORDINGS_OF_RUN} photos and spoken words already: take some away first.`);
        await this.recordings.insert({ ...recording, at, type, sizeBytes: file.length, file });
      },
    );
    return viewOf(await this.recordings.findOneByOrFail({ id }));
  }

  async file(id: string): Promise<Pick<RecordingEntity, 'type' | 'file'>> {
    const found = await this.recordings.findOne({ where: { id }, select: { id: true, type: true, file: true } });
    if (!found) throw notFound('recording');
    return found;
  }

  async remove(id: string): Promise<void> {
    if (!(await this.recordings.delete({ id })).affected) throw notFound('recording');
  }
}

const viewOf = ({ at, file: _, ...r }: RecordingEntity): RecordingView => ({ ...r, atMs: at.getTime() });
