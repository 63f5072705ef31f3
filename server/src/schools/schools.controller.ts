import type { SchoolView } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { IsObject } from 'class-validator';
import { SchoolsService } from './schools.service.js';

class SchoolDto {
  /** checked by the core, which names the place */
  @IsObject() school: object;
}

@Controller('schools')
export class SchoolsController {
  constructor(private readonly schools: SchoolsService) {}

  @Get()
  list(): Promise<SchoolView[]> {
    return this.schools.list();
  }
  @Post()
  add(@Body() body: SchoolDto): Promise<SchoolView> {
    return this.schools.add(body.school);
  }
  @Put(':id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() body: SchoolDto): Promise<SchoolView> {
    return this.schools.change(id, body.school);
  }
  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.schools.remove(id);
  }
}
