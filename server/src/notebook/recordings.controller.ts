import { RECORDING_MOST_BYTES, type RecordingKind, recordingKinds } from '@kestfog/core/notebook';
import type { NewRecording, RecordingView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import { IsBase64, IsIn, IsNumber, IsString, IsUUID, Length, Max, MaxLength, Min, ValidateIf } from 'class-validator';
import type { Response } from 'express';
import { RecordingsService } from './recordings.service.js';

/** Three bytes are four letters. */
const MOST_LETTERS = Math.ceil(RECORDING_MOST_BYTES / 3) * 4;

class RecordingDto implements NewRecording {
  @IsUUID() id: string;
  @IsUUID() runId: string;
  @IsIn(recordingKinds) kind: RecordingKind;
  @IsNumber() @Min(0) @Max(8_640_000_000_000) atMs: number;
  @ValidateIf((r: RecordingDto) => r.design !== null) @IsString() @Length(1, 120) design: string | null;
  @ValidateIf((r: RecordingDto) => r.step !== null) @IsString() @Length(1, 200) step: string | null;
  @ValidateIf((r: RecordingDto) => r.school !== null) @IsString() @Length(1, 60) school: string | null;
  @IsBase64()
  @MaxLength(MOST_LETTERS, { message: msg`a photo or spoken words have ${RECORDING_MOST_BYTES / 1e6} MB at most` })
  base64: string;
}

@Controller('recordings')
export class RecordingsController {
  constructor(private readonly recordings: RecordingsService) {}

  /** Spoken words of all runs: they come back with what they are about. */
  @Get()
  spoken(): Promise<RecordingView[]> {
    return this.recordings.spoken();
  }
  @Post()
  add(@Body() body: RecordingDto): Promise<RecordingView> {
    return this.recordings.add(body);
  }
  @Get(':id/file')
  async file(@Param('id', ParseUUIDPipe) id: string, @Res() res: Response): Promise<void> {
    const { type, file } = await this.recordings.file(id);
    // The bytes are what a device sent: shown as what they are, and run by nobody.
    res.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    res.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    res.type(type).send(file);
  }
  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.recordings.remove(id);
  }
}
