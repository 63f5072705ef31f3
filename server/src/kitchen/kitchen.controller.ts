import { BOX_AIR_M_PER_S, type EggWhite, type FanSetting, fanSettings, type Kitchen, REFERENCE_SECONDS } from '@kestfog/core';
import { Body, Controller, Get, Put } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Type } from 'class-transformer';
import { IsIn, IsNumber, IsString, Length, Max, Min, ValidateIf, ValidateNested } from 'class-validator';
import { Repository } from 'typeorm';
import { KitchenEntity } from './kitchen.entity.js';

class FanSetUpDto {
  @IsNumber() @Min(0.1) @Max(20) distanceM: number;
  @IsIn(fanSettings) setting: FanSetting;
  @ValidateIf((f: FanSetUpDto) => f.measuredMPerS !== null) @IsNumber() @Min(0) @Max(5) measuredMPerS: number | null;
}
class BoxSetUpDto {
  @IsNumber() @Min(20) @Max(80) tempC: number;
  @IsNumber() @Min(0.1) @Max(5) airMPerS: number;
}
class KitchenDto implements Kitchen {
  @IsIn(['line', 'ribbon', 'trail']) countsBy: Kitchen['countsBy'];
  @IsNumber() @Min(1) @Max(60) floodCount: number;
  @IsIn(['dried', 'pasteurised', 'fresh']) eggWhite: EggWhite;
  @IsString() @Length(1, 40) recipe: string;
  @ValidateNested() @Type(() => FanSetUpDto) fan: FanSetUpDto;
  @ValidateNested() @Type(() => BoxSetUpDto) box: BoxSetUpDto;
}

const ONLY_ROW = 1;
const FIRST_KITCHEN: Kitchen = {
  countsBy: 'line',
  floodCount: REFERENCE_SECONDS,
  eggWhite: 'dried',
  recipe: 'my icing',
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  box: { tempC: 35, airMPerS: BOX_AIR_M_PER_S },
};

@Controller('kitchen')
export class KitchenController {
  constructor(@InjectRepository(KitchenEntity) private readonly rows: Repository<KitchenEntity>) {}

  @Get()
  async get(): Promise<Kitchen> {
    return (await this.rows.findOneBy({ id: ONLY_ROW }))?.kitchen ?? FIRST_KITCHEN;
  }

  @Put()
  async keep(@Body() body: KitchenDto): Promise<Kitchen> {
    await this.rows.upsert({ id: ONLY_ROW, kitchen: body }, ['id']);
    return this.get();
  }
}
