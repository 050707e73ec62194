import { handValue } from '@red-ember/core';
import type { HandReadingsBody, SpotBody } from '@red-ember/contract';
import { unprocessable } from '../http/problems.ts';

/** A reading as it was typed, and what it comes to, °C. */
export interface TypedReading {
  spotId: string;
  typed: string;
  valueC: number;
}

/** What typed readings come to. @throws HttpProblem 422 with the field of one that is no temperature, or of a spot that is not read by hand */
export function typedReadings(spots: readonly SpotBody[], { readings, usual }: HandReadingsBody): TypedReading[] {
  const wrong = (i: number, field: string, sentence: string) => unprocessable(sentence, [{ pointer: `/readings/${i}/${field}`, sentence }]);
  return readings.map(({ spotId, typed }, i) => {
    if (!spots.some((spot) => spot.id === spotId && spot.byHand)) throw wrong(i, 'spotId', 'This spot is not read by hand.');
    const value = handValue(typed, usual);
    if (value.kind === 'unclear') throw wrong(i, 'typed', value.why);
    return { spotId, typed, valueC: value.valueC };
  });
}
