import 'reflect-metadata';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsNumber, IsOptional, IsString, Length, Matches, Max, Min, ValidateNested } from 'class-validator';
import {
  type BoardMapEntry,
  COMPONENT_CLASSES,
  type ComponentClass,
  type MapCoverEntry,
  type MapPadEntry,
  type MapPartEntry,
  type MapPlacementEntry,
  type MapScrewEntry,
  type MapZoneEntry,
  type RectEntry,
} from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { HasDistinctNames } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** Nothing on a bench of ours is wider. */
const MOST_MM = 500;

/** A rectangle on the map, millimetres from its upper left corner. */
export class RectBody implements RectEntry {
  @IsNumber({}, number('The place'))
  @Min(-MOST_MM)
  @Max(MOST_MM, { message: 'Places are in millimetres, up to 500.' })
  xMm!: number;

  @IsNumber({}, number('The place'))
  @Min(-MOST_MM)
  @Max(MOST_MM, { message: 'Places are in millimetres, up to 500.' })
  yMm!: number;

  @IsNumber({}, number('The width'))
  @Min(0.1, { message: 'A width must be above zero.' })
  @Max(MOST_MM, { message: 'Widths are in millimetres, up to 500.' })
  widthMm!: number;

  @IsNumber({}, number('The length'))
  @Min(0.1, { message: 'A length must be above zero.' })
  @Max(MOST_MM, { message: 'Lengths are in millimetres, up to 500.' })
  heightMm!: number;
}

export class MapPartBody extends RectBody implements MapPartEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the part, such as controller.' })
  name!: string;

  @IsIn(['top', 'under'])
  face!: 'top' | 'under';

  @IsIn([...COMPONENT_CLASSES], { message: 'Choose the class of component.' })
  componentClass!: ComponentClass;

  @IsNumber({}, number('The height'))
  @Min(0, { message: 'A part cannot stand below its board.' })
  @Max(100, { message: 'Heights are in millimetres, up to 100.' })
  tallMm!: number;

  @IsNumber({}, number('The heat share'))
  @Min(0, { message: 'A heat share lies between 0 and 100 %.' })
  @Max(1, { message: 'A heat share lies between 0 and 100 %.' })
  heatShare!: number;
}

export class MapCoverBody extends RectBody implements MapCoverEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the cover, such as slot lid.' })
  name!: string;

  @IsIn(['top', 'under'])
  face!: 'top' | 'under';

  @IsNumber({}, number('The height of its lower face'))
  @Min(0)
  @Max(100, { message: 'Heights are in millimetres, up to 100.' })
  undersideMm!: number;

  @IsNumber({}, number('The tolerance'))
  @Min(0, { message: 'A tolerance cannot be negative.' })
  @Max(10)
  gapToleranceMm!: number;

  @IsOptional()
  @IsNumber({}, number('The height of its upper face'))
  @Min(0)
  @Max(MOST_MM)
  topMm?: number;
}

export class MapPadBody extends RectBody implements MapPadEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the pad.' })
  name!: string;

  @Matches(ID_PATTERN, { message: 'Choose the cover it belongs to.' })
  coverId!: string;

  @IsNumber({}, number('The thickness'))
  @Min(0.05, { message: 'A pad is at least 0.05 mm thick.' })
  @Max(20, { message: 'A pad above 20 mm is more likely a slip.' })
  padMm!: number;

  @IsNumber({}, number('The conductivity'))
  @Min(0.1, { message: 'Conductivity is in W/m·K and above 0.1.' })
  @Max(2000)
  conductivityWPerMK!: number;
}

/** A screw of a cover, as it was found at strip-down. */
export class MapScrewBody implements MapScrewEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @Matches(ID_PATTERN, { message: 'Choose the cover it holds.' })
  coverId!: string;

  @IsString()
  @Length(1, 40, { message: 'Say which screw it is, such as M2 × 5.' })
  name!: string;

  @IsNumber({}, number('The place'))
  @Min(-MOST_MM)
  @Max(MOST_MM, { message: 'Places are in millimetres, up to 500.' })
  xMm!: number;

  @IsNumber({}, number('The place'))
  @Min(-MOST_MM)
  @Max(MOST_MM, { message: 'Places are in millimetres, up to 500.' })
  yMm!: number;
}

/** Room above a stretch of the board that something else ends: a neighbour card, a clip, a panel. */
export class MapZoneBody extends RectBody implements MapZoneEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name what ends the room, such as neighbour card.' })
  name!: string;

  @IsIn(['top', 'under'])
  face!: 'top' | 'under';

  @IsNumber({}, number('The free height'))
  @Min(0, { message: 'A free height cannot be negative.' })
  @Max(MOST_MM)
  clearMm!: number;
}

export class MapPlacementBody implements MapPlacementEntry {
  @Matches(ID_PATTERN)
  spotId!: string;

  @IsIn(['top', 'under'])
  face!: 'top' | 'under';

  @IsNumber({}, number('The place'))
  xMm!: number;

  @IsNumber({}, number('The place'))
  yMm!: number;
}

/** Where parts, covers, pads and spots lie on one subject. */
export class BoardMapBody implements BoardMapEntry {
  @IsNumber({}, number('The width'))
  @Min(5, { message: 'A board is at least 5 mm wide.' })
  @Max(MOST_MM, { message: 'Widths are in millimetres, up to 500.' })
  widthMm!: number;

  @IsNumber({}, number('The length'))
  @Min(5, { message: 'A board is at least 5 mm long.' })
  @Max(MOST_MM, { message: 'Lengths are in millimetres, up to 500.' })
  heightMm!: number;

  @IsNumber({}, number('The heat'))
  @Min(0, { message: 'Heat cannot be negative.' })
  @Max(2000, { message: 'Heat above 2000 W is beyond this bench.' })
  heatW!: number;

  @IsArray()
  @ArrayMaxSize(80, { message: 'A map holds up to 80 parts.' })
  @HasDistinctNames({ message: 'Two parts share a name.' })
  @ValidateNested({ each: true })
  @Type(() => MapPartBody)
  parts!: MapPartBody[];

  @IsArray()
  @ArrayMaxSize(20, { message: 'A map holds up to 20 covers.' })
  @ValidateNested({ each: true })
  @Type(() => MapCoverBody)
  covers!: MapCoverBody[];

  @IsArray()
  @ArrayMaxSize(40, { message: 'A map holds up to 40 pads.' })
  @ValidateNested({ each: true })
  @Type(() => MapPadBody)
  pads!: MapPadBody[];

  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => MapPlacementBody)
  placements!: MapPlacementBody[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(60, { message: 'A map holds up to 60 screws.' })
  @ValidateNested({ each: true })
  @Type(() => MapScrewBody)
  screws?: MapScrewBody[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20, { message: 'A map holds up to 20 zones.' })
  @ValidateNested({ each: true })
  @Type(() => MapZoneBody)
  zones?: MapZoneBody[];
}
