import type { OrderFileView, OrderView } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { BagDto, inputOfDto, OrderDto } from './order.dto.js';
import { OrdersService } from './orders.service.js';

@Controller('orders')
export class OrdersController {
  constructor(private readonly orders: OrdersService) {}

  @Get()
  list(): Promise<OrderView[]> {
    return this.orders.list();
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
  create(@Body() body: OrderDto): Promise<OrderView> {
    return this.orders.create(inputOfDto(body));
  }

  @Put(':id')
  update(@Param('id', ParseUUIDPipe) id: string, @Body() body: OrderDto): Promise<OrderView> {
    return this.orders.update(id, inputOfDto(body));
  }

  @Put(':id/bags')
  keepBag(@Param('id', ParseUUIDPipe) id: string, @Body() body: BagDto): Promise<OrderView> {
    return this.orders.keepBag(id, body);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.orders.remove(id);
  }
}
