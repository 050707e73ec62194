import 'reflect-metadata';
import { ArrayMaxSize, IsArray, IsString, Matches, MaxLength } from 'class-validator';
import { ID_PATTERN, type Family } from '../ids.ts';

/** A caution that the tester confirms once per mount. The product advises; the tester decides. */
export interface Caution {
  key: string;
  text: string;
}

const COMMON: Caution[] = [
  {
    key: 'power',
    text: 'The machine is switched off and unplugged. Mains wiring and the inside of power supplies are outside this product: follow local electrical codes and leave them to licensed people.',
  },
  { key: 'static', text: 'Wrist strap or bare hand on the chassis first: electrostatic discharge kills parts without a trace.' },
  { key: 'hot', text: 'Parts above 60 °C burn on touch: let them cool. Sink edges are sharp.' },
  { key: 'conductive', text: 'Nothing conductive (graphite, metal, scratched anodising) touches bare contacts.' },
];

const BY_FAMILY: Record<Family, Caution[]> = {
  drive: [
    {
      key: 'scratch',
      text: 'This is a scratch drive and its data is backed up: sustained write tests wear a drive and destroy what is on it.',
    },
    { key: 'film', text: 'Protective films are peeled off both pad faces.' },
  ],
  card: [
    { key: 'fans', text: 'Fans are clear of fingers and cables, and plugged where they were.' },
    { key: 'springs', text: 'Springs under the screws are tense: loosen crosswise, a little at a time.' },
  ],
  regulator: [{ key: 'springs', text: 'Springs under the screws are tense: loosen crosswise, a little at a time.' }],
};

export function cautionsFor(family: Family): Caution[] {
  return [...COMMON, ...BY_FAMILY[family]];
}

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
}
