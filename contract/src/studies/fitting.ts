import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { pasteLayer, type ListedPart } from '@red-ember/core';
import { ID_PATTERN } from '../ids.ts';
import { number } from '../validation/words.ts';
import { LevelChoiceBody } from './plan.ts';

/** What a part or a step belongs to: a level of a factor, one variant, or every variant (neither). */
class BelongingBody {
  @ValidateIf((item: BelongingBody) => item.level !== null)
  @ValidateNested()
  @Type(() => LevelChoiceBody)
  level!: LevelChoiceBody | null;

  @ValidateIf((item: BelongingBody) => item.variantId !== null)
  @Matches(ID_PATTERN)
  variantId!: string | null;
}

export const PART_KINDS = ['cooler', 'sink', 'cover', 'pad', 'paste', 'fan', 'fixing', 'other'] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** What a pad is cut to, millimetres. */
export class PadCutBody {
  @IsNumber({}, number('The width'))
  @Min(1, { message: 'A pad is at least 1 mm wide.' })
  @Max(500)
  widthMm!: number;

  @IsNumber({}, number('The length'))
  @Min(1, { message: 'A pad is at least 1 mm long.' })
  @Max(500)
  heightMm!: number;

  @IsNumber({}, number('The thickness'))
  @Min(0.05, { message: 'A pad is at least 0.05 mm thick.' })
  @Max(20, { message: 'A pad above 20 mm is more likely a slip.' })
  thickMm!: number;
}

/** A paste on a bare die, or under a lid. */
export class PasteBody {
  @IsNumber({}, number('The area'))
  @Min(1, { message: 'An area is in mm² and above 1.' })
  @Max(10_000, { message: 'A die or lid above 100 cm² is more likely a slip.' })
  areaMm2!: number;

  @IsNumber({}, number('The bond line'))
  @Min(0.005, { message: 'A bond line is in millimetres and above 0.005.' })
  @Max(1, { message: 'A bond line above 1 mm is no paste.' })
  bondLineMm!: number;

  @IsNumber({}, number('The density'))
  @Min(0.5, { message: 'Density is in g/cm³ and above 0.5.' })
  @Max(20)
  densityGPerCm3!: number;

  /** What takes it off. */
  @IsString()
  @MaxLength(80)
  remover!: string;

  @IsNumber({}, number('The drying time'))
  @Min(0, { message: 'Drying cannot take less than no time.' })
  @Max(1440)
  dryMin!: number;

  /** Through the joint under load; without it nothing is said of how well pastes can be told apart. */
  @IsOptional()
  @IsNumber({}, number('The heat'))
  @Min(0, { message: 'Heat cannot be negative.' })
  @Max(2000, { message: 'Heat above 2000 W is beyond this bench.' })
  heatW?: number;
}

/** Something that is put on: a cooler, a pad, a tube of paste. */
export class FittedPartBody extends BelongingBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the part, such as comb sink.' })
  name!: string;

  @IsIn([...PART_KINDS], { message: 'Choose the kind of part.' })
  kind!: PartKind;

  /** Pieces on one mount. */
  @IsInt({ message: 'Pieces are a whole number.' })
  @Min(1, { message: 'At least one piece.' })
  @Max(100, { message: 'More than 100 pieces are more likely a slip.' })
  quantity!: number;

  /** Comes off whole and goes on again. */
  @IsBoolean()
  reusable!: boolean;

  /** For one piece; of paste, for one gram. */
  @IsNumber({}, number('The price'))
  @Min(0, { message: 'A price cannot be negative.' })
  @Max(1_000_000)
  price!: number;

  @IsNumber({}, number('The weight'))
  @Min(0, { message: 'A weight cannot be negative.' })
  @Max(20_000, { message: 'Above 20 kg is more likely a slip.' })
  weightG!: number;

  /** Sound level it adds by itself at the seat, dB(A); null where it makes none or nobody measured. */
  @ValidateIf((part: FittedPartBody) => part.noiseDb !== null)
  @IsNumber({}, number('The sound level'))
  @Min(0)
  @Max(120)
  noiseDb!: number | null;

  /** Conducts electricity: what is around it is masked. */
  @IsBoolean()
  conductive!: boolean;

  /** Holds liquid: tested for leaks before power. */
  @IsBoolean()
  liquid!: boolean;

  /** The cover on the board map that it is; empty where it is on none. */
  @Matches(/^$|^[\w-]{1,64}$/, { message: 'Choose a cover of the board map, or none.' })
  coverId!: string;

  @ValidateIf((part: FittedPartBody) => part.pad !== null)
  @ValidateNested()
  @Type(() => PadCutBody)
  pad!: PadCutBody | null;

  @ValidateIf((part: FittedPartBody) => part.paste !== null)
  @ValidateNested()
  @Type(() => PasteBody)
  paste!: PasteBody | null;
}

/** What can hurt at a step. The product advises; the tester decides. */
export const STEP_CAUTIONS = ['', 'springs', 'sharp', 'fans', 'film', 'solvent', 'conductive', 'leak', 'hot'] as const;
export type StepCaution = (typeof STEP_CAUTIONS)[number];

/** One thing that hands do when a variant is taken off or put on. */
export class MountStepBody extends BelongingBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsIn(['off', 'on'], { message: 'Choose taking off or putting on.' })
  when!: 'off' | 'on';

  @IsString()
  @Length(1, 240, { message: 'Say in a line what is done.' })
  text!: string;

  @IsIn([...STEP_CAUTIONS], { message: 'Choose a caution, or none.' })
  caution!: StepCaution;

  /** Cure, bed-in or drying after it, minutes. */
  @IsNumber({}, number('The waiting time'))
  @Min(0, { message: 'Waiting cannot take less than no time.' })
  @Max(20_160, { message: 'Waiting above two weeks is more likely a slip.' })
  waitMin!: number;

  /** The cover whose screws are worked; empty where there are none. */
  @Matches(/^$|^[\w-]{1,64}$/)
  screwsOf!: string;

  /** Which header the plug goes to, and which sensor that header follows; empty where nothing is plugged. */
  @IsString()
  @MaxLength(40)
  header!: string;

  @IsString()
  @MaxLength(60)
  follows!: string;
}

export const NO_BELONGING = { level: null, variantId: null };

/** A part to start from. */
export function blankPart(id: string, name: string): FittedPartBody {
  return {
    ...NO_BELONGING,
    id,
    name,
    kind: 'other',
    quantity: 1,
    reusable: true,
    price: 0,
    weightG: 0,
    noiseDb: null,
    conductive: false,
    liquid: false,
    coverId: '',
    pad: null,
    paste: null,
  };
}

/** A step to start from. */
export function blankStep(id: string, when: MountStepBody['when'], text: string): MountStepBody {
  return { ...NO_BELONGING, id, when, text, caution: '', waitMin: 0, screwsOf: '', header: '', follows: '' };
}

/** A part as the list counts it. */
export function listed(part: FittedPartBody, mounts: number): ListedPart {
  const { id, quantity, reusable, price, paste } = part;
  const layer = paste && pasteLayer({ areaMm2: paste.areaMm2, bondLineMm: paste.bondLineMm, densityGPerCm3: paste.densityGPerCm3 });
  return { id, quantity, reusable, price, mounts, gramsEach: layer?.appliedG ?? null };
}
