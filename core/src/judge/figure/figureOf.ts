import type { Estimate } from '../../estimate.ts';
import { figureOfReading, lacks, loadReading, remained, resolutionU, type Remained } from './reading.ts';
import { mountOf } from './mountOf.ts';
import { neighbourW } from './neighbours.ts';
import { roomWithLoadK } from './roomWithLoad.ts';
import { restatedFigure } from './restate.ts';
import type { JudgedRun, JudgedSide, JudgedSpot, JudgeRules } from '../types.ts';

/** The study's figure of one run at one spot, restated where the rules say so; null where it could not be read. */
export function figureOf(run: JudgedRun, spotId: string, rules: JudgeRules): Estimate | null {
  return rules.restate
    ? restatedFigure(run, spotId, rules.basis, rules.figure, rules.restate)
    : figureOfReading(loadReading(run, spotId), rules.basis, rules.figure);
}

/** What a comparison has to know of a reading beside its figure. */
export interface ReadingDoubt {
  /** What remained when it was read, as far as it is not in the figure. */
  remained: Remained;
  /** What a reading that counts as settled likely still lacked, and how well that is known, K; null where nothing is taken on top of it. */
  lacks: Remained | null;
  /** What the sensor's steps leave, K; repeats do not average it away. */
  resolutionU: number;
  /** Rise over room and the power that made it, by which it may be restated; null where one was not read, or it is restated already. */
  heat: { riseK: number; powerW: number } | null;
  /** How far the settled value likely lies from the figure where it was not settled, K; 0 where it was. */
  toGoK: number;
  /** How far it may yet rise and fall where it was not settled, 95 % bounds, K; 0 where it was. */
  mayGoK: { up: number; down: number };
  /** What the fan turned at; null where nobody saw it. */
  fanRpm: number | null;
  /** By how much the room was read warmer with the load, K (`roomWithLoadK`); null where nobody can tell. */
  roomWithLoadK: number | null;
  /** What the part beside it took, W; null where nobody recorded that. */
  neighbourW: number | null;
}

/** One run's figure at one spot, with what a comparison has to know of it. */
export interface FigureReading extends ReadingDoubt {
  runId: string;
  figure: Estimate;
  /** What read it; nothing where nobody wrote it down. */
  sensor: string | undefined;
  /** On which fitting (`mountOf`); null where nobody knows. */
  mount: string | null;
  /** When, milliseconds since the epoch; null where nobody knows. */
  atMs: number | null;
}

export function doubtOf(run: JudgedRun, spot: Pick<JudgedSpot, 'id' | 'resolutionK'>, { figure, restate }: JudgeRules): ReadingDoubt {
  const reading = loadReading(run, spot.id);
  const open = !reading || reading.bound === 'settled' || figure === 'settled-value' ? null : reading.toGo;
  const [riseK, powerW] = [reading?.rise?.mean.value, run.review.power?.value];
  return {
    remained: remained(reading, figure),
    lacks: restate ? null : lacks(reading, figure),
    resolutionU: resolutionU(reading, spot.resolutionK, figure),
    heat: !restate && riseK !== undefined && powerW !== undefined && powerW > 0 ? { riseK, powerW } : null,
    toGoK: open?.likely.value ?? 0,
    mayGoK: { up: Math.max(0, open?.highK ?? 0), down: Math.max(0, -(open?.lowK ?? 0)) },
    fanRpm: run.review.fan?.value ?? null,
    roomWithLoadK: roomWithLoadK(run.review),
    neighbourW: neighbourW(run),
  };
}

/**
 * A reading with what it likely lacked taken on top, and the doubt of that alone: a heavier sink is read farther from its end than a lighter
 * one, and looks cooler for it. Only a comparison does so; a figure that stands by itself is what was read.
 */
export const atItsEnd = (reading: FigureReading): FigureReading =>
  reading.lacks === null
    ? reading
    : {
        ...reading,
        figure: { ...reading.figure, value: reading.figure.value + reading.lacks.byK },
        remained: { byK: 0, u: reading.lacks.u },
      };

/** A side's figures at one spot, one a run; runs in which it could not be read are left off. */
export function readingsAt(
  side: Pick<JudgedSide, 'runs' | 'variantId'>,
  spot: Pick<JudgedSpot, 'id' | 'resolutionK'>,
  rules: JudgeRules,
): FigureReading[] {
  return side.runs.flatMap((run) => {
    const figure = figureOf(run, spot.id, rules);
    return figure ? [{ figure, sensor: run.sensors[spot.id], ...whenceOf(run, side), ...doubtOf(run, spot, rules) }] : [];
  });
}

/** Which run and mount a reading is of, and when it was made. */
export function whenceOf(run: JudgedRun, side: Pick<JudgedSide, 'variantId'>): Pick<FigureReading, 'runId' | 'mount' | 'atMs'> {
  return { runId: run.id, mount: mountOf(run, side), atMs: run.review.asGiven ? null : run.startedAtMs };
}
