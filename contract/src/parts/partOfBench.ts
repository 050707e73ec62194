import type { PartByItself } from '@red-ember/study';

/** A cooler, pad, paste or fan of the bench, whichever studies put it on. */
export interface PartOfBench {
  part: PartByItself;
  /** In which it is priced, three letters. */
  currency: string;
  /** The newest first. */
  studies: { id: string; title: string }[];
}
