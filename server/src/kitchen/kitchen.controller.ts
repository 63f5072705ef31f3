import { type FanSetting, fanSettings, type Margin, margins } from '@kestfog/core/drying';
import { MOST_DECORATORS } from '@kestfog/core/formats';
import type { EggWhite, OwnRecipe } from '@kestfog/core/icing';
import { type AllergenId, allergenIds, type KnownAllergens } from '@kestfog/core/labelling';
import type { CartonSize, Prices } from '@kestfog/core/planning';
import { MOST_TIPS, OPENING_MM, type Tip, type TipShape, tipShapes } from '@kestfog/core/steps';
import type { Kitchen, KitchenView, OrderAir } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Get, Put } from '@nestjs/common';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  arrayUnique,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  isIn,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateBy,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { DecoratorDto, DehydratorDto, FanDto, TrayDto } from '../orders/order.dto.js';
import { tellingNow } from '../platform/errors.js';
import { IfGiven, Part } from '../platform/validators.js';
import { KitchenService } from './kitchen.service.js';

class FanSetUpDto {
  @IsNumber() @Min(0.1) @Max(20) distanceM: number;
  @IsIn(fanSettings) setting: FanSetting;
  @ValidateIf((f: FanSetUpDto) => f.measuredMPerS !== null) @IsNumber() @Min(0) @Max(5) measuredMPerS: number | null;
}
class DehydratorSetUpDto {
  @IsNumber() @Min(20) @Max(80) tempC: number;
  @IsNumber() @Min(0.1) @Max(5) airMPerS: number;
}
class PricesDto implements Prices {
  @IsString() @Length(1, 4) currency: string;
  @IsNumber() @Min(0) @Max(1000) handsPerHour: number;
  @IsNumber() @Min(0) @Max(1000) icingPerKg: number;
  @IsNumber() @Min(0) @Max(100) cookieEach: number;
  @IsNumber() @Min(0) @Max(100) cartonEach: number;
}
class CartonDto implements CartonSize {
  @IsString() @Length(1, 40) name: string;
  @IsNumber() @Min(40) @Max(1000) widthMm: number;
  @IsNumber() @Min(40) @Max(1000) depthMm: number;
  @IsInt() @Min(1) @Max(20) layers: number;
}
class MixDto implements OwnRecipe {
  @IsNumber() @Min(1) @Max(20_000) sugarG: number;
  @IsIn(['dried', 'pasteurised', 'fresh']) egg: EggWhite;
  @IsNumber() @Min(0) @Max(5000) eggG: number;
  @IsNumber() @Min(0) @Max(5000) waterG: number;
  @IsNumber() @Min(0) @Max(1000) lemonG: number;
  @IsString() @Length(0, 300) mixing: string;
}
class UsualAirDto implements OrderAir {
  @IsNumber() @Min(5) @Max(45) tempC: number;
  @IsNumber() @Min(1) @Max(100) humidityPct: number;
  @IsNumber() @Min(0) @Max(5) airMPerS: number;
}
class TipDto implements Tip {
  @IsString() @Length(1, 40) name: string;
  @IsIn(tipShapes) shape: TipShape;
  @IsNumber() @Min(OPENING_MM[0]) @Max(OPENING_MM[1]) openingMm: number;
}
const MOST_NAMES = 300;
/** Names by colour: "#rrggbb", and one to forty letters each. */
const IsColourNames = () =>
  ValidateBy({
    name: 'isColourNames',
    validator: {
      validate: (value: unknown) =>
        typeof value === 'object' &&
        value !== null &&
        !Array.isArray(value) &&
        Object.keys(value).length <= MOST_NAMES &&
        Object.entries(value).every(
          ([c, n]) => /^#[0-9a-f]{6}$/.test(c) && typeof n === 'string' && n.trim().length >= 1 && n.length <= 40,
        ),
      defaultMessage: () => msg`$property must give colours like #f6f3ea names of 1 to 40 letters, at most ${MOST_NAMES}`,
    },
  });
const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$/;
/** Seven days from Monday: from and to on the clock, the later after the earlier, or null for a day off. */
const IsWeek = () =>
  ValidateBy({
    name: 'isWeek',
    validator: {
      validate: (value: unknown) =>
        Array.isArray(value) &&
        value.length === 7 &&
        value.every((day: unknown) => {
          if (day === null) return true;
          const { from, to, ...more } = Object(day) as Record<string, unknown>;
          return (
            typeof from === 'string' &&
            typeof to === 'string' &&
            CLOCK.test(from) &&
            CLOCK.test(to) &&
            from < to &&
            Object.keys(more).length === 0
          );
        }),
      defaultMessage: () =>
        msg`$property must be seven days from Monday, each from an earlier to a later time like 14:00, or null for a day off`,
    },
  });
/** What a page that knows less leaves out stays as it was; null is no such thing. */
const KeptIfLeftOut = () => ValidateIf((_kitchen, value) => value !== undefined);

const MOST_LAID_ON = 500;
/** Lists of allergens by what they are in. */
const IsByItem = () =>
  ValidateBy({
    name: 'isByItem',
    validator: {
      validate: (value: unknown) =>
        typeof value === 'object' &&
        value !== null &&
        !Array.isArray(value) &&
        Object.keys(value).length <= MOST_LAID_ON &&
        Object.entries(value).every(
          ([item, ids]) => item.length <= 100 && Array.isArray(ids) && arrayUnique(ids) && ids.every((id) => isIn(id, allergenIds)),
        ),
      defaultMessage: () => msg`$property must give things lists of ${allergenIds.join(', ')}, each once, at most ${MOST_LAID_ON} things`,
    },
  });
class AllergensDto implements KnownAllergens {
  @ValidateIf((a: AllergensDto) => a.cookie !== null) @IsArray() @ArrayUnique() @IsIn(allergenIds, { each: true }) cookie:
    | AllergenId[]
    | null;
  @IsByItem() laidOn: Record<string, AllergenId[]>;
  @ValidateIf((a: AllergensDto) => a.traces !== null) @IsArray() @ArrayUnique() @IsIn(allergenIds, { each: true }) traces:
    | AllergenId[]
    | null;
}

/** One shape for all; what an order would refuse is refused as one is made with it. */
class UsualBenchDto {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(60)
  @ArrayUnique((t: TrayDto | null) => t?.id)
  @ValidateNested({ each: true })
  @Type(() => TrayDto)
  trays: TrayDto[];
  @IsNumber() @Min(0) @Max(60) handGapMm: number;
  @IsOptional() @Part(() => FanDto) fan: FanDto | null;
  @IsOptional() @Part(() => DehydratorDto) dehydrator: DehydratorDto | null;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_DECORATORS)
  @ArrayUnique((d: DecoratorDto | null) => d?.id)
  @ValidateNested({ each: true })
  @Type(() => DecoratorDto)
  decorators: DecoratorDto[];
  @IsOptional() @IsInt() @Min(1) @Max(60) openBags: number | null;
  @IsString() @Length(1, 60) school: string;
  @IsIn(margins) margin: Margin;
}
class KitchenDto implements Partial<Omit<Kitchen, 'usual'>> {
  @KeptIfLeftOut() @IsIn(['line', 'ribbon', 'trail']) countsBy?: Kitchen['countsBy'];
  @KeptIfLeftOut() @IsNumber() @Min(1) @Max(60) floodCount?: number;
  @KeptIfLeftOut() @IsIn(['dried', 'pasteurised', 'fresh']) eggWhite?: EggWhite;
  @KeptIfLeftOut() @IsString() @Length(1, 40) recipe?: string;
  @IsOptional() @Part(() => MixDto) mix?: MixDto | null;
  @KeptIfLeftOut() @Part(() => UsualAirDto) air?: UsualAirDto;
  @KeptIfLeftOut()
  @IsArray()
  @ArrayMaxSize(MOST_TIPS)
  @ArrayUnique((t: Partial<TipDto> | null) => String(t?.name).trim().toLowerCase(), {
    message: msg`tips must have a name of their own each`,
  })
  @ValidateNested({ each: true })
  @Type(() => TipDto)
  tips?: TipDto[];
  @KeptIfLeftOut() @Part(() => FanSetUpDto) fan?: FanSetUpDto;
  @KeptIfLeftOut() @Part(() => DehydratorSetUpDto) dehydrator?: DehydratorSetUpDto;
  @KeptIfLeftOut() @Part(() => PricesDto) prices?: PricesDto;
  @KeptIfLeftOut() @Part(() => CartonDto) carton?: CartonDto;
  @IsOptional() @Part(() => UsualBenchDto) usual?: UsualBenchDto | null;
  @IsOptional() @IsWeek() week?: Kitchen['week'];
  @KeptIfLeftOut() @IsColourNames() colourNames?: Record<string, string>;
  @KeptIfLeftOut() @IsString() @MaxLength(400) bakedOf?: string;
  @KeptIfLeftOut() @Part(() => AllergensDto) allergens?: AllergensDto;
  @KeptIfLeftOut() @IsString() @MaxLength(200) taxLine?: string;
  /** the one the change goes on from; left out, whatever is there is changed */
  @IfGiven() @IsInt() @Min(0) @Max(2_000_000_000) revision?: number;
}

@Controller('kitchen')
export class KitchenController {
  constructor(private readonly kitchen: KitchenService) {}

  @Get()
  get(): Promise<KitchenView> {
    return this.kitchen.kept();
  }

  @Put()
  keep(@Body() { revision, ...kitchen }: KitchenDto): Promise<KitchenView> {
    return tellingNow(this.kitchen.keep(kitchen as Partial<Kitchen>, revision), () => this.kitchen.kept());
  }
}
