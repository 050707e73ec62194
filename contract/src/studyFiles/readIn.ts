import type { MovedResult } from '../history/history.ts';

/** A study that came out of a file, and what this bench makes of it. */
export interface StudyReadIn {
  studyId: string;
  title: string;
  runs: number;
  /** When the file was written, ISO; empty where it does not say. */
  written: string;
  /** Both benches work readings out in the same way. */
  sameMethod: boolean;
  /** Spots that both judge. */
  compared: number;
  /** Where this bench comes to something else than the one that wrote the file. */
  moved: MovedResult[];
  /** What the study that the file was made of is called here; null where it is not here. */
  alreadyHere: string | null;
}
