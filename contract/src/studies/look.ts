import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
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
import { COMPONENT_CLASSES, ID_PATTERN, LIMIT_SUSPECT_C, type ComponentClass } from '../ids.ts';
import { HasDistinctNames, IsAboveField, IsNotAboveField, IsSoundMap } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** Nothing on a bench of ours is wider. */
const MOST_MM = 500;

/** A rectangle on the map, millimetres from its upper left corner. */
export class RectBody {
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

export class MapPartBody extends RectBody {
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

export class MapCoverBody extends RectBody {
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

  /** Height of its upper face above the board; nothing is said of fit where it is not known. */
  @IsOptional()
  @IsNumber({}, number('The height of its upper face'))
  @Min(0)
  @Max(MOST_MM)
  topMm?: number;
}

export class MapPadBody extends RectBody {
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
export class MapScrewBody {
  @Matches(ID_PATTERN)
  id!: string;

  @Matches(ID_PATTERN, { message: 'Choose the cover it holds.' })
  coverId!: string;

  /** Such as M2 × 5. */
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
export class MapZoneBody extends RectBody {
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

export class MapPlacementBody {
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
export class BoardMapBody {
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

/** Temperatures that a drive publishes about itself, °C; fields as the open NVM Express specification defines them. */
export class DriveTemperaturesBody {
  /** Warning composite temperature threshold. */
  @IsNumber({}, number('The warning temperature'))
  @Min(30, { message: 'A warning temperature under 30 °C: is this °C?' })
  @Max(LIMIT_SUSPECT_C, { message: 'A warning temperature above 150 °C: is this K or °F?' })
  warningC!: number;

  /** Critical composite temperature threshold. */
  @IsNumber({}, number('The critical temperature'))
  @Max(LIMIT_SUSPECT_C, { message: 'A critical temperature above 150 °C: is this K or °F?' })
  @IsAboveField('warningC', { message: 'The critical temperature lies above the warning.' })
  criticalC!: number;

  /** Host-managed: light throttling from here; null where switched off. */
  @ValidateIf((drive: DriveTemperaturesBody) => drive.managed1C !== null)
  @IsNumber({}, number('The first managed temperature'))
  @Min(0)
  @Max(LIMIT_SUSPECT_C)
  managed1C!: number | null;

  /** Host-managed: heavy throttling from here; null where switched off. */
  @ValidateIf((drive: DriveTemperaturesBody) => drive.managed2C !== null)
  @IsNumber({}, number('The second managed temperature'))
  @Max(LIMIT_SUSPECT_C)
  @IsAboveField('managed1C', { message: 'The second managed temperature lies above the first.' })
  managed2C!: number | null;
}

/** One part under test. Studies that compare boards have several. */
export class SubjectBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 80, { message: 'Name the part under test.' })
  name!: string;

  @IsString()
  @MaxLength(500)
  details!: string;

  /** By which a scratch drive is confirmed before it is written to. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  serial?: string;

  @IsOptional()
  @ValidateNested()
  @Type(() => DriveTemperaturesBody)
  drive!: DriveTemperaturesBody | null;

  @IsOptional()
  @ValidateNested()
  @Type(() => BoardMapBody)
  @IsSoundMap()
  map!: BoardMapBody | null;
}

/** What lies between a surface that is read and the part that is meant. */
export class BeneathBody {
  @IsNumber({}, number('The heat'))
  @Min(0, { message: 'Heat cannot be negative.' })
  @Max(1000)
  heatW!: number;

  @IsNumber({}, number('The gap'))
  @Min(0, { message: 'A gap cannot be negative.' })
  @Max(20)
  gapMm!: number;

  @IsNumber({}, number('The tolerance'))
  @Min(0, { message: 'A tolerance cannot be negative.' })
  @Max(5)
  gapToleranceMm!: number;

  @IsNumber({}, number('The pad'))
  @Min(0.05, { message: 'A pad is at least 0.05 mm thick.' })
  @Max(20)
  padMm!: number;

  @IsNumber({}, number('The conductivity'))
  @Min(0.1, { message: 'Conductivity is in W/m·K and above 0.1.' })
  @Max(2000)
  conductivityWPerMK!: number;

  @IsNumber({}, number('The area'))
  @Min(1, { message: 'An area is in mm² and above 1.' })
  @Max(100_000)
  areaMm2!: number;

  @IsNumber({}, number('The case resistance'))
  @Min(0)
  @Max(100)
  caseKPerW!: number;
}

const hasValue = (field: 'advisoryC' | 'throttleC') => (spot: SpotBody) => spot[field] !== null;

/** A place on the part whose temperature is read, its limits and its sensor. */
export class SpotBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the spot, such as flash underside.' })
  name!: string;

  @IsString()
  @MaxLength(200)
  place!: string;

  @IsIn([...COMPONENT_CLASSES], { message: 'Choose the class of component.' })
  componentClass!: ComponentClass;

  /** Worth a word from here, °C; null where nothing is said of it. */
  @ValidateIf(hasValue('advisoryC'))
  @IsNumber({}, number('The advisory temperature'))
  @Min(30, { message: 'An advisory temperature under 30 °C is below a warm room.' })
  @IsNotAboveField('limitC', { message: 'The advisory temperature lies below the limit.' })
  advisoryC!: number | null;

  @ValidateIf((spot: SpotBody) => spot.advisoryC !== null)
  @IsString()
  @Length(1, 120, { message: 'Say where the advisory temperature comes from.' })
  advisorySource!: string;

  /** Never to be exceeded: the right end of the headroom strip. */
  @IsNumber({}, { message: 'Give a limit, so that headroom can be shown.' })
  @Min(30, { message: 'A limit under 30 °C is below a warm room.' })
  @Max(LIMIT_SUSPECT_C, { message: 'A limit above 150 °C: is this °F?' })
  limitC!: number;

  @IsString()
  @Length(1, 120, { message: 'Say where the limit comes from: data sheet, standard or house rule.' })
  limitSource!: string;

  /** Load is cut when this is exceeded for `cutOutHoldS`. */
  @IsNumber({}, number('The cut-out'))
  @Max(LIMIT_SUSPECT_C + 10, { message: 'A cut-out above 160 °C: is this °F?' })
  @IsAboveField('limitC', { message: 'Set the cut-out above the limit, or it would end every warm run.' })
  cutOutC!: number;

  @IsNumber({}, number('The hold time'))
  @Min(0, { message: 'The hold time cannot be negative.' })
  @Max(600, { message: 'A hold time above ten minutes protects nothing.' })
  cutOutHoldS!: number;

  /** Where the part itself throttles on this spot, °C; null where unknown. */
  @ValidateIf(hasValue('throttleC'))
  @IsNotAboveField('limitC', { message: 'The limit, never to be exceeded, lies under the throttling point.' })
  @IsNumber({}, number('The throttling point'))
  @Min(30, { message: 'A throttling point under 30 °C is below a warm room.' })
  @Max(LIMIT_SUSPECT_C, { message: 'A throttling point above 150 °C: is this °F?' })
  throttleC!: number | null;

  @ValidateIf((spot: SpotBody) => spot.throttleC !== null)
  @IsString()
  @Length(1, 120, { message: 'Say where the throttling point comes from.' })
  throttleSource!: string;

  /** How it is read. */
  @IsIn(['attached', 'own', 'infrared'], { message: 'Choose attached sensor, the part’s own, or infrared.' })
  method!: 'attached' | 'own' | 'infrared';

  /** Typed in by the tester at set minutes instead of logged. */
  @IsBoolean()
  byHand!: boolean;

  /** Channel of the rig that reads it; a short name for one that is read by hand. */
  @IsString()
  @Length(1, 60, { message: 'Name the channel that reads this spot.' })
  channel!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the sensor, such as TC 3.' })
  sensor!: string;

  /** Channel of one of the bench's instruments, so that its calibration counts; null where none is written down. */
  @ValidateIf((spot: SpotBody) => spot.instrumentChannelId !== null)
  @Matches(ID_PATTERN, { message: 'Choose an instrument channel, or none.' })
  instrumentChannelId!: string | null;

  @IsNumber({}, number('The accuracy'))
  @Min(0, { message: 'Accuracy cannot be negative.' })
  @Max(20)
  accuracyK!: number;

  @IsNumber({}, number('The resolution'))
  @Min(0, { message: 'Resolution cannot be negative.' })
  @Max(10)
  resolutionK!: number;

  /** Half-width of what place and contact of the probe may cost. */
  @IsNumber({}, number('Place and contact'))
  @Min(0, { message: 'Place and contact cannot be negative.' })
  @Max(20)
  placementK!: number;

  /** Another spot that reads the same place, to be held against this one. */
  @ValidateIf((spot: SpotBody) => spot.twinOf !== null)
  @Matches(ID_PATTERN)
  twinOf!: string | null;

  @IsOptional()
  @ValidateNested()
  @Type(() => BeneathBody)
  beneath!: BeneathBody | null;
}
