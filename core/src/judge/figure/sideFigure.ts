import { mean } from '../../mean.ts';
import { combineUncertainty } from '../../uncertainty/combineUncertainty.ts';
import type { UncertaintyBudget } from '../../uncertainty/combineUncertainty.ts';
import { sideLines } from './doubt.ts';
import { doubtOf, figureOf, whenceOf, type FigureReading } from './figureOf.ts';
import { HOTTEST_SPOT_ID } from './hottest.ts';
import { byMount } from './byMount.ts';
import { loadReading } from './reading.ts';
import { scatterFor } from './scatter.ts';
import type { JudgedSide, JudgedSpot, JudgeRules, Scatter, SideFigure } from '../types.ts';

/**
 * One side's figure at a spot by itself, with everything that does not cancel in a single reading. It depends on nothing but the side:
 * the same on every page, whatever it is compared with.
 *
 * @returns null where there is no reading
 */
export function figureByItself(
  readings: readonly FigureReading[],
  spot: JudgedSpot,
  rules: JudgeRules,
  history: Scatter | null | undefined,
): { value: number; budget: UncertaintyBudget } | null {
  if (readings.length === 0) return null;
  const mounts = byMount(readings).map((mount) => mount.figure);
  const lines = sideLines(readings, spot, rules, scatterFor(mounts, [], history).lent);
  return { value: mean(mounts.map((figure) => figure.value)), budget: combineUncertainty(lines, { coverage: rules.coverage }) };
}

/** What a side is still likely to warm by, K: room to a limit is what is left when it has settled. One that is still cooling has no more of it for that. */
export const stillToCome = (readings: readonly Pick<FigureReading, 'toGoK'>[]): number =>
  readings.length === 0 ? 0 : Math.max(0, mean(readings.map(({ toGoK }) => toGoK)));

/** What the headroom strip draws of one side; null where nothing could be read. */
export function sideFigure(
  side: JudgedSide,
  spot: JudgedSpot,
  rules: JudgeRules,
  roomC: number,
  history: Scatter | null | undefined,
): SideFigure | null {
  const readable = side.runs.flatMap((run) => {
    const figure = figureOf(run, spot.id, rules);
    const load = loadReading(run, spot.id);
    return figure ? [{ figure, sensor: run.sensors[spot.id], ...whenceOf(run, side), ...doubtOf(run, spot, rules), load: load!, run }] : [];
  });
  const itself = figureByItself(readable, spot, rules, history);
  if (!itself) return null;
  const { value, budget } = itself;
  const idles = readable.flatMap(({ run }) => {
    const idle = run.review.spots.find((candidate) => candidate.spotId === spot.id)?.idle;
    const reading = rules.basis === 'rise' ? idle?.rise : idle?.absolute;
    return reading ? [reading.mean.value] : [];
  });
  const toC = (figure: number) => (rules.basis === 'rise' ? roomC + figure : figure);
  return {
    runs: readable.length,
    readings: readable.map(({ figure, run, load }) => {
      const window = (rules.basis === 'rise' ? load.rise : null) ?? load.absolute;
      const read = run.review.spots.find((entry) => entry.load === load && entry.spotId !== HOTTEST_SPOT_ID);
      return { runId: run.id, figure, spotId: read?.spotId ?? spot.id, n: window.n, nEffective: window.nEffective };
    }),
    figure: { value, u: budget.u, dof: budget.dof },
    doubtK: budget.expanded,
    budget,
    spotC: toC(value + stillToCome(readable)),
    idleC: idles.length > 0 ? toC(mean(idles)) : null,
    peakC: Math.max(...readable.map(({ load }) => load.peakC)),
  };
}
