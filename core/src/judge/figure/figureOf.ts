import type { Estimate } from '../../estimate.ts';
import { figureOfReading, loadReading, remainingU } from './reading.ts';
import { restatedFigure } from './restate.ts';
import type { JudgedRun, JudgedSide, JudgeRules } from '../types.ts';

/** The study's figure of one run at one spot, restated where the rules say so; null where it could not be read. */
export function figureOf(run: JudgedRun, spotId: string, rules: JudgeRules): Estimate | null {
  return rules.restate
    ? restatedFigure(run, spotId, rules.basis, rules.figure, rules.restate)
    : figureOfReading(loadReading(run, spotId), rules.basis, rules.figure);
}

/** One run's figure at one spot, with what a comparison has to know of it. */
export interface FigureReading {
  figure: Estimate;
  /** What read it; nothing where nobody wrote it down. */
  sensor: string | undefined;
  /** Standard uncertainty for what remained when it was read, K. */
  remainingU: number;
}

/** A side's figures at one spot, one a run; runs in which it could not be read are left off. */
export function readingsAt(side: Pick<JudgedSide, 'runs'>, spotId: string, rules: JudgeRules): FigureReading[] {
  return side.runs.flatMap((run) => {
    const figure = figureOf(run, spotId, rules);
    return figure ? [{ figure, sensor: run.sensors[spotId], remainingU: remainingU(loadReading(run, spotId), rules.figure) }] : [];
  });
}
