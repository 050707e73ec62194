import 'reflect-metadata';
import { IsInt, Max, Min } from 'class-validator';

/** Asks a rig to show that its load goes off. */
export class RehearsalBody {
  /** The load that is put on and taken off again: little, but enough to be seen. */
  @IsInt({ message: 'Type a load in whole percent.' })
  @Min(5, { message: 'Less than 5 % cannot be told from idle.' })
  @Max(100, { message: 'A load is 100 % at most.' })
  loadPercent!: number;
}

export type RehearsalKey = 'stop' | 'lost-server' | 'cut-out';

/** One way in which a load goes off, tried. */
export interface RehearsalStep {
  key: RehearsalKey;
  ok: boolean;
  /** From the moment at which it should begin to go off until the rig reported none, s; null where it did not. */
  offAfterS: number | null;
  /** The longest that was allowed, s. */
  withinS: number;
  sentence: string;
}

export interface Rehearsal {
  id: string;
  rigId: string;
  rigName: string;
  /** When it began, ISO. */
  at: string;
  loadPercent: number;
  /** What is tried now; null once it is over. */
  trying: RehearsalKey | null;
  /** Why it was not brought to its end; empty where it was. */
  brokenOff: string;
  steps: RehearsalStep[];
}
