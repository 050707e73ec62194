import { Type } from 'class-transformer';
import { IsDefined, Matches, ValidateNested } from 'class-validator';
import type { PartByItself } from '@red-ember/study';
import type { Photo } from '../photo.ts';
import { FittedPartBody } from '../studies/fitting.ts';

/** A part that is written down on the bench itself. */
export class KeptPartBody {
  /** What a study alone says of it (to which variants it belongs, how many, where on the map) is not kept. */
  @IsDefined({ message: 'Say which part it is.' })
  @ValidateNested()
  @Type(() => FittedPartBody)
  part!: FittedPartBody;

  /** In which it is priced. */
  @Matches(/^[A-Z]{3}$/, { message: 'Give the currency as three letters, such as EUR.' })
  currency!: string;
}

export interface KeptPart {
  id: string;
  version: number;
  /** The oldest first. */
  photos: Photo[];
}

/** A cooler, pad, paste or fan of the bench, whichever studies put it on. */
export interface PartOfBench {
  part: PartByItself;
  /** In which it is priced, three letters. */
  currency: string;
  /** The newest first. */
  studies: { id: string; title: string }[];
  /** Where it is written down on the bench itself; null where studies alone speak of it. */
  kept: KeptPart | null;
}
