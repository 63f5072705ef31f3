import type { DesignSummary, DesignView, NewDesign } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ArrayMaxSize, IsArray, IsString, Length, MaxLength } from 'class-validator';
import { DesignsService } from './designs.service.js';

class NewDesignDto implements NewDesign {
  @IsString() @Length(1, 80) name: string;
  @IsString() @MaxLength(2_000_000) svg: string;
}
class DesignChangeDto {
  /** each is checked by the core, which names the place */
  @IsArray() @ArrayMaxSize(5001) edits: unknown[];
}
class CopyDto {
  @IsString() @Length(1, 80) name: string;
}

@Controller('designs')
export class DesignsController {
  constructor(private readonly designs: DesignsService) {}

  @Get()
  list(): Promise<DesignSummary[]> {
    return this.designs.list();
  }

  @Get(':id')
  get(@Param('id', ParseUUIDPipe) id: string): Promise<DesignView> {
    return this.designs.view(id);
  }

  @Post()
  add(@Body() body: NewDesignDto): Promise<DesignView> {
    return this.designs.add(body.name, body.svg);
  }

  @Post(':id/copy')
  copy(@Param('id', ParseUUIDPipe) id: string, @Body() body: CopyDto): Promise<DesignView> {
    return this.designs.copy(id, body.name);
  }

  @Put(':id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() body: DesignChangeDto): Promise<DesignView> {
    return this.designs.change(id, body.edits);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.designs.remove(id);
  }
}
