import type { LessonView, NewLesson, NotebookAcross, NotebookRun, NotebookRunView, Page } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import { IsNumber, IsOptional, IsString, IsTimeZone, IsUUID, Length, Max, Min, ValidateIf } from 'class-validator';
import { ListDto } from '../platform/list.dto.js';
import { NamedDto } from '../platform/once.js';
import { NotebookService } from './notebook.service.js';

class LessonDto extends NamedDto implements NewLesson {
  @IsString() @Length(1, 500) text: string;
  @ValidateIf((l: LessonDto) => l.runId !== null) @IsUUID() runId: string | null;
  @ValidateIf((l: LessonDto) => l.design !== null) @IsString() @Length(1, 120) design: string | null;
  @ValidateIf((l: LessonDto) => l.step !== null) @IsString() @Length(1, 200) step: string | null;
  /** a page of before knows none */
  @IsOptional() @IsString() @Length(1, 60) school: string | null = null;
}
class AcrossDto {
  /** whose months are meant */
  @IsOptional() @IsTimeZone() zone: string = 'UTC';
}
class CorrectionDto {
  @IsUUID() eventId: string;
  /** null: as the log says */
  @ValidateIf((c: CorrectionDto) => c.atMs !== null) @IsNumber() @Min(0) @Max(8_640_000_000_000) atMs: number | null;
}

@Controller()
export class NotebookController {
  constructor(private readonly notebook: NotebookService) {}

  @Get('notebook/runs')
  list(@Query() { q, page }: ListDto): Promise<Page<NotebookRun>> {
    return this.notebook.list(q, page);
  }
  @Get('notebook/across')
  across(@Query() { zone }: AcrossDto): Promise<NotebookAcross> {
    return this.notebook.across(zone);
  }
  @Get('notebook/runs/:id')
  run(@Param('id', ParseUUIDPipe) id: string): Promise<NotebookRunView> {
    return this.notebook.run(id);
  }
  @Put('notebook/runs/:id/corrections')
  correct(@Param('id', ParseUUIDPipe) id: string, @Body() { eventId, atMs }: CorrectionDto): Promise<NotebookRunView> {
    return this.notebook.correct(id, eventId, atMs);
  }

  @Get('lessons')
  lessons(): Promise<LessonView[]> {
    return this.notebook.listLessons();
  }
  @Post('lessons')
  addLesson(@Body() body: LessonDto): Promise<LessonView> {
    return this.notebook.addLesson(body);
  }
  @Delete('lessons/:id')
  @HttpCode(204)
  removeLesson(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.notebook.removeLesson(id);
  }
}
