import { MOST_SPOTS, type ColumnMapBody } from '@red-ember/contract';
import { counted } from '@red-ember/core';
import { isOfNeighbour, nearnessOf, type Family } from '@red-ember/study';
import { someNamed } from './someNamed.ts';

/** So many temperatures of other parts are judged beside those of the part: whether one heats the other is a question as well. */
const MOST_OF_OTHERS = 2;

/**
 * Which temperatures of a log become spots. A logger of the whole machine writes dozens, and every spot that is judged makes the others' calls
 * dearer: of other parts a few are taken, and of more than a study reads those of the part.
 *
 * @param known the study has spots already, and columns are mapped to those
 * @returns the columns without the rest, which of them those are, and what is said of it
 */
export function judgedOf(
  columns: readonly ColumnMapBody[],
  names: readonly string[],
  family: Family,
  known: boolean,
): { kept: ColumnMapBody[]; left: number[]; words: string[] } {
  const spots = columns
    .filter(({ role }) => role === 'spot')
    .map((map) => {
      const spot = { name: map.spotName ?? names[map.column] ?? '', componentClass: map.componentClass ?? 'board' };
      return { map, nearness: nearnessOf(spot, family), heats: isOfNeighbour(spot, family) };
    });
  const others = spots.filter(({ nearness }) => nearness === 2);
  const whole = !known && others.length > MOST_OF_OTHERS && spots.some(({ nearness }) => nearness === 0);
  const ofOthers = whole ? [...others].sort((p, q) => Number(q.heats) - Number(p.heats)).slice(0, MOST_OF_OTHERS) : others;
  const wanted = [...spots.filter(({ nearness }) => nearness < 2).sort((p, q) => p.nearness - q.nearness), ...ofOthers];
  const taken = new Set(wanted.slice(0, MOST_SPOTS).map(({ map }) => map));
  const notJudged = others.filter((other) => !ofOthers.includes(other)).map(({ map }) => names[map.column]!);
  return {
    kept: columns.filter((map) => map.role !== 'spot' || taken.has(map)),
    left: spots.filter(({ map }) => !taken.has(map)).map(({ map }) => map.column),
    words: [
      ...(notJudged.length > 0
        ? [
            `${someNamed(notJudged, (count) => counted(count, 'more temperature'))} of other parts are not judged. Choose them at its columns, where they are asked about.`,
          ]
        : []),
      ...(wanted.length > MOST_SPOTS
        ? [`It holds ${wanted.length} temperatures, and a study reads ${MOST_SPOTS}: ${spots.some(({ nearness }) => nearness === 0) ? 'those of the part and ' : ''}the first ones are taken. Choose others at its columns.`] // prettier-ignore
        : []),
    ],
  };
}
