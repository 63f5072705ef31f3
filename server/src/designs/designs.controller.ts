import type { DesignSummary, NewDesign } from '@kestfog/core';
import { Body, Controller, Get, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { IsString, Length, MaxLength } from 'class-validator';
import { DesignsService } from './designs.service.js';

class NewDesignDto implements NewDesign {
  @IsString() @Length(1, 80) name: string;
  @IsString() @MaxLength(2_000_000) svg: string;
}

@Controller('designs')
export class DesignsController {
  constructor(private readonly designs: DesignsService) {}

  @Get()
  list(): Promise<DesignSummary[]> {
    return this.designs.list();
  }

  @Get(':id')
  get(@Param('id', ParseUUIDPipe) id: string): Promise<DesignSummary> {
    return this.designs.getSummary(id);
  }

  @Post()
  add(@Body() body: NewDesignDto): Promise<DesignSummary> {
    return this.designs.add(body.name, body.svg);
  }
}
