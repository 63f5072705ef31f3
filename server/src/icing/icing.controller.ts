import type { ColourMix, LeftoverView, NewLeftover } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsNumber, IsString, IsUUID, Length, Matches, Max, MaxLength, Min, ValidateIf, ValidateNested } from 'class-validator';
import { Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound } from '../platform/errors.js';
import { ColourMixEntity, LeftoverEntity } from './icing.entities.js';

const COLOUR = /^#[0-9a-f]{6}$/;
const COLOUR_WORDS = { message: 'colour must be like #f6f3ea' };

class GelDto {
  @IsString() @Length(1, 40) gel: string;
  @IsNumber() @Min(0.1) @Max(100) parts: number;
}
class ColourMixDto implements ColourMix {
  @Matches(COLOUR, COLOUR_WORDS) colour: string;
  @IsArray() @ArrayMaxSize(8) @ValidateNested({ each: true }) @Type(() => GelDto) parts: GelDto[];
  @IsString() @MaxLength(300) note: string;
}
class LeftoverDto implements NewLeftover {
  @Matches(COLOUR, COLOUR_WORDS) colour: string;
  @IsNumber() @Min(1.5) @Max(120) seconds: number;
  @IsNumber() @Min(1) @Max(20_000) grams: number;
  @ValidateIf((l: LeftoverDto) => l.orderId !== null) @IsUUID() orderId: string | null;
}

@Controller()
export class IcingController {
  constructor(
    @InjectRepository(ColourMixEntity) private readonly mixes: Repository<ColourMixEntity>,
    @InjectRepository(LeftoverEntity) private readonly rests: Repository<LeftoverEntity>,
    private readonly clock: Clock,
  ) {}

  @Get('colour-mixes')
  colourMixes(): Promise<ColourMix[]> {
    return this.mixes.find({ order: { colour: 'ASC' } });
  }
  @Put('colour-mixes')
  async keepMix(@Body() body: ColourMixDto): Promise<ColourMix> {
    await this.mixes.upsert({ colour: body.colour, parts: body.parts, note: body.note }, ['colour']);
    return this.mixes.findOneByOrFail({ colour: body.colour });
  }

  @Get('leftovers')
  async leftovers(): Promise<LeftoverView[]> {
    return (await this.rests.find({ order: { at: 'DESC' } })).map((l) => ({ ...l, at: l.at.toISOString() }));
  }
  @Post('leftovers')
  async addLeftover(@Body() body: LeftoverDto): Promise<LeftoverView> {
    const saved = await this.rests.save(this.rests.create({ ...body, at: new Date(this.clock.nowMs()) }));
    return { ...saved, at: saved.at.toISOString() };
  }
  @Delete('leftovers/:id')
  @HttpCode(204)
  async removeLeftover(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    if (!(await this.rests.delete({ id })).affected) throw notFound('leftover');
  }
}
