import { type RunEvent, runEventTypes } from '@kestfog/core';
import { Type } from 'class-transformer';
import { IsDefined, IsIn, IsInt, IsNumber, IsObject, IsOptional, IsString, IsUUID, Max, MaxLength, Min, ValidateNested } from 'class-validator';

class EventDataDto {
  @IsOptional() @IsString() @MaxLength(200) taskId?: string;
  @IsOptional() @IsUUID() eventId?: string;
  @IsOptional() @IsInt() @Min(0) baseSeq?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(1e9) untilS?: number;
  /** by task; each is looked at one by one */
  @IsOptional() @IsObject() starts?: Record<string, unknown>;
}
export class RunEventDto {
  @IsUUID() id: string;
  @IsUUID() deviceId: string;
  @IsInt() @Min(1) @Max(2_000_000) deviceSeq: number;
  @IsInt() @Min(0) @Max(8.64e15) atMs: number;
  @IsIn(runEventTypes) type: RunEvent['type'];
  @IsDefined() @ValidateNested() @Type(() => EventDataDto) data: EventDataDto;
}
