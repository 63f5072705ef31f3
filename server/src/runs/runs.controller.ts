import type { ExportedRun, StoredEvent } from '@kestfog/core/bench';
import type { RunListItem, RunView } from '@kestfog/core/wire';
import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  Headers,
  HttpCode,
  type MessageEvent,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Sse,
} from '@nestjs/common';
import { IsIn } from 'class-validator';
import { concat, concatMap, defer, filter, from, interval, map, merge, type Observable, scan, share } from 'rxjs';
import { Clock } from '../platform/clock.js';
import { notFound } from '../platform/errors.js';
import { First } from '../platform/gate.js';
import { Notices } from '../platform/notices.js';
import { RunEventDto } from './run-event.dto.js';
import { RunsService } from './runs.service.js';

const HEARTBEAT_MS = 10_000;

class RunListDto {
  @IsIn(['going', 'trash']) state: 'going' | 'trash' = 'going';
}

@Controller()
export class RunsController {
  constructor(
    private readonly runs: RunsService,
    private readonly notices: Notices,
    private readonly clock: Clock,
  ) {}

  @Post('orders/:orderId/run')
  begin(@Param('orderId', ParseUUIDPipe) orderId: string): Promise<RunView> {
    return this.runs.begin(orderId);
  }

  /** Runs that go on (`state=going`), or that lie in the trash. */
  @Get('runs')
  list(@Query() { state }: RunListDto): Promise<RunListItem[]> {
    return this.runs.list(state);
  }

  @Delete('runs/:id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.runs.remove(id);
  }
  @Post('runs/:id/restore')
  @HttpCode(200)
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<RunView> {
    return this.runs.restore(id);
  }
  @Delete('runs/:id/for-good')
  @HttpCode(204)
  removeForGood(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.runs.removeForGood(id);
  }

  @Get('runs/:id')
  get(@Param('id', ParseUUIDPipe) id: string): Promise<RunView> {
    return this.runs.view(id);
  }

  /** The run in the open format, with the plan it was worked by. */
  @Get('runs/:id/export')
  @Header('Content-Disposition', 'attachment; filename="run.json"')
  export(@Param('id', ParseUUIDPipe) id: string): Promise<ExportedRun> {
    return this.runs.export(id);
  }

  @First()
  @Post('runs/:id/events')
  append(@Param('id', ParseUUIDPipe) id: string, @Body() body: RunEventDto): Promise<StoredEvent> {
    return this.runs.append(id, body);
  }

  /** Events from the last one seen on, then live; the server's time rides in each message. */
  @Sse('runs/:id/stream')
  async stream(
    @Param('id', ParseUUIDPipe) id: string,
    @Headers('last-event-id') header: string | undefined,
    @Query('last') query: string | undefined,
  ): Promise<Observable<MessageEvent>> {
    if (!(await this.runs.exists(id))) throw notFound('run');
    const seen = Number.parseInt(header ?? query ?? '0', 10) || 0;
    let sent = seen;
    const live = this.notices.heard.pipe(
      filter((n) => n.of === 'all' || (n.of === 'run' && n.id === id)),
      share(),
    );
    // Anything appended while the backlog is read is asked for again from the log, so nothing falls between.
    const events = merge(
      defer(() => from([null])),
      live,
    ).pipe(
      concatMap(() => defer(() => this.runs.eventsAfter(id, sent))),
      concatMap((list) => from(list)),
      filter((e) => e.seq > sent),
      map((event): MessageEvent => {
        sent = event.seq;
        return { id: String(event.seq), type: 'event', data: { event, clock: this.clock.view() } };
      }),
    );
    const clock = merge(this.clock.changes, interval(HEARTBEAT_MS).pipe(map(() => this.clock.view()))).pipe(
      scan((_, view) => view, this.clock.view()),
      map((view): MessageEvent => ({ id: String(sent), type: 'clock', data: { clock: view } })),
    );
    const hello = defer(() =>
      from([{ id: String(sent), type: 'clock', retry: 1000, data: { clock: this.clock.view() } } satisfies MessageEvent]),
    );
    return concat(hello, merge(events, clock));
  }
}
