import type { Estimate } from '../estimate.ts';
import { projectAmbient } from '../heat/projectAmbient.ts';
import { figureOf, sortOut } from './judgePair.ts';
import { OUTCOMES, type OutcomeKey } from './outcomes.ts';
import { runFindings } from './runFindings.ts';
import { HOTTEST_SPOT_ID, hottestSpot } from './hottest.ts';
import type { Disposition, Finding, JudgedSide, JudgedSpot, JudgeRules, LeftOut } from './types.ts';

/** Figures of one run: what every view over several variants works from. */
export interface FieldRun {
  id: string;
  label: string;
  mountNo: number | null;
  startedAtMs: number;
  disposition: Disposition;
  /** The study's figure, by spot id; the hottest of them under `HOTTEST_SPOT_ID`. */
  figures: Record<string, Estimate>;
  outcomes: Partial<Record<OutcomeKey, Estimate>>;
  /** Name of the hottest spot. */
  hottest: string;
  /** It throttled at all; null where nothing was watched. */
  throttled: boolean | null;
  loadMin: number;
  roomC: number | null;
  settings: Record<string, string>;
  /** Rise and power of every load, by spot id: what a safe power is worked out from. */
  points: Record<string, { powerW: Estimate; rise: Estimate; settled: boolean; load: string }[]>;
  /** Slow time constant of the last load's approach, by spot id, seconds; null where none stands out. */
  slowTauS: Record<string, number | null>;
}

/** One variant with the runs that take part. */
export interface FieldSide {
  variantId: string;
  name: string;
  subject: string;
  levels: Record<string, string>;
  runs: FieldRun[];
  /** Runs that count for work and time, though their temperature was not free. */
  workRuns: FieldRun[];
  leftOut: LeftOut[];
}

/** All variants of a study, side by side. */
export interface Field {
  sides: FieldSide[];
  spots: JudgedSpot[];
  rules: JudgeRules;
  findings: Finding[];
  /** The bench's pooled scatter from other studies, by spot id. */
  history: Record<string, { sd: number; dof: number }>;
}

function pointsOf(run: JudgedSide['runs'][number], spotId: string): FieldRun['points'][string] {
  const { review } = run;
  const last = { name: '', spots: review.spots.map((spot) => ({ spotId: spot.spotId, reading: spot.load })), power: review.power };
  return (review.loads.length > 0 ? review.loads : [last]).flatMap((load) => {
    const reading = load.spots.find((spot) => spot.spotId === spotId)?.reading;
    const rise = reading?.rise?.mean;
    const usable = rise && load.power && load.power.value > 0 && rise.value > 0;
    return usable ? [{ powerW: load.power!, rise, settled: reading.bound === 'settled', load: load.name }] : [];
  });
}

function fieldRun(run: JudgedSide['runs'][number], spots: readonly JudgedSpot[], rules: JudgeRules): FieldRun {
  const figures: Record<string, Estimate> = {};
  for (const spot of spots) {
    const figure = figureOf(run, spot.id, rules);
    if (figure) figures[spot.id] = figure;
  }
  const ranked = spots.filter((spot) => figures[spot.id]).sort((p, q) => figures[q.id]!.value - figures[p.id]!.value);
  if (ranked[0]) figures[HOTTEST_SPOT_ID] = figures[ranked[0].id]!;
  const outcomes: FieldRun['outcomes'] = {};
  for (const key of Object.keys(OUTCOMES) as OutcomeKey[]) {
    const read = OUTCOMES[key].read(run);
    if (read) outcomes[key] = read;
  }
  const { throttle } = run.review;
  return {
    id: run.id,
    label: run.label,
    mountNo: run.mountNo,
    startedAtMs: run.startedAtMs,
    disposition: run.disposition,
    figures,
    outcomes,
    hottest: ranked[0]?.name ?? '',
    throttled: throttle && throttle.timeToFirstS !== null,
    loadMin: (run.review.loadS ?? 0) / 60,
    roomC: run.review.room?.meanC ?? null,
    settings: run.settings,
    points: Object.fromEntries(spots.map((spot) => [spot.id, pointsOf(run, spot.id)])),
    slowTauS: Object.fromEntries(
      spots.map((spot) => [spot.id, run.review.spots.find((candidate) => candidate.spotId === spot.id)?.load?.settling.slowTauS ?? null]),
    ),
  };
}

/** Puts all variants side by side: which of their runs take part, and their figures. */
export function gatherField(
  sides: readonly JudgedSide[],
  spots: readonly JudgedSpot[],
  rules: JudgeRules,
  history: Field['history'],
): Field {
  // Side by side: one run may stand in several, at different loads, and what speaks against one does not against another.
  const found = sides.map((side) => side.runs.flatMap((run) => runFindings(run, spots, rules)));
  return {
    sides: sides.map((side, i): FieldSide => {
      const { used, leftOut } = sortOut(side, found[i]!, rules);
      const work = sortOut(side, found[i]!, rules, ['throttled']).used;
      return {
        variantId: side.variantId,
        name: side.name,
        subject: side.subject ?? '',
        levels: { ...side.levels },
        runs: used.runs.map((run) => fieldRun(run, spots, rules)),
        workRuns: work.runs.map((run) => fieldRun(run, spots, rules)),
        leftOut,
      };
    }),
    spots: spots.length > 1 ? [hottestSpot(spots), ...spots] : [...spots],
    rules,
    findings: found.flat(),
    history,
  };
}

/** What a view looks at: a spot by its id, or an outcome beside temperature. */
export type FieldKey = { spotId: string } | { outcome: OutcomeKey };

/** A side's readings of it, one a run. */
export function readingsOf(side: FieldSide, key: FieldKey): Estimate[] {
  if ('spotId' in key) return side.runs.flatMap((run) => run.figures[key.spotId] ?? []);
  return side.workRuns.flatMap((run) => run.outcomes[key.outcome] ?? []);
}

/** Mean of an outcome over the runs of a side that count for work; null where none recorded it. */
export function meanOutcome(side: FieldSide, outcome: OutcomeKey): number | null {
  const read = readingsOf(side, { outcome });
  return read.length === 0 ? null : mean(read.map((estimate) => estimate.value));
}

/** Mean of the study's figure at a spot over the runs of a side that take part; null where none was read. */
export function meanFigure(side: FieldSide, spotId: string): number | null {
  const read = readingsOf(side, { spotId });
  return read.length === 0 ? null : mean(read.map((estimate) => estimate.value));
}

/**
 * Where a side stands on the bench and restated for another air, °C.
 *
 * @param figure the study's figure, K over room or °C as its rules have it
 * @returns nulls where the room was not recorded
 */
export function inBothAirs(
  side: FieldSide,
  figure: number,
  basis: JudgeRules['basis'],
  air: { airC: number; powerTempCo: number },
): { benchC: number | null; warmC: number | null } {
  const rooms = side.runs.flatMap((run) => run.roomC ?? []);
  const roomC = rooms.length > 0 ? mean(rooms) : null;
  const benchC = basis !== 'rise' ? figure : roomC === null ? null : roomC + figure;
  if (benchC === null || roomC === null) return { benchC, warmC: null };
  const warm = projectAmbient({ value: benchC, u: 0, dof: Infinity }, roomC, air.airC, { powerTempCo: air.powerTempCo });
  return { benchC, warmC: warm.value };
}

export const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value / values.length, 0);
