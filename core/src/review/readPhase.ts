import { InsufficientDataError } from '../errors.ts';
import { forSettling } from '../conduct/recipe.ts';
import { readWindow, type WindowReading } from '../series/readWindow.ts';
import { rejectTemperatureSpikes } from '../series/rejectSpikes.ts';
import { riseOverAmbient } from '../series/riseOverAmbient.ts';
import { extremes, slice, type Series, type Window } from '../series/series.ts';
import { stepOf } from '../series/stepOf.ts';
import { boundSettling, type BoundedSettling } from '../settling/boundSettling.ts';
import { readByHand } from './readByHand.ts';
import type { Bound, PhaseReading, ReadingRules, RunPhase, ToGo } from './types.ts';

/** A phase with the window that is read of it. */
export interface PhaseToRead {
  phase: RunPhase;
  window: Window;
  chosen: boolean;
}

/** null instead of an error where there is too little to read: a finding, not a misuse. */
export function orNull<T>(compute: () => T): T | null {
  try {
    return compute();
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}

function boundOf(settling: BoundedSettling, toleranceK: number): Bound {
  if (settling.settled) return 'settled';
  const { remains } = settling;
  if (remains) {
    const [rises, falls] = [remains.highK > toleranceK, -remains.lowK > toleranceK];
    if (rises !== falls) return rises ? 'still-rising' : 'still-falling';
  }
  const toward = settling.remainingK ? settling.remainingK.value : settling.slopeKPerMin.value;
  if (
    settling.remainingK &&
    Math.abs(settling.remainingK.value) < 2 * settling.remainingK.u &&
    Math.abs(settling.slopeKPerMin.value) < 2 * settling.slopeKPerMin.u
  )
    return 'unsteady';
  return toward > 0 ? 'still-rising' : 'still-falling';
}

/** What remains, counted from the mean of the window that was read. */
function toGoOf({ remains }: BoundedSettling): ToGo | null {
  if (!remains) return null;
  const { likely, lowK, highK, meanBehindK } = remains;
  return { likely: { ...likely, value: likely.value + meanBehindK }, lowK: lowK + meanBehindK, highK: highK + meanBehindK };
}

/** Air samples before and after a window that its ends are interpolated with, seconds; more than a gap may last. */
export const AIR_AROUND_S = 60;

/** Air that a spot is referred to. `coarse` is the room for judging when it settled. */
export interface Air {
  room: Series | null;
  coarse: Series | null;
  intake: Series | null;
}

export function airOf(room: Series | null, intake: Series | null): Air {
  return { room, coarse: room && forSettling(room), intake };
}

function over(inside: Series, ambient: Series | null, window: Window): WindowReading | null {
  if (!ambient) return null;
  const near = { startS: window.startS - AIR_AROUND_S, endS: window.endS + AIR_AROUND_S };
  return orNull(() => readWindow(riseOverAmbient(inside, slice(ambient, near)), window));
}

/** Means of equal length elsewhere in the phase scatter by more than the window itself can know of: a room that comes and goes. */
function wandering<T extends WindowReading | null>(reading: T, { remains }: BoundedSettling): T {
  const wander = remains?.wander;
  if (!reading || !wander || wander.sd <= reading.mean.u) return reading;
  return { ...reading, mean: { ...reading.mean, u: wander.sd, dof: wander.dof } };
}

/** Scatter from one sample to the next: what drifts slowly across a step dithers nothing. */
function flickerOf(y: ArrayLike<number>): number {
  let [squares, count] = [0, 0];
  for (let i = 1; i < y.length; i++) {
    const apart = y[i]! - y[i - 1]!;
    if (apart !== apart) continue;
    squares += apart * apart;
    count++;
  }
  return count === 0 ? 0 : Math.sqrt(squares / (2 * count));
}

/** A logged spot in one phase: its window's mean, rise and settling, spikes left out. null where there is too little to read. */
export function readPhase(spot: Series, air: Air, { phase, window, chosen }: PhaseToRead, rules: ReadingRules): PhaseReading | null {
  // What comes after a chosen window says nothing of whether it was settled.
  const { clean, spikes } = rejectTemperatureSpikes(slice(spot, { startS: phase.startS, endS: window.endS }));
  const inWindow = spikes.filter((spike) => spike.t >= window.startS).length;
  return orNull(() => {
    // Only what the window needs is handed on: a check of eight hours costs more than the reading.
    const inside = slice(clean, window);
    const absolute = readWindow(inside, window);
    const rise = over(inside, air.room, window);
    const settling = boundSettling(rise ? riseOverAmbient(forSettling(clean), air.coarse!) : forSettling(clean), {
      ...rules.settled,
      readS: window.endS - window.startS,
    });
    return {
      phase: phase.kind,
      window,
      chosen,
      absolute: wandering(absolute, settling),
      rise: wandering(rise, settling),
      overIntake: wandering(over(inside, air.intake, window), settling),
      settling,
      toGo: toGoOf(settling),
      bound: boundOf(settling, rules.settled.toleranceK),
      steps: { stepK: stepOf(clean.y), scatterK: flickerOf(inside.y) },
      spikes: inWindow,
      spikeShare: inWindow / (inWindow + absolute.n),
      peakC: extremes(clean.y).high,
    };
  });
}

/** The same of a spot that was read by hand; a chosen window is the stretch whose last readings count. */
export function readHandPhase(
  spot: Series,
  room: Series | null,
  { phase, window, chosen }: PhaseToRead,
  rules: ReadingRules,
  resolutionK: number,
): PhaseReading | null {
  // What is typed at the very end of a phase still belongs to it.
  const stretch = { startS: chosen ? window.startS : phase.startS, endS: window.endS + 1e-6 };
  const read = readByHand(spot, room, stretch, { ...rules.settled }, resolutionK);
  const bound = read && (read.absolute.n < 3 ? 'unsteady' : boundOf(read.settling, rules.settled.toleranceK));
  return (
    read && {
      ...read,
      toGo: null,
      phase: phase.kind,
      chosen,
      overIntake: null,
      bound: bound!,
      spikes: 0,
      spikeShare: 0,
      steps: { stepK: resolutionK, scatterK: 0 },
    }
  );
}
