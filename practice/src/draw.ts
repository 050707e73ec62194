import type { StudyBody, TrapKey } from '@red-ember/contract';
import { FAULTS, SeededRandom, type FaultKey } from '@red-ember/rig';
import { bodyOfExercise, type Exercise, type Thing } from './exercises.ts';
import { TRAP_WORDS } from './traps.ts';

/** Everything that a seed decides, kept with the try: what is planted stays planted whatever becomes of the exercise. */
export interface Drawn {
  a: Thing;
  b: Thing;
  /** Channel of the question. */
  spot: string;
  practicalK: number;
  trap: TrapKey | null;
  faults: FaultKey[];
  /** Sides and numbers of mounts that it is on; every mount where none is named. */
  sides: ('a' | 'b')[];
  mounts: number[];
  /** Controls that the recipe sets, for the truth. */
  set: Record<string, number | string>;
  /** The load that is asked about, percent; all of it where nothing is said. */
  loadPercent?: number;
  good: { runs: number; mounts: number };
}

/** What a seed makes of an exercise. The same seed draws the same. */
export function draw(exercise: Exercise, seed: number): { drawn: Drawn; body: StudyBody } {
  const random = new SeededRandom(seed * 7919 + 17);
  const one = <T>(of: readonly T[]): T => of[Math.floor(random.uniform() * of.length)]!;
  const pair = one(exercise.pairs);
  const turned = exercise.turns && random.uniform() < 0.5;
  const [a, b] = turned ? [pair[1], pair[0]] : pair;
  const { plant } = exercise;
  const sides = sidesOf(exercise, turned, one(['a', 'b'] as const));
  const mounts = plant?.mounts === 'first' ? [1] : plant?.mounts === 'first-or-second' ? [one([1, 2])] : [];
  const body = bodyOfExercise(exercise, [a, b]);
  const set = Object.fromEntries(body.recipe.flatMap((phase) => phase.set ?? []).map(({ control, value }) => [control, value]));
  const { spot, practicalK, trap, good } = exercise;
  const loadPercent = body.recipe.findLast(({ kind }) => kind === 'load')!.loadPercent;
  return {
    body,
    drawn: { a, b, spot, practicalK, trap, faults: trap ? [...TRAP_WORDS[trap].faults] : [], sides, mounts, set, loadPercent, good },
  };
}

function sidesOf({ plant, trap }: Exercise, turned: boolean, either: 'a' | 'b'): Drawn['sides'] {
  if (!plant) return [];
  if (plant.side === 'both') return ['a', 'b'];
  // Only the sink that has a fan can have it on the wrong plug.
  if (trap === 'wrong-plug' || trap === 'wires-swapped') return [turned ? 'a' : 'b'];
  return [plant.side === 'either' ? either : plant.side];
}

/** Traps that can be planted in anybody's bench, whatever it holds. */
const ANYWHERE: Record<'drive' | 'card', readonly TrapKey[]> = {
  drive: ['film-left', 'probe-moved', 'room-warmed', 'slow-probe', 'dirty-samples'],
  card: ['pad-off', 'one-fan-free', 'room-warmed', 'wrong-plug'],
};

/** An exercise out of somebody's own study: the same question on a bench that the seed spoils, or leaves alone. */
export function drawOf(family: 'drive' | 'card', [a, b]: readonly [Thing, Thing], spot: string, practicalK: number, seed: number): Drawn {
  const random = new SeededRandom(seed * 104_729 + 5);
  const kinds = ANYWHERE[family];
  // One in six is as it should be: who looks for faults alone finds them everywhere.
  const at = Math.floor(random.uniform() * (kinds.length + 1));
  const trap = kinds[at] ?? null;
  return {
    a,
    b,
    spot,
    practicalK,
    trap,
    faults: trap ? [...TRAP_WORDS[trap].faults] : [],
    sides: trap === 'dirty-samples' ? ['a', 'b'] : trap ? [random.uniform() < 0.5 ? 'a' : 'b'] : [],
    mounts: trap === 'dirty-samples' || !trap ? [] : [1],
    set: {},
    good: { runs: 4, mounts: 4 },
  };
}

/** What is planted in a run of one side's mount. */
export function plantedIn(drawn: Drawn, side: 'a' | 'b', mountNumber: number | null): FaultKey[] {
  const there = drawn.sides.includes(side) && (drawn.mounts.length === 0 || drawn.mounts.includes(mountNumber ?? 1));
  return there ? drawn.faults : [];
}

/** What was planted, in sentences. */
export function plantedWords(drawn: Drawn): string[] {
  const { trap } = drawn;
  if (trap === null) return ['Nothing was wrong with the bench.'];
  if (drawn.faults.length === 0) return [`${TRAP_WORDS[trap].label}.`];
  const names = drawn.sides.map((side) => drawn[side].name).join(' and ');
  const where = drawn.mounts.length === 0 ? `in every run of ${names}` : `on mount ${drawn.mounts.join(' and ')} of ${names}`;
  return drawn.faults.map((fault) => `${FAULTS[fault][0]!.toUpperCase()}${FAULTS[fault].slice(1)}: ${where}.`);
}
