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
import {
  type BelongingEntry,
  type FittedPartEntry,
  type MountStepEntry,
  type PadCutEntry,
  PART_KINDS,
  type PartKind,
  type PasteEntry,
  STEP_CAUTIONS,
  type StepCaution,
} from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { number } from '../validation/words.ts';
import { LevelChoiceBody } from './plan.ts';

/** What a part or a step belongs to: a level of a factor, one variant, or every variant (neither). */
class BelongingBody implements BelongingEntry {
  @ValidateIf((item: BelongingBody) => item.level !== null)
  @ValidateNested()
  @Type(() => LevelChoiceBody)
  level!: LevelChoiceBody | null;

  @ValidateIf((item: BelongingBody) => item.variantId !== null)
  @Matches(ID_PATTERN)
  variantId!: string | null;
}

/** What a pad is cut to, millimetres. */
export class PadCutBody implements PadCutEntry {
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
export class PasteBody implements PasteEntry {
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

  @IsString()
  @MaxLength(80)
  remover!: string;

  @IsNumber({}, number('The drying time'))
  @Min(0, { message: 'Drying cannot take less than no time.' })
  @Max(1440)
  dryMin!: number;

  @IsOptional()
  @IsNumber({}, number('The heat'))
  @Min(0, { message: 'Heat cannot be negative.' })
  @Max(2000, { message: 'Heat above 2000 W is beyond this bench.' })
  heatW?: number;
}

/** Something that is put on: a cooler, a pad, a tube of paste. */
export class FittedPartBody extends BelongingBody implements FittedPartEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the part, such as comb sink.' })
  name!: string;

  @IsIn([...PART_KINDS], { message: 'Choose the kind of part.' })
  kind!: PartKind;

  @IsInt({ message: 'Pieces are a whole number.' })
  @Min(1, { message: 'At least one piece.' })
  @Max(100, { message: 'More than 100 pieces are more likely a slip.' })
  quantity!: number;

  @IsBoolean()
  reusable!: boolean;

  @IsNumber({}, number('The price'))
  @Min(0, { message: 'A price cannot be negative.' })
  @Max(1_000_000)
  price!: number;

  @IsNumber({}, number('The weight'))
  @Min(0, { message: 'A weight cannot be negative.' })
  @Max(20_000, { message: 'Above 20 kg is more likely a slip.' })
  weightG!: number;

  @ValidateIf((part: FittedPartBody) => part.noiseDb !== null)
  @IsNumber({}, number('The sound level'))
  @Min(0)
  @Max(120)
  noiseDb!: number | null;

  @IsBoolean()
  conductive!: boolean;

  @IsBoolean()
  liquid!: boolean;

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

  @IsOptional()
  @IsString()
  @MaxLength(60, { message: 'A serial number has up to 60 signs.' })
  serial?: string;

  @IsOptional()
  @IsString()
  @MaxLength(300, { message: 'Keep the note under 300 characters.' })
  note?: string;

  @IsOptional()
  @IsString()
  @MaxLength(120, { message: 'Keep the tags under 120 characters.' })
  tags?: string;
}

/** One thing that hands do when a variant is taken off or put on. */
export class MountStepBody extends BelongingBody implements MountStepEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsIn(['off', 'on'], { message: 'Choose taking off or putting on.' })
  when!: 'off' | 'on';

  @IsString()
  @Length(1, 240, { message: 'Say in a line what is done.' })
  text!: string;

  @IsIn([...STEP_CAUTIONS], { message: 'Choose a caution, or none.' })
  caution!: StepCaution;

  @IsNumber({}, number('The waiting time'))
  @Min(0, { message: 'Waiting cannot take less than no time.' })
  @Max(20_160, { message: 'Waiting above two weeks is more likely a slip.' })
  waitMin!: number;

  @Matches(/^$|^[\w-]{1,64}$/)
  screwsOf!: string;

  @IsString()
  @MaxLength(40)
  header!: string;

  @IsString()
  @MaxLength(60)
  follows!: string;
}
