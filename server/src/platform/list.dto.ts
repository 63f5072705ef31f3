import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';

/** Which part of a list, and what is looked for. */
export class ListDto {
  @IsOptional() @IsString() @MaxLength(80) q = '';
  @IsOptional() @Type(() => Number) @IsInt() @Min(0) @Max(10_000) page = 0;
}
