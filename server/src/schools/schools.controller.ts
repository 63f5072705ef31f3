import type { SchoolView } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import { IsIn, IsInt, IsObject, Max, Min } from 'class-validator';
import { tellingNow } from '../platform/errors.js';
import { NamedDto } from '../platform/once.js';
import { IfGiven } from '../platform/validators.js';
import { SchoolsService } from './schools.service.js';

class NewSchoolDto extends NamedDto {
  /** checked by the core, which names the place */
  @IsObject() school: object;
}
class ChangedSchoolDto {
  @IsObject() school: object;
  /** revision the change goes on from; left out, whatever is there is changed */
  @IfGiven() @IsInt() @Min(1) @Max(2_000_000_000) basedOn?: number;
}
class SchoolListDto {
  @IsIn(['there', 'trash']) state: 'there' | 'trash' = 'there';
}

@Controller('schools')
export class SchoolsController {
  constructor(private readonly schools: SchoolsService) {}

  @Get()
  list(@Query() { state }: SchoolListDto): Promise<SchoolView[]> {
    return state === 'trash' ? this.schools.trash() : this.schools.list();
  }
  @Post()
  add(@Body() body: NewSchoolDto): Promise<SchoolView> {
    return this.schools.add(body.school, body.id);
  }
  @Put(':id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() body: ChangedSchoolDto): Promise<SchoolView> {
    return tellingNow(this.schools.change(id, body.school, body.basedOn), () => this.schools.view(id));
  }
  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.schools.remove(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<SchoolView> {
    return this.schools.restore(id);
  }
  @Delete(':id/for-good')
  @HttpCode(204)
  removeForGood(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.schools.removeForGood(id);
  }
}
