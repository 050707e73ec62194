import 'reflect-metadata';
import { ArrayMaxSize, IsArray, IsISO8601, IsOptional, IsString, Matches, MaxLength } from 'class-validator';
import type { LearnedMinutes, SeatCheck } from '@red-ember/core';
import type { Family } from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { INITIALS, INITIALS_SENTENCE } from '../initials.ts';
import type { Photo } from '../photo.ts';

export class MountBody {
  @Matches(ID_PATTERN, { message: 'Choose the variant that is mounted.' })
  variantId!: string;

  /** Keys of the cautions the tester has confirmed. */
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  confirmed!: string[];

  @IsString()
  @MaxLength(500, { message: 'Keep the note under 500 characters.' })
  note!: string;

  /** When the first step was ticked; minutes are learnt from it. */
  @IsOptional()
  @IsISO8601({ strict: true }, { message: 'Give the time as ISO 8601.' })
  startedAt?: string;

  /** Steps that were done, and steps that were left out on purpose, by id. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @Matches(ID_PATTERN, { each: true })
  done?: string[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @Matches(ID_PATTERN, { each: true })
  skipped?: string[];

  /** Of the scratch drive, read off its label. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  serial?: string;

  /** Initials of whoever mounted it, and confirmed the cautions. */
  @IsOptional()
  @Matches(INITIALS, { message: INITIALS_SENTENCE })
  by?: string;
}

export interface Mount {
  id: string;
  studyId: string;
  variantId: string;
  /** Counts per variant, from 1. */
  number: number;
  madeAt: string;
  confirmed: string[];
  note: string;
  /** What was on the bench before; null for nothing. */
  fromVariantId: string | null;
  /** Hands on the bench, without cure and bed-in; null where nobody took the time. */
  handsMin: number | null;
  skipped: string[];
  serial: string;
  /** Initials; empty where nobody said. */
  by: string;
  photos: Photo[];
}

/** A mount among all of the bench: what it is looked for by. */
export interface MountOfBench extends Pick<
  Mount,
  'id' | 'studyId' | 'variantId' | 'number' | 'madeAt' | 'note' | 'handsMin' | 'serial' | 'by'
> {
  studyTitle: string;
  family: Family;
  /** Name of the part; '' where it has none. */
  part: string;
  variant: string;
  /** What was on the bench before; '' for nothing. */
  from: string;
  /** Steps left out on purpose. */
  skipped: number;
  photos: number;
  runs: number;
}

/** Minutes of change-over that the bench has learnt, by factor. */
export type ChangeOverHistory = Record<string, LearnedMinutes>;

/** How a mount sits, against other mounts of the same variant. */
export interface SeatReport {
  mountId: string;
  /** The run it was read from; null where there is none yet. */
  runId: string | null;
  /** Minutes of load after which it was read. */
  atMin: number;
  check: SeatCheck | null;
  /** Why there is no check. */
  sentence: string;
}
