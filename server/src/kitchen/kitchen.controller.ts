import { BOX_AIR_M_PER_S, type FanSetting, fanSettings } from '@kestfog/core/drying';
import { type EggWhite, REFERENCE_SECONDS } from '@kestfog/core/icing';
import type { BoxSize, Prices } from '@kestfog/core/planning';
import type { Kitchen } from '@kestfog/core/wire';
import { Body, Controller, Get, Put } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsNumber, IsString, Length, Max, Min, ValidateIf, ValidateNested } from 'class-validator';
import { Repository } from 'typeorm';
import { KitchenEntity } from './kitchen.entity.js';

const ONLY_ROW = 1;
const FIRST_KITCHEN: Kitchen = {
  countsBy: 'line',
  floodCount: REFERENCE_SECONDS,
  eggWhite: 'dried',
  recipe: 'my icing',
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  box: { tempC: 35, airMPerS: BOX_AIR_M_PER_S },
  // Nothing is known of anyone's money: until it is told, nothing is charged.
  prices: { currency: '€', handsPerHour: 0, icingPerKg: 0, cookieEach: 0, boxEach: 0 },
  packBox: { name: 'flat box', widthMm: 200, depthMm: 200, layers: 1 },
};

class FanSetUpDto {
  @IsNumber() @Min(0.1) @Max(20) distanceM: number;
  @IsIn(fanSettings) setting: FanSetting;
  @ValidateIf((f: FanSetUpDto) => f.measuredMPerS !== null) @IsNumber() @Min(0) @Max(5) measuredMPerS: number | null;
}
class BoxSetUpDto {
  @IsNumber() @Min(20) @Max(80) tempC: number;
  @IsNumber() @Min(0.1) @Max(5) airMPerS: number;
}
class PricesDto implements Prices {
  @IsString() @Length(1, 4) currency: string;
  @IsNumber() @Min(0) @Max(1000) handsPerHour: number;
  @IsNumber() @Min(0) @Max(1000) icingPerKg: number;
  @IsNumber() @Min(0) @Max(100) cookieEach: number;
  @IsNumber() @Min(0) @Max(100) boxEach: number;
}
class PackBoxDto implements BoxSize {
  @IsString() @Length(1, 40) name: string;
  @IsNumber() @Min(40) @Max(1000) widthMm: number;
  @IsNumber() @Min(40) @Max(1000) depthMm: number;
  @IsInt() @Min(1) @Max(20) layers: number;
}
class KitchenDto implements Kitchen {
  @IsIn(['line', 'ribbon', 'trail']) countsBy: Kitchen['countsBy'];
  @IsNumber() @Min(1) @Max(60) floodCount: number;
  @IsIn(['dried', 'pasteurised', 'fresh']) eggWhite: EggWhite;
  @IsString() @Length(1, 40) recipe: string;
  @ValidateNested() @Type(() => FanSetUpDto) fan: FanSetUpDto;
  @ValidateNested() @Type(() => BoxSetUpDto) box: BoxSetUpDto;
  @ValidateNested() @Type(() => PricesDto) prices: PricesDto = Object.assign(new PricesDto(), FIRST_KITCHEN.prices);
  @ValidateNested() @Type(() => PackBoxDto) packBox: PackBoxDto = Object.assign(new PackBoxDto(), FIRST_KITCHEN.packBox);
}

@Controller('kitchen')
export class KitchenController {
  constructor(@InjectRepository(KitchenEntity) private readonly rows: Repository<KitchenEntity>) {}

  @Get()
  async get(): Promise<Kitchen> {
    return { ...FIRST_KITCHEN, ...(await this.rows.findOneBy({ id: ONLY_ROW }))?.kitchen };
  }

  @Put()
  async keep(@Body() body: KitchenDto): Promise<Kitchen> {
    await this.rows.upsert({ id: ONLY_ROW, kitchen: body }, ['id']);
    return this.get();
  }
}
