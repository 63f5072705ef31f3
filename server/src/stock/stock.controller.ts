import { type StockUnit, type StockUse, stockUnits } from '@kestfog/core/stock';
import type { NewStockBooking, StockItem, StockView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsUUID,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { tellingNow } from '../platform/errors.js';
import { IfGiven } from '../platform/validators.js';
import { StockService } from './stock.service.js';

/** One line of printable words. */
const ITEM = /^[^\p{Cc}]{1,80}$/u;
const ITEM_WORDS = { message: msg`$property must be a name of 1 to 80 letters` };
const MOST = 1_000_000;

class StockItemDto implements Omit<StockItem, 'revision'> {
  @Matches(ITEM, ITEM_WORDS) item: string;
  @Matches(ITEM, ITEM_WORDS) what: string;
  @IsIn(stockUnits) unit: StockUnit;
  @IsBoolean() usedUp: boolean;
  @IsNumber() @Min(0) @Max(MOST) amount: number;
  /** the one it goes on from; left out, whatever is there is changed */
  @IfGiven() @IsInt() @Min(0) @Max(2_000_000_000) revision?: number;
}
class StockUseDto implements Pick<StockUse, 'item' | 'amount'> {
  @Matches(ITEM, ITEM_WORDS) item: string;
  @IsNumber() @Min(0) @Max(MOST) amount: number;
}
class StockBookingDto implements NewStockBooking {
  @IsUUID() runId: string;
  @IsArray()
  @ArrayMaxSize(500)
  @ArrayUnique((l: Partial<StockUseDto> | null) => l?.item, { message: msg`each thing is taken off once` })
  @ValidateNested({ each: true })
  @Type(() => StockUseDto)
  lines: StockUseDto[];
}

@Controller('stock')
export class StockController {
  constructor(private readonly stock: StockService) {}

  @Get()
  get(): Promise<StockView> {
    return this.stock.kept();
  }
  @Put('things')
  async keep(@Body() { revision, ...item }: StockItemDto): Promise<StockView> {
    await tellingNow(this.stock.keep(item, revision), () => this.stock.kept());
    return this.stock.kept();
  }
  @Delete('things/:item')
  @HttpCode(204)
  async forget(@Param('item') item: string): Promise<void> {
    await this.stock.forget(item);
  }
  @Post('bookings')
  async book(@Body() { runId, lines }: StockBookingDto): Promise<StockView> {
    await this.stock.book(runId, lines);
    return this.stock.kept();
  }
  @Delete('bookings/:runId')
  @HttpCode(204)
  async putBack(@Param('runId', ParseUUIDPipe) runId: string): Promise<void> {
    await this.stock.putBack(runId);
  }
}
