import 'reflect-metadata';
import { IsIn, IsNumber, IsOptional, IsString, Length, Matches, Max, MaxLength, Min, ValidateIf } from 'class-validator';
import type { ClaimAbout, ClaimDirection, OwnOutcome } from '@red-ember/core';
import {
  CLAIM_OUTCOMES,
  PREDICTED_OUTCOMES,
  type ClaimEntry,
  type HouseRulesEntry,
  type PredictedOutcome,
  type PredictionEntry,
} from '@red-ember/study';
import { ID_PATTERN, ownOr } from '../ids.ts';
import { IsAboveField, IsDirectionOf, IsPlausibleChange } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** What is claimed of the variant, and how large an effect would bear it out. */
export class ClaimBody implements ClaimEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 200, { message: 'Write the claim in one sentence of up to 200 characters.' })
  text!: string;

  @Matches(ownOr(CLAIM_OUTCOMES), { message: 'Choose what the claim is about.' })
  outcome!: ClaimAbout | OwnOutcome;

  @IsOptional()
  @Matches(ID_PATTERN)
  variantId?: string | null;

  @ValidateIf((claim: ClaimBody) => claim.spotId !== null)
  @Matches(ID_PATTERN, { message: 'Choose a spot, or every spot.' })
  spotId!: string | null;

  @IsDirectionOf('outcome', { message: 'Choose cooler, warmer or no difference for a temperature; less, more or no difference otherwise.' })
  direction!: ClaimDirection;

  @IsNumber({}, number('The least effect'))
  @Min(0, { message: 'The least effect cannot be negative.' })
  @Max(100_000, { message: 'Such an effect is beyond this bench.' })
  leastEffect!: number;
}

const ofTemperature = ({ outcome }: { outcome?: string }) => outcome === undefined || outcome === 'temperature';

/** What the tester expects, written before the runs. Locked once the first run has started. */
export class PredictionBody implements PredictionEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @MaxLength(500, { message: 'Keep the reason under 500 characters.' })
  text!: string;

  @IsOptional()
  @Matches(ID_PATTERN)
  variantId?: string | null;

  @IsOptional()
  @Matches(ownOr(PREDICTED_OUTCOMES), { message: 'Choose what the prediction is about.' })
  outcome?: PredictedOutcome;

  @ValidateIf(ofTemperature)
  @Matches(ID_PATTERN, { message: 'Choose the spot that the prediction is about.' })
  spotId!: string;

  @IsNumber({}, number('The expected change'))
  @IsPlausibleChange({ message: 'Such a change is beyond this bench.' })
  expectedK!: number;

  @IsNumber({}, number('The margin'))
  @Min(0, { message: 'The margin cannot be negative.' })
  @IsPlausibleChange({ message: 'Such a margin says nothing.' })
  plusMinusK!: number;
}

/** How this study reports and judges. Chosen once; every figure carries it. */
export class HouseRulesBody implements HouseRulesEntry {
  @IsIn(['rise', 'held-room', 'as-found'], { message: 'Choose how temperatures are reported.' })
  basis!: 'rise' | 'held-room' | 'as-found';

  @IsIn(['settled-mean', 'settled-value', 'peak', 'hottest'], {
    message: 'Choose settled mean, settled value, peak or hottest of several sensors.',
  })
  figure!: 'settled-mean' | 'settled-value' | 'peak' | 'hottest';

  @IsIn(['not-applicable', 'locked', 'as-shipped', 'equal-noise'], { message: 'Choose what the fans do.' })
  fans!: 'not-applicable' | 'locked' | 'as-shipped' | 'equal-noise';

  @IsIn(['application', 'worst-case'], { message: 'Choose a real application or a synthetic worst case.' })
  load!: 'application' | 'worst-case';

  @IsIn(['until-settled', 'fixed'], { message: 'Choose until settled or fixed minutes.' })
  duration!: 'until-settled' | 'fixed';

  @IsIn(['open-bench', 'enclosure', 'both'], { message: 'Choose open bench, enclosure or both.' })
  place!: 'open-bench' | 'enclosure' | 'both';

  @IsIn(['attached', 'own', 'infrared'], { message: 'Choose the sensor of record.' })
  sensorOfRecord!: 'attached' | 'own' | 'infrared';

  @IsIn(['as-used', 'pushed'], { message: 'Choose as used or pushed on purpose.' })
  stress!: 'as-used' | 'pushed';

  @IsIn(['one-change', 'full'], { message: 'Choose one change at a time or all combinations.' })
  ladder!: 'one-change' | 'full';

  @IsIn(['spread', 'dot'], { message: 'Choose how paste is put on.' })
  paste!: 'spread' | 'dot';

  @IsNumber({}, number('The threshold'))
  @Min(0.05, { message: 'A threshold under 0.05 K is finer than any bench.' })
  @Max(50, { message: 'A threshold above 50 K would call everything equal.' })
  practicalK!: number;

  @IsNumber({}, number('The coverage'))
  @Min(0.5, { message: 'Coverage lies between 50 and 99.9 %.' })
  @Max(0.999, { message: 'Coverage lies between 50 and 99.9 %.' })
  coverage!: number;

  @IsNumber({}, number('The lower end of the room band'))
  @Min(-10, { message: 'A room below −10 °C: is this °C?' })
  @Max(60, { message: 'A room above 60 °C: is this °F?' })
  roomMinC!: number;

  @IsNumber({}, number('The upper end of the room band'))
  @Max(60, { message: 'A room above 60 °C: is this °F?' })
  @IsAboveField('roomMinC', { message: 'The room band must end above where it starts.' })
  roomMaxC!: number;
}
