import type { Design } from '@kestfog/core/design';
import type { DesignSummary, DesignView, NewDesign, Page } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, Header, HttpCode, Param, ParseIntPipe, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import { ArrayMaxSize, IsArray, IsIn, IsString, Length, MaxLength } from 'class-validator';
import { tellingNow } from '../platform/errors.js';
import { ListDto } from '../platform/list.dto.js';
import { NamedDto } from '../platform/once.js';
import { DesignsService } from './designs.service.js';
import { DrawingsService } from './drawings.service.js';

class NewDesignDto extends NamedDto implements NewDesign {
  @IsString() @Length(1, 80) name: string;
  @IsString() @MaxLength(2_000_000) svg: string;
}
class DesignChangeDto {
  /** each is checked by the core, which names the place */
  @IsArray() @ArrayMaxSize(5001) edits: unknown[];
}
class DesignListDto extends ListDto {
  @IsIn(['there', 'trash']) state: 'there' | 'trash' = 'there';
}
class CopyDto extends NamedDto {
  @IsString() @Length(1, 80) name: string;
}

@Controller('designs')
export class DesignsController {
  constructor(
    private readonly designs: DesignsService,
    private readonly drawings: DrawingsService,
  ) {}

  /** A page of them; `q` is looked for in their names. */
  @Get()
  list(@Query() { q, page, state }: DesignListDto): Promise<Page<DesignSummary>> {
    return this.designs.list(q, page, state === 'trash');
  }

  /** All of them, briefly, to choose from. */
  @Get('choices')
  choices(): Promise<DesignSummary[]> {
    return this.designs.choices();
  }

  /** A version as it is drawn; the number of its edits says how far, so what was given once need not be asked for again. */
  @Get(':id/versions/:version/drawing/:edits')
  @Header('Cache-Control', 'private, max-age=86400')
  drawing(
    @Param('id', ParseUUIDPipe) designId: string,
    @Param('version', ParseIntPipe) version: number,
    @Param('edits', ParseIntPipe) edits: number,
  ): Promise<Design> {
    return this.drawings.drawing({ designId, version, edits });
  }

  @Get(':id')
  get(@Param('id', ParseUUIDPipe) id: string): Promise<DesignView> {
    return this.designs.view(id);
  }

  @Post()
  add(@Body() body: NewDesignDto): Promise<DesignView> {
    return this.designs.add(body.name, body.svg, { id: body.id });
  }

  @Post(':id/copy')
  copy(@Param('id', ParseUUIDPipe) id: string, @Body() body: CopyDto): Promise<DesignView> {
    return this.designs.copy(id, body.name, body.id);
  }

  @Put(':id')
  change(@Param('id', ParseUUIDPipe) id: string, @Body() body: DesignChangeDto): Promise<DesignView> {
    return tellingNow(this.designs.change(id, body.edits), () => this.designs.view(id));
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.designs.remove(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<DesignView> {
    return this.designs.restore(id);
  }

  @Delete(':id/for-good')
  @HttpCode(204)
  removeForGood(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.designs.removeForGood(id);
  }
}
