import type { PhaseKind } from '../conduct/recipe.ts';
import { fixed } from '../format/measured.ts';
import { listWords } from '../format/words.ts';
import type { Around, Onset } from './findOnset.ts';

/** Something that was changed in a run, and the stretch in which its spots answer it. */
export interface Change extends Around {
  name: string;
}

interface Lasting {
  kind: PhaseKind;
  name: string;
  startS: number;
  endS: number | null;
}

/** What was changed over a run: every load that comes on, changes or goes, between what came before it and what follows. */
export function changesOf(phases: readonly Lasting[], lengthS: number): Change[] {
  return phases.flatMap((phase, i) => {
    const before = phases[i - 1];
    return before ? [{ name: phase.name, changeS: phase.startS, fromS: before.startS, toS: phase.endS ?? lengthS }] : [];
  });
}

/** When each spot began to move after one change. */
export interface Reaction {
  name: string;
  atS: number;
  spots: { spotId: string; onset: Onset }[];
}

/** Told apart beyond so many standard uncertainties. */
const APART = 2;

/**
 * Which spot moved first, and how long after it each of the others; nothing where fewer than two were seen to move.
 *
 * @param nameOf a spot's name by its id
 */
export function whichFirst({ spots }: Reaction, nameOf: (spotId: string) => string): string {
  const moved = spots
    .flatMap(({ spotId, onset: { afterS } }) => (afterS ? [{ name: nameOf(spotId), afterS }] : []))
    .sort((p, q) => p.afterS.value - q.afterS.value);
  if (moved.length < 2) return '';
  // The surest of those that may be first is what the others are held against.
  const maybe = moved.filter(({ afterS }) => !apart(moved[0]!.afterS, afterS));
  const first = maybe.reduce((best, one) => (one.afterS.u < best.afterS.u ? one : best));
  const later = moved.filter(({ afterS }) => afterS.value > first.afterS.value && apart(first.afterS, afterS));
  const unsure = moved.filter((one) => one !== first && !later.includes(one)).map(({ name }) => name);
  const said = later.map(({ name, afterS }) => `${name} ${fixed(afterS.value - first.afterS.value, 0)} ± ${fixed(APART * Math.hypot(afterS.u, first.afterS.u), 0)} s later`); // prettier-ignore
  if (said.length === 0) return `Which of ${listWords(moved.map(({ name }) => name))} moves first cannot be told.`;
  const beside = unsure.length === 0 ? '' : `; ${listWords(unsure)} cannot be told from it`;
  return `${first.name} moves first${beside}; ${listWords(said)}.`;
}

const apart = (p: { value: number; u: number }, q: { value: number; u: number }): boolean =>
  Math.abs(q.value - p.value) > APART * Math.hypot(p.u, q.u);
