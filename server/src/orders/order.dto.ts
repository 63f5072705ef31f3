import { type BagRecord, type Margin, margins, type OrderAir, type OrderFan, type OrderInput } from '@kestfog/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsInt,
  IsISO8601,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';

class CountedDesignDto {
  @IsUUID() designId: string;
  @IsInt() @Min(1) @Max(500) count: number;
  @IsOptional() @IsInt() @Min(1) @Max(100_000) version?: number;
}
class TrayDto {
  @IsString() @Length(1, 12) id: string;
  @IsInt() @Min(1) @Max(200) places: number;
}
class OpeningDto {
  @IsISO8601({ strict: true, strictSeparator: true }) from: string;
  @IsISO8601({ strict: true, strictSeparator: true }) to: string;
}
class AirDto implements OrderAir {
  @IsNumber() @Min(5) @Max(45) tempC: number;
  @IsNumber() @Min(1) @Max(100) humidityPct: number;
  @IsNumber() @Min(0) @Max(5) airMPerS: number;
}
class FanDto implements OrderFan {
  @IsInt() @Min(1) @Max(20) places: number;
  @IsNumber() @Min(0.1) @Max(5) airMPerS: number;
}
class MergeDto {
  @Matches(/^#[0-9a-f]{6}$/, { message: 'from must be like #f6f3ea' }) from: string;
  @Matches(/^#[0-9a-f]{6}$/, { message: 'to must be like #f6f3ea' }) to: string;
}
export class BagDto implements BagRecord {
  @Matches(/^#[0-9a-f]{6}$/, { message: 'colour must be like #f6f3ea' }) colour: string;
  @IsNumber() @Min(1.5) @Max(120) seconds: number;
  @ValidateIf((b: BagDto) => b.mixedG !== null) @IsNumber() @Min(0) @Max(20_000) mixedG: number | null;
  @ValidateIf((b: BagDto) => b.countedS !== null) @IsNumber() @Min(1.5) @Max(120) countedS: number | null;
  @ValidateIf((b: BagDto) => b.word !== null) @IsString() @Length(1, 40) word: string | null;
}
export class OrderDto implements OrderInput {
  @IsString() @Length(1, 80) name: string;
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(40) @ValidateNested({ each: true }) @Type(() => CountedDesignDto) designs: CountedDesignDto[];
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(60) @ArrayUnique((t: TrayDto) => t.id) @ValidateNested({ each: true }) @Type(() => TrayDto) trays: TrayDto[];
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(60) @ValidateNested({ each: true }) @Type(() => OpeningDto) bench: OpeningDto[];
  @ValidateNested() @Type(() => AirDto) air: AirDto;
  @IsOptional() @ValidateNested() @Type(() => FanDto) fan: FanDto | null;
  @IsString() @Length(1, 60) school: string;
  @IsIn(margins) margin: Margin;
  @IsISO8601({ strict: true, strictSeparator: true }) packBy: string;
  @IsArray() @ArrayMaxSize(40) @ValidateNested({ each: true }) @Type(() => MergeDto) merges: MergeDto[] = [];
}
