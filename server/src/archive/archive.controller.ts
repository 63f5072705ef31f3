import { type ClashWay, clashWays, type TakenIn } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Get, Post, Query, Res } from '@nestjs/common';
import { IsIn, IsOptional } from 'class-validator';
import type { Response } from 'express';
import { Refusal } from '../platform/errors.js';
import { ArchiveService } from './archive.service.js';

class TakeInDto {
  @IsOptional() @IsIn(clashWays) clashes: ClashWay = 'refuse';
}

@Controller('archive')
export class ArchiveController {
  constructor(private readonly archive: ArchiveService) {}

  @Get()
  async out(@Res() res: Response): Promise<void> {
    const zip = await this.archive.out();
    res.setHeader('Content-Disposition', 'attachment; filename="kestfog-archive.zip"');
    res.type('application/zip').send(Buffer.from(zip));
  }
  @Post()
  in(@Body() zip: unknown, @Query() { clashes }: TakeInDto): Promise<TakenIn> {
    if (!Buffer.isBuffer(zip)) throw new Refusal(400, 'bad-archive', msg`Send the archive itself, as application/zip.`);
    return this.archive.in(zip, clashes);
  }
}
