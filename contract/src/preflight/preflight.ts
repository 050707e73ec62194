import 'reflect-metadata';
import type { PreflightCheck } from '@red-ember/core';
import { ArrayMaxSize, IsArray, IsOptional, IsString, Matches, MaxLength } from 'class-validator';
import { ID_PATTERN } from '../ids.ts';

/** Asks for a look at the bench before a run. */
export class PreflightBody {
  @Matches(ID_PATTERN, { message: 'Choose the mount to run.' })
  mountId!: string;

  /** Rig to look at; the first free one where nothing is said. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  rigId?: string;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(40)
  @IsString({ each: true })
  confirmedLocks?: string[];

  /** Faults to plant in a simulated bench. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  faults?: string[];
}

/** What was seen; give its id when the run is started. */
export interface PreflightReport {
  id: string;
  rigId: string;
  checks: PreflightCheck[];
  /** Every check is fine, or could not be seen. */
  clear: boolean;
}

/** What stands with the run: the list as it was, and why it was started all the same. */
export interface PreflightRecord {
  checks: PreflightCheck[];
  overrideReason: string;
}
