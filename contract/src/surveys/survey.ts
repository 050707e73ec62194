import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
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
import { ID_PATTERN } from '../ids.ts';
import { number } from '../validation/words.ts';

const emissivity = { message: 'Emissivity lies above 0 and up to 1.' };

export class SurveyRegionBody {
  @IsString()
  @Length(1, 60, { message: 'Name the region, such as lid or label.' })
  name!: string;

  @IsInt()
  @Min(0)
  fromRow!: number;

  @IsInt()
  @Min(0)
  toRow!: number;

  @IsInt()
  @Min(0)
  fromColumn!: number;

  @IsInt()
  @Min(0)
  toColumn!: number;

  @IsNumber({}, number('The emissivity'))
  @Min(0.01, emissivity)
  @Max(1, emissivity)
  emissivity!: number;

  /** null: as for the whole picture. */
  @ValidateIf((region: SurveyRegionBody) => region.reflectedC !== null)
  @IsNumber({}, number('The reflected temperature'))
  @Min(-50)
  @Max(200)
  reflectedC!: number | null;
}

export class SurveyReferenceBody {
  @IsNumber()
  row!: number;

  @IsNumber()
  column!: number;

  @IsNumber({}, number('The place'))
  xMm!: number;

  @IsNumber({}, number('The place'))
  yMm!: number;
}

/** What is said about a picture; the picture itself never changes. */
export class SurveyBody {
  @IsString()
  @Length(1, 80, { message: 'Name the picture.' })
  name!: string;

  @Matches(ID_PATTERN, { message: 'Choose the part that the picture shows.' })
  subjectId!: string;

  @IsIn(['top', 'under'])
  face!: 'top' | 'under';

  @IsNumber({}, number('The emissivity the camera was set to'))
  @Min(0.01, emissivity)
  @Max(1, emissivity)
  emissivitySet!: number;

  /** Of surfaces outside all regions. */
  @IsNumber({}, number('The emissivity'))
  @Min(0.01, emissivity)
  @Max(1, emissivity)
  emissivity!: number;

  @IsNumber({}, number('The reflected temperature'))
  @Min(-50)
  @Max(200, { message: 'A reflected temperature above 200 °C: is this °F?' })
  reflectedC!: number;

  @IsNumber({}, number('The prominence'))
  @Min(0.1, { message: 'A hot spot stands out by at least 0.1 K.' })
  @Max(100)
  minProminenceK!: number;

  @IsArray()
  @ArrayMaxSize(20, { message: 'A picture holds up to 20 regions.' })
  @ValidateNested({ each: true })
  @Type(() => SurveyRegionBody)
  regions!: SurveyRegionBody[];

  /** Two places seen in the picture and on the map. */
  @IsArray()
  @ArrayMaxSize(2, { message: 'Two reference points lay a picture over the map.' })
  @ValidateNested({ each: true })
  @Type(() => SurveyReferenceBody)
  references!: SurveyReferenceBody[];

  /** Taken from behind: left and right are swapped against the map. */
  @IsBoolean()
  mirrored!: boolean;
}

/** A new picture, as the file holds it. */
export class NewSurveyBody {
  @IsString()
  @Length(1, 80, { message: 'Name the picture.' })
  name!: string;

  @Matches(ID_PATTERN, { message: 'Choose the part that the picture shows.' })
  subjectId!: string;

  @IsIn(['top', 'under'])
  face!: 'top' | 'under';

  @IsIn(['C', 'F', 'K'], { message: 'Choose °C, °F or K.' })
  unit!: 'C' | 'F' | 'K';

  @IsString()
  @MaxLength(6_000_000, { message: 'The picture is larger than 6 MB.' })
  text!: string;

  @IsOptional()
  @IsNumber()
  emissivitySet?: number;
}

export interface SurveySummary extends SurveyBody {
  id: string;
  studyId: string;
  version: number;
  createdAt: string;
  rows: number;
  columns: number;
  deletedAt: string | null;
}

export interface Survey extends SurveySummary {
  /** As indicated by the camera, °C, [row][column]; null where there is no value. */
  matrix: (number | null)[][];
}
