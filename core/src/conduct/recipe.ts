import { slopeForbids } from '../settling/assessSettling.ts';
import { boundSettling, type BoundedSettling } from '../settling/boundSettling.ts';
import { blockMeans, slice, usable, type Series } from '../series/series.ts';
import { rejectTemperatureSpikes } from '../series/rejectSpikes.ts';
import { riseOverAmbient } from '../series/riseOverAmbient.ts';

/** `pause`: the load was taken off in the middle; nothing is read of it. */
export type PhaseKind = 'idle-soak' | 'load' | 'cool-down' | 'pause';
/** A phase lasts so long, or until every spot is settled, or only until it is known well enough where every spot will settle. */
export const PHASE_END_MODES = ['fixed', 'until-settled', 'until-read'] as const;
export type PhaseEndMode = (typeof PHASE_END_MODES)[number];

/** A control of the rig and what it is set to: a number in the control's unit, or one of its choices. */
export interface ControlSetting {
  control: string;
  value: number | string;
}

export interface RecipePhase {
  kind: PhaseKind;
  name: string;
  mode: PhaseEndMode;
  /** Length of a fixed phase; least length of one that waits. Seconds. */
  durationS: number;
  /** Longest length of a phase that waits, seconds. */
  capS: number;
  /** Load asked of the part, percent. */
  loadPercent: number;
  /** What is done when it starts, in words. */
  opensWith?: string;
  /** What the rig sets when it starts. */
  set?: ControlSetting[];
  /** Minutes of the phase at which something is read by hand, ascending. */
  marksMin?: number[];
}

export type PhaseEnd = 'time' | 'settled' | 'read' | 'cap';

/** How steady is settled: the change allowed over the window. */
export interface SettledRule {
  toleranceK: number;
  windowS: number;
}

export const DEFAULT_SETTLED_RULE: SettledRule = { toleranceK: 0.5, windowS: 300 };

/** Half of the 95 % interval within which a settled value is known well enough: about what mounts scatter by anyway, K. Our own figure. */
export const READ_WITHIN_K = 0.6;

/** Half of the 95 % interval of where a spot will settle, by its record so far, K; 0 where it is settled, null where nothing can be said. */
export function knownWithinK({ settled, remains }: Pick<BoundedSettling, 'settled' | 'remains'>): number | null {
  if (settled) return 0;
  return remains === null ? null : 2 * remains.likely.u;
}

/** Whether a spot says enough for a phase to end, by what the phase waits for. */
export function waitedEnough(mode: PhaseEndMode, settling: Pick<BoundedSettling, 'settled' | 'remains'>): boolean {
  if (mode !== 'until-read') return settling.settled;
  const within = knownWithinK(settling);
  return within !== null && within <= READ_WITHIN_K;
}

/** Shortest and longest a recipe can take, seconds; each step of a sweep takes what the phase says. */
export function recipeLengthS(recipe: readonly (Pick<RecipePhase, 'mode' | 'durationS' | 'capS'> & { steps?: number })[]): {
  leastS: number;
  mostS: number;
} {
  let leastS = 0;
  let mostS = 0;
  for (const phase of recipe) {
    const times = phase.steps ?? 1;
    leastS += times * phase.durationS;
    mostS += times * (phase.mode === 'fixed' ? phase.durationS : Math.max(phase.durationS, phase.capS));
  }
  return { leastS, mostS };
}

/** Marks of a phase that fall into (fromS, toS] of the run's clock, in minutes of the phase. */
export function marksDue(phase: Pick<RecipePhase, 'marksMin'>, startS: number, fromS: number, toS: number): number[] {
  return (phase.marksMin ?? []).filter((minute) => startS + 60 * minute > fromS && startS + 60 * minute <= toS);
}

/**
 * Points on which settling is judged: a record of many samples is averaged in groups first. The slow shape and the slope over a
 * window of minutes stay what they are, and the noise of neighbours, which are not independent, is averaged with them.
 */
const SETTLING_POINTS = 3000;
const SETTLING_FROM = 12_000;

/** A series as settling needs it: as it is, or of a long record its means. */
export function forSettling(series: Series): Series {
  const all = usable(series);
  return all.t.length > SETTLING_FROM ? blockMeans(all, SETTLING_POINTS) : all;
}

/** What settling is judged on: spikes left out, and the rise where the room is known. */
export function settlingTrace(spot: Series, room: Series | null): Series {
  const clean = forSettling(rejectTemperatureSpikes(spot).clean);
  return room && usable(room).t.length > 0 ? riseOverAmbient(clean, forSettling(room)) : clean;
}

/**
 * A phase is ended a little inside the tolerance, so that the reading made of it afterwards, which sees one sample fewer, does
 * not come out unsettled by a hair.
 */
const INSIDE = 0.9;

/**
 * Whether a phase is over at `nowS`, and by what.
 *
 * A pause is never over by itself. A phase that waits ends when every spot's rise is settled, or known well enough where it will settle, not before its least length and
 * not after its cap.
 *
 * @param startS seconds on the run's clock
 * @param spots °C on the run's clock, the whole run
 * @param room °C, or null where no room is recorded
 */
export function phaseEnd(
  phase: RecipePhase,
  startS: number,
  nowS: number,
  spots: readonly Series[],
  room: Series | null,
  rule: SettledRule = DEFAULT_SETTLED_RULE,
): PhaseEnd | null {
  // The load never comes back by itself: somebody says go on.
  if (phase.kind === 'pause') return null;
  const elapsedS = nowS - startS;
  if (phase.mode === 'fixed') return elapsedS >= phase.durationS ? 'time' : null;
  if (elapsedS >= phase.capS) return 'cap';
  if (elapsedS < Math.max(phase.durationS, rule.windowS)) return null;
  const window = { startS, endS: nowS + 1e-6 };
  const traces = spots.map((spot) => settlingTrace(slice(spot, window), room));
  const readable = traces.filter((trace) => usable(trace).t.length >= 4);
  if (readable.length === 0) return null;
  // A cheap look at every spot before the first fit.
  const steady = phase.mode === 'until-settled';
  if (steady && readable.some((trace) => slopeForbids(usable(trace), INSIDE * rule.toleranceK, rule.windowS))) return null;
  return readable.every((trace) => waitedEnough(phase.mode, settlingNow(trace, rule)!)) ? endOfWait(phase.mode) : null;
}

/** What a phase that waited ends by. */
export const endOfWait = (mode: PhaseEndMode): PhaseEnd => (mode === 'until-read' ? 'read' : 'settled');

/**
 * How a phase that waits judges one spot: settled a little inside the tolerance.
 *
 * @param trace as `settlingTrace` makes it
 * @returns null where there is too little to say anything
 */
export function settlingNow(trace: Series, rule: SettledRule = DEFAULT_SETTLED_RULE): BoundedSettling | null {
  if (usable(trace).t.length < 4) return null;
  return boundSettling(trace, { ...rule, toleranceK: INSIDE * rule.toleranceK });
}
