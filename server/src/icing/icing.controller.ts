import { randomUUID } from 'node:crypto';
import type { ColourMix, LeftoverKept, LeftoverUse, LeftoverView, NewLeftover } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsNumber,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { IsNull, Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal, tellingNow } from '../platform/errors.js';
import { NamedDto, once } from '../platform/once.js';
import { keptOnTop } from '../platform/revisions.js';
import { IfGiven } from '../platform/validators.js';
import { ColourMixEntity, LeftoverEntity } from './icing.entities.js';

const COLOUR = /^#[0-9a-f]{6}$/;
const COLOUR_WORDS = { message: msg`colour must be like #f6f3ea` };

const COLOUR_MIX = msg`How this colour is mixed was changed elsewhere meanwhile: look at both, and choose.`;

class GelDto {
  @IsString() @Length(1, 40) gel: string;
  @IsNumber() @Min(0.1) @Max(100) parts: number;
}
class ColourMixDto implements ColourMix {
  @IsString() @Length(1, 40) recipe: string;
  @ValidateIf((m: ColourMixDto) => m.gelGPer100G !== null) @IsNumber() @Min(0) @Max(30) gelGPer100G: number | null;
  @Matches(COLOUR, COLOUR_WORDS) colour: string;
  @IsArray() @ArrayMaxSize(8) @ValidateNested({ each: true }) @Type(() => GelDto) parts: GelDto[];
  @IsString() @MaxLength(300) note: string;
  /** the one it goes on from; left out, whatever is there is changed */
  @IfGiven() @IsInt() @Min(0) @Max(2_000_000_000) revision?: number;
}
class LeftoverDto extends NamedDto implements NewLeftover {
  @Matches(COLOUR, COLOUR_WORDS) colour: string;
  @IsNumber() @Min(1.5) @Max(120) seconds: number;
  @IsNumber() @Min(1) @Max(20_000) grams: number;
  @ValidateIf((l: LeftoverDto) => l.orderId !== null) @IsUUID() orderId: string | null;
}

class LeftoverUseDto implements LeftoverUse {
  @IsUUID() orderId: string;
  @Matches(COLOUR, COLOUR_WORDS) colour: string;
  @IsNumber() @Min(1.5) @Max(120) seconds: number;
  @IsNumber() @Min(0) @Max(20_000) grams: number;
}

class LeftoverKeptDto implements LeftoverKept {
  @IsBoolean() frozen: boolean;
  @IsBoolean() kneaded: boolean;
}

const viewOf = (l: LeftoverEntity): LeftoverView => ({ ...l, at: l.at.toISOString(), kneadedAt: l.kneadedAt?.toISOString() ?? null });

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
    const key = { recipe: body.recipe, colour: body.colour };
    const now = () => this.mixes.findOneByOrFail(key);
    const said = { gelGPer100G: body.gelGPer100G, parts: body.parts, note: body.note };
    await tellingNow(keptOnTop(this.mixes, ColourMixEntity, key, said, body.revision, COLOUR_MIX), now);
    return now();
  }

  @Get('leftovers')
  async leftovers(): Promise<LeftoverView[]> {
    return (await this.rests.find({ order: { at: 'DESC' } })).map(viewOf);
  }
  @Post('leftovers')
  async addLeftover(@Body() { id = randomUUID(), ...body }: LeftoverDto): Promise<LeftoverView> {
    await once(
      id,
      (known) => this.rests.exists({ where: { id: known }, withDeleted: true }),
      () => this.rests.insert({ ...body, id, at: new Date(this.clock.nowMs()) }),
    );
    return viewOf(await this.rests.findOneOrFail({ where: { id }, withDeleted: true }));
  }
  /** Puts some of it into a bag of an order, or takes that back with 0 g; never more than there is. */
  @Put('leftovers/:id/uses')
  useLeftover(@Param('id', ParseUUIDPipe) id: string, @Body() body: LeftoverUseDto): Promise<LeftoverView> {
    return this.rests.manager.transaction(async (m) => {
      const rest = await m.findOne(LeftoverEntity, { where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!rest) throw notFound('leftover');
      const others = rest.uses.filter((u) => u.orderId !== body.orderId || u.colour !== body.colour || u.seconds !== body.seconds);
      const free = rest.grams - others.reduce((sum, u) => sum + u.grams, 0);
      if (body.grams > free + 1e-6)
        throw new Refusal(409, 'leftover-short', msg`Only ${Math.round(free)} g of it are left: take that, or mix the rest.`);
      rest.uses =
        body.grams > 0 ? [...others, { orderId: body.orderId, colour: body.colour, seconds: body.seconds, grams: body.grams }] : others;
      return viewOf(await m.save(rest));
    });
  }
  /** How it is kept: cold or frozen, and whether it was just kneaded or stirred again. */
  @Put('leftovers/:id/kept')
  async keepLeftover(@Param('id', ParseUUIDPipe) id: string, @Body() { frozen, kneaded }: LeftoverKeptDto): Promise<LeftoverView> {
    const found = await this.rests.update(
      { id, deletedAt: IsNull() },
      { frozen, ...(kneaded ? { kneadedAt: new Date(this.clock.nowMs()) } : {}) },
    );
    if (!found.affected) throw notFound('leftover');
    return viewOf(await this.rests.findOneByOrFail({ id }));
  }
  @Delete('leftovers/:id')
  @HttpCode(204)
  async removeLeftover(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    if (!(await this.rests.softDelete({ id, deletedAt: IsNull() })).affected) throw notFound('leftover');
  }
  @Post('leftovers/:id/restore')
  @HttpCode(204)
  async restoreLeftover(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    if (!(await this.rests.restore({ id })).affected) throw notFound('leftover');
  }
}
