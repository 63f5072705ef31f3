import { type DryingState, dryingStates } from '@kestfog/core/drying';
import type { BenchTouchView, NewThinningStep, NewTouch, PacesView, ThinningStepView, TouchView } from '@kestfog/core/wire';
import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { IsBoolean, IsIn, IsNumber, IsString, Length, Max, Min, ValidateIf } from 'class-validator';
import { NamedDto } from '../platform/once.js';
import { CalibrationService } from './calibration.service.js';

class ThinningStepDto extends NamedDto implements NewThinningStep {
  @IsString() @Length(1, 40) recipe: string;
  @IsNumber() @Min(1) @Max(20_000) grams: number;
  @IsNumber() @Min(0.05) @Max(2000) addedG: number;
  @IsNumber() @Min(1.5) @Max(120) fromS: number;
  @IsNumber() @Min(1.5) @Max(120) toS: number;
}
class TouchDto extends NamedDto implements NewTouch {
  @IsIn(dryingStates) state: DryingState;
  @IsNumber() @Min(1.5) @Max(120) seconds: number;
  @IsNumber() @Min(0.3) @Max(10) depthMm: number;
  @IsIn(['cookie', 'parchment']) on: 'cookie' | 'parchment';
  @IsNumber() @Min(5) @Max(45) tempC: number;
  @IsNumber() @Min(1) @Max(100) humidityPct: number;
  @IsNumber() @Min(0) @Max(5) airMPerS: number;
  @ValidateIf((t: TouchDto) => t.notYetMin !== null) @IsNumber() @Min(0.1) @Max(4320) notYetMin: number | null;
  @ValidateIf((t: TouchDto) => t.reachedMin !== null) @IsNumber() @Min(0.1) @Max(4320) reachedMin: number | null;
}
class LeaveOutDto {
  @IsBoolean() leftOut: boolean;
}

@Controller()
export class CalibrationController {
  constructor(private readonly calibration: CalibrationService) {}

  @Get('thinning-steps')
  steps(): Promise<ThinningStepView[]> {
    return this.calibration.listSteps();
  }
  @Post('thinning-steps')
  addStep(@Body() body: ThinningStepDto): Promise<ThinningStepView> {
    return this.calibration.addStep(body);
  }
  @Delete('thinning-steps/:id')
  @HttpCode(204)
  removeStep(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.calibration.removeStep(id);
  }
  @Post('thinning-steps/:id/restore')
  @HttpCode(204)
  restoreStep(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.calibration.restoreStep(id);
  }

  @Get('bench-touches')
  benchTouches(): Promise<BenchTouchView[]> {
    return this.calibration.listBenchTouches();
  }

  /** How quick each pair of hands is, by kind of motion. */
  @Get('paces')
  async paces(): Promise<PacesView> {
    return Object.fromEntries(await this.calibration.paces());
  }

  @Put('bench-touches/:runId')
  @HttpCode(204)
  leaveOut(@Param('runId', ParseUUIDPipe) runId: string, @Body() body: LeaveOutDto): Promise<void> {
    return this.calibration.leaveOut(runId, body.leftOut);
  }

  @Get('touches')
  touches(): Promise<TouchView[]> {
    return this.calibration.listTouches();
  }
  @Post('touches')
  addTouch(@Body() body: TouchDto): Promise<TouchView> {
    return this.calibration.addTouch(body);
  }
  @Delete('touches/:id')
  @HttpCode(204)
  removeTouch(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.calibration.removeTouch(id);
  }
  @Post('touches/:id/restore')
  @HttpCode(204)
  restoreTouch(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.calibration.restoreTouch(id);
  }
}
