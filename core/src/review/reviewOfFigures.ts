import type { Estimate } from '../estimate.ts';
import { removeBackground } from '../noise/removeBackground.ts';
import type { WindowReading } from '../series/readWindow.ts';
import { typeB } from '../uncertainty/typeB.ts';
import { heatPathOf } from './heatPath.ts';
import { eachOutput, outputsOf, type OutputKey } from './outputs.ts';
import { METHOD_VERSION } from './reviewRun.ts';
import type { LoadReview, PhaseReading, RunReview } from './types.ts';

/** A figure as somebody wrote it down. */
export interface GivenFigure {
  value: number;
  /** Last place it was written to: 0.1 for 61.4. */
  step: number;
}

/** What was written down of one load, settled, as it says. */
export interface GivenLoad {
  name: string;
  /** By spot: a rise over room (K) or a temperature (°C). */
  spots: { spotId: string; kind: 'rise' | 'temperature'; figure: GivenFigure }[];
  /** °C over the load; null where nobody wrote it down. */
  room: GivenFigure | null;
  outputs: Partial<Record<OutputKey, GivenFigure>>;
}

/** A run of which there is no trace: figures that somebody has worked out. */
export interface GivenFigures {
  loads: GivenLoad[];
  /** Level of the room with nothing running, dB(A); null where none was measured. */
  noiseFloorDb: number | null;
}

/** Air that a rise without a room is drawn over, °C; nothing is worked out from it. */
const DRAWN_OVER_C = 22;

const estimateOf = ({ value, step }: GivenFigure): Estimate => ({ value, u: typeB(step / 2, 'rectangular'), dof: Infinity });

function windowOf(mean: Estimate): WindowReading {
  return { mean, n: 1, nEffective: 1, min: mean.value, max: mean.value, p95: mean.value };
}

function readingOf(figure: Estimate, kind: 'rise' | 'temperature', room: Estimate | null): PhaseReading {
  const shifted = (byC: number, u = 0): Estimate => ({ ...figure, value: figure.value + byC, u: Math.hypot(figure.u, u) });
  const rise = kind === 'rise' ? figure : room && shifted(-room.value, room.u);
  const absolute = kind === 'temperature' ? figure : shifted(room?.value ?? DRAWN_OVER_C, room?.u);
  return {
    phase: 'load',
    window: { startS: 0, endS: 0 },
    chosen: false,
    absolute: windowOf(absolute),
    rise: rise && windowOf(rise),
    overIntake: null,
    settling: {
      settled: true,
      atS: null,
      slopeKPerMin: { value: 0, u: 0, dof: Infinity },
      remainingK: null,
      etaS: null,
      confirmedInS: null,
      slowTauS: null,
      remains: null,
    },
    toGo: null,
    bound: 'settled',
    spikes: 0,
    spikeShare: 0,
    steps: { stepK: null, scatterK: 0 },
    peakC: absolute.value,
  };
}

/** A level freed of the room's floor; null where the two lie too close together to tell. */
function freedLevel(level: Estimate | null, floorDb: number | null): number | null | undefined {
  if (!level || floorDb === null) return undefined;
  if (level.value <= floorDb) return null;
  const { level: freed, reliable } = removeBackground(level.value, floorDb);
  return reliable ? freed : null;
}

/**
 * A run's review out of figures that were given, with no trace behind them: what they say and nothing more. They are taken as settled,
 * because somebody wrote them down so; their doubt is the place to which they were written, and the scatter between runs.
 *
 * @param given at least one load; loads by their names, as a sweep has them
 */
export function reviewOfFigures(given: GivenFigures): RunReview {
  const loads = given.loads.map(({ name, spots, room, outputs }, i): LoadReview => {
    const air = room && estimateOf(room);
    const all = eachOutput((key) => (outputs[key] ? estimateOf(outputs[key]) : null));
    return {
      phase: i,
      name,
      startS: i,
      endS: i,
      endedBy: 'given',
      spots: spots.map(({ spotId, kind, figure }) => ({ spotId, reading: readingOf(estimateOf(figure), kind, air) })),
      room: air && { meanC: air.value, minC: air.value, maxC: air.value, driftK: 0 },
      freedDb: freedLevel(all.noise, given.noiseFloorDb),
      ...all,
    };
  });
  const last = loads.at(-1)!;
  return {
    methodVersion: METHOD_VERSION,
    asGiven: true,
    spots: last.spots.map(({ spotId, reading }) => ({
      spotId,
      idle: null,
      load: reading,
      heatPath: heatPathOf(reading, last.power),
    })),
    room: last.room,
    air: null,
    throttle: null,
    goneShare: 0,
    ...outputsOf(last),
    fanMovedShare: null,
    utilisationPercent: null,
    loadS: null,
    loadEndedBy: null,
    uncounted: [],
    atRest: null,
    loads: loads.length > 1 ? loads : [],
    locks: [],
  };
}
