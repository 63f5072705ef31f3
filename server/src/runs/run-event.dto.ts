import {
  type CookieOutcome,
  cookieOutcomes,
  type EarlierEvent,
  earlierEventTypes,
  type RunEvent,
  runEventTypes,
  type ShutChoice,
  shutChoices,
} from '@kestfog/core/bench';
import { type DryingState, dryingStates, type Finding, findings, type SurfaceState, surfaceStates } from '@kestfog/core/drying';
import { type DefectId, defectIds } from '@kestfog/core/steps';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsBoolean,
  IsHexColor,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { EARLIEST_MS, LATEST_MS, Part } from '../platform/validators.js';

/** Everything an event may carry; which of it a type needs is looked at type by type. */
export class EventDataDto {
  @IsOptional() @IsString() @MaxLength(200) taskId?: string;
  @IsOptional() @IsString() @MaxLength(200) insteadOf?: string;
  @IsOptional() @IsUUID() eventId?: string;
  @IsOptional() @IsInt() @Min(0) baseSeq?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(1e9) untilS?: number;
  /** by task; each is looked at one by one */
  @IsOptional() @IsObject() starts?: Record<string, unknown>;
  @IsOptional() @IsInt() @Min(0) @Max(999) cookie?: number | null;
  @IsOptional() @IsIn(dryingStates) state?: DryingState | null;
  @IsOptional() @IsIn(findings) found?: Finding;
  @IsOptional()
  @IsInt({ each: true })
  @Min(0, { each: true })
  @Max(999, { each: true })
  @ArrayNotEmpty()
  @ArrayMaxSize(200)
  cookies?: number[];
  @IsOptional() @IsIn(shutChoices) choice?: ShutChoice;
  @IsOptional() @IsHexColor() colour?: string;
  @IsOptional() @IsNumber() @Min(1) @Max(240) seconds?: number;
  @IsOptional() @IsNumber() @Min(1.5) @Max(120) countedS?: number;
  @IsOptional() @IsString() @MaxLength(200) lotId?: string;
  @IsOptional() @IsString() @MaxLength(200) part?: string | null;
  @IsOptional() @IsIn(defectIds) seen?: DefectId;
  @IsOptional() @IsIn(surfaceStates) surface?: SurfaceState;
  @IsOptional() @IsIn(cookieOutcomes) outcome?: CookieOutcome;
  @IsOptional() @IsString() @Length(1, 12) trayId?: string;
  /** a page that was open before an update says `box` */
  @IsOptional() @IsIn(['fan', 'dehydrator', 'box']) where?: 'fan' | 'dehydrator' | 'box';
  @IsOptional() @IsNumber() @Min(1) @Max(240) minutes?: number;
  @IsOptional() @IsBoolean() out?: boolean;
  @IsOptional() @IsInt() @Min(0) @Max(999) sharps?: number;
  @IsOptional() @IsInt() @Min(0) @Max(999) offcuts?: number;
  @IsOptional() @IsNumber() @Min(-5) @Max(50) tempC?: number;
  @IsOptional() @IsNumber() @Min(0) @Max(100) humidityPct?: number;
}
export class RunEventDto {
  @IsUUID() id: string;
  @IsUUID() deviceId: string;
  @IsInt() @Min(1) @Max(2_000_000) deviceSeq: number;
  @IsInt() @Min(EARLIEST_MS) @Max(LATEST_MS) atMs: number;
  @IsIn([...runEventTypes, ...earlierEventTypes]) type: (RunEvent | EarlierEvent)['type'];
  @Part(() => EventDataDto) data: EventDataDto;
}
