import { type Margin, margins } from '@kestfog/core/drying';
import { type Decorator, HAND_GAP_MM, MOST_DECORATORS } from '@kestfog/core/formats';
import type { BagRecord, OrderAir, OrderDehydrator, OrderFan, OrderInput, PinInput } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsInt,
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
import { ListDto } from '../platform/list.dto.js';
import { IfGiven, IsMoment, Part } from '../platform/validators.js';
import { type OrderState, orderStates } from './order-states.js';

class CountedDesignDto {
  @IsUUID() designId: string;
  @IsInt() @Min(1) @Max(500) count: number;
  @IsInt() @Min(0) @Max(200) spares = 0;
  @IfGiven() @IsInt() @Min(1) @Max(100_000) version?: number;
}
/** Either counted out in places, or by its inner size; the order format says which is missing. */
export class TrayDto {
  @IsString() @Length(1, 12) id: string;
  @IfGiven() @IsInt() @Min(1) @Max(200) places?: number;
  @IfGiven() @IsNumber() @Min(50) @Max(2000) widthMm?: number;
  @IfGiven() @IsNumber() @Min(50) @Max(2000) depthMm?: number;
}
export class DehydratorDto implements OrderDehydrator {
  @IsInt() @Min(1) @Max(20) places: number;
  @IsNumber() @Min(20) @Max(80) tempC: number;
  @IsNumber() @Min(0.1) @Max(5) airMPerS: number;
}
export class DecoratorDto implements Decorator {
  @IsString() @Length(1, 40) id: string;
  @IsNumber() @Min(0.3) @Max(3) pace: number;
}
/** One shape for all kinds; the order format says what is missing or too much. */
class PinDto {
  @IsIn(['tray-first', 'not-before', 'stay', 'away']) kind: PinInput['kind'];
  @IfGiven() @IsString() @Length(1, 12) tray?: string;
  @IfGiven() @IsInt() @Min(1) @Max(40) round?: number;
  @IfGiven() @IsIn(['fan', 'dehydrator']) where?: 'fan' | 'dehydrator';
  @IfGiven() @IsNumber() @Min(1) @Max(240) minutes?: number;
  @IfGiven() @IsMoment() at?: string;
  @IfGiven() @IsMoment() from?: string;
  @IfGiven() @IsMoment() to?: string;
  @IfGiven() @IsString() @Length(0, 60) label?: string;
  @IsOptional() @IsString() @Length(1, 40) who?: string | null;
}
class OpeningDto {
  @IsMoment() from: string;
  @IsMoment() to: string;
}
class AirDto implements OrderAir {
  @IsNumber() @Min(5) @Max(45) tempC: number;
  @IsNumber() @Min(1) @Max(100) humidityPct: number;
  @IsNumber() @Min(0) @Max(5) airMPerS: number;
}
export class FanDto implements OrderFan {
  @IsInt() @Min(1) @Max(20) places: number;
  @IsNumber() @Min(0.1) @Max(5) airMPerS: number;
}
class MergeDto {
  @Matches(/^#[0-9a-f]{6}$/, { message: msg`from must be like #f6f3ea` }) from: string;
  @Matches(/^#[0-9a-f]{6}$/, { message: msg`to must be like #f6f3ea` }) to: string;
}
export class BagDto implements BagRecord {
  @Matches(/^#[0-9a-f]{6}$/, { message: msg`colour must be like #f6f3ea` }) colour: string;
  @IsNumber() @Min(1.5) @Max(120) seconds: number;
  @ValidateIf((b: BagDto) => b.mixedG !== null) @IsNumber() @Min(0) @Max(20_000) mixedG: number | null;
  @ValidateIf((b: BagDto) => b.countedS !== null) @IsNumber() @Min(1.5) @Max(120) countedS: number | null;
  @ValidateIf((b: BagDto) => b.word !== null) @IsString() @Length(1, 40) word: string | null;
  /** the one it goes on from; left out, whatever is there is changed */
  @IfGiven() @IsInt() @Min(0) @Max(2_000_000_000) revision?: number;
}
export class OrderDto {
  @IsString() @Length(1, 80) name: string;
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(40) @ValidateNested({ each: true }) @Type(() => CountedDesignDto) designs: CountedDesignDto[];
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(60)
  @ArrayUnique((t: TrayDto | null) => t?.id)
  @ValidateNested({ each: true })
  @Type(() => TrayDto)
  trays: TrayDto[];
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(60) @ValidateNested({ each: true }) @Type(() => OpeningDto) openingHours: OpeningDto[];
  @Part(() => AirDto) air: AirDto;
  @IsOptional() @Part(() => FanDto) fan: FanDto | null;
  @IsOptional() @Part(() => DehydratorDto) dehydrator: DehydratorDto | null = null;
  @IsNumber() @Min(0) @Max(60) handGapMm: number = HAND_GAP_MM;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_DECORATORS)
  @ArrayUnique((d: DecoratorDto | null) => d?.id)
  @ValidateNested({ each: true })
  @Type(() => DecoratorDto)
  decorators: DecoratorDto[] = [Object.assign(new DecoratorDto(), { id: 'me', pace: 1 })];
  @IsOptional() @IsInt() @Min(1) @Max(60) openBags: number | null = null;
  @IsArray() @ArrayMaxSize(60) @ValidateNested({ each: true }) @Type(() => PinDto) pins: PinDto[] = [];
  @IsString() @Length(0, 2000) notes = '';
  @IsOptional() @IsUUID() hostId: string | null = null;
  @IsOptional() @IsUUID() transfersForId: string | null = null;
  @IsString() @Length(1, 60) school: string;
  @IsIn(margins) margin: Margin;
  @IsMoment() packBy: string;
  @IsArray() @ArrayMaxSize(40) @ValidateNested({ each: true }) @Type(() => MergeDto) merges: MergeDto[] = [];
}

/** A new one, which the device that makes it may have named. */
export class NewOrderDto extends OrderDto {
  @IfGiven() @IsUUID() id?: string;
}
export class ChangedOrderDto extends OrderDto {
  /** revision the change goes on from; left out, whatever is there is changed */
  @IfGiven() @IsInt() @Min(1) @Max(2_000_000_000) basedOn?: number;
}
export class OrderListDto extends ListDto {
  @IsIn(orderStates) state: OrderState = 'open';
}

/** What the order format checks once more, piece by piece, is taken as it came. */
export const inputOfDto = (d: Omit<OrderDto, never>): OrderInput => d as unknown as OrderInput;
