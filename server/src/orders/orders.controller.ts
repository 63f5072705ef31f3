import type { HostChoice, OrderFileView, OrderSummary, OrderView, Page } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Query } from '@nestjs/common';
import { tellingNow } from '../platform/errors.js';
import { BagDto, ChangedOrderDto, inputOfDto, NewOrderDto, OrderListDto } from './order.dto.js';
import { OrdersService } from './orders.service.js';

@Controller('orders')
export class OrdersController {
  constructor(private readonly orders: OrdersService) {}

  /** A page of them: those still to be packed, those that are (`state=packed`), or those that were deleted (`state=trash`). */
  @Get()
  list(@Query() { state, q, page }: OrderListDto): Promise<Page<OrderSummary>> {
    return this.orders.list(state, q, page);
  }

  /** Orders whose bench another could share; `for` names that other, where it exists already. */
  @Get('hosts')
  hosts(@Query('for', new ParseUUIDPipe({ optional: true })) forId?: string): Promise<HostChoice[]> {
    return this.orders.hosts(forId ?? null);
  }

  @Get(':id')
  get(@Param('id', ParseUUIDPipe) id: string): Promise<OrderView> {
    return this.orders.getView(id);
  }

  /** The order as the planner takes it: what the page plans with beside itself. */
  @Get(':id/file')
  file(@Param('id', ParseUUIDPipe) id: string): Promise<OrderFileView> {
    return this.orders.file(id);
  }

  @Post()
  create(@Body() { id, ...body }: NewOrderDto): Promise<OrderView> {
    return this.orders.create(inputOfDto(body), id);
  }

  @Put(':id')
  update(@Param('id', ParseUUIDPipe) id: string, @Body() { basedOn, ...body }: ChangedOrderDto): Promise<OrderView> {
    return tellingNow(this.orders.update(id, inputOfDto(body), basedOn), () => this.orders.getView(id));
  }

  @Put(':id/bags')
  keepBag(@Param('id', ParseUUIDPipe) id: string, @Body() body: BagDto): Promise<OrderView> {
    return tellingNow(this.orders.keepBag(id, body), () => this.orders.getView(id));
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.orders.remove(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<OrderView> {
    return this.orders.restore(id);
  }

  @Delete(':id/for-good')
  @HttpCode(204)
  removeForGood(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.orders.removeForGood(id);
  }
}
