import { studentCoverage } from '../distributions/studentT.ts';
import { InsufficientDataError, requireFinite, requirePositive } from '../errors.ts';

/** How far a spot had risen after some time of load, on one mount. */
export interface SeatReading {
  spotId: string;
  /** Over its idle level, K, at `lateS` of load. */
  gainK: number;
  /** The same, early in the load. */
  earlyGainK: number;
  /** Idle over room, K; null where the room was not read. */
  idleK: number | null;
}

export interface SeatMount {
  /** Mean power in the load, W; null where it was not read. */
  powerW: number | null;
  spots: SeatReading[];
}

export interface SeatSpot {
  spotId: string;
  gainK: number;
  /** From earlier mounts, at equal power; null without them. */
  expectedK: number | null;
  differenceK: number | null;
  /** Half-width of what one more mount may differ by, K. */
  doubtK: number | null;
  verdict: 'alike' | 'hotter' | 'cooler' | 'unknown';
}

export type SeatCause = 'contact' | 'one-part' | 'fan' | 'room' | 'power' | 'better';

export interface SeatCheck {
  earlier: number;
  /** Power was read on every mount, so that gains could be restated. */
  equalPower: boolean;
  spots: SeatSpot[];
  verdict: 'alike' | 'hotter' | 'cooler' | 'unknown';
  /** The spot that is farthest off. */
  worst: SeatSpot | null;
  /** Likely causes, likeliest first; empty where the seat looks like the others. */
  causes: SeatCause[];
}

/** Below this nothing is called, K: probes alone differ by as much from fit to fit. */
const LEAST_K = 1;
/** A mount that is measured alone scatters like this, share of the gain, until the bench knows better. */
const ASSUMED_SHARE = 0.06;
const ASSUMED_DOF = 8;

/** Of the excess, in the first quarter of the time: a few hundredths through a slow sink, a third beside a bad contact. */
const EARLY_SHARE = 0.2;

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value / values.length, 0);

/** Gain restated at the power of the mount that is checked; left as it is where either power is unknown. */
const atPower = (gainK: number, mount: SeatMount, now: SeatMount) =>
  mount.powerW !== null && now.powerW !== null ? (gainK * now.powerW) / mount.powerW : gainK;

function spotOf(now: SeatMount, reading: SeatReading, earlier: readonly SeatMount[]): SeatSpot {
  const gains = earlier.flatMap((mount) => {
    const same = mount.spots.find((spot) => spot.spotId === reading.spotId);
    return same ? [atPower(same.gainK, mount, now)] : [];
  });
  const base = { spotId: reading.spotId, gainK: reading.gainK };
  if (gains.length === 0) return { ...base, expectedK: null, differenceK: null, doubtK: null, verdict: 'unknown' };
  const expectedK = mean(gains);
  const n = gains.length;
  // A few mounts know little of their own scatter: it is pooled with what mounts usually scatter.
  const squares = gains.reduce((sum, gain) => sum + (gain - expectedK) ** 2, 0) + ASSUMED_DOF * (ASSUMED_SHARE * expectedK) ** 2;
  const dof = n - 1 + ASSUMED_DOF;
  const doubtK = Math.max(LEAST_K, studentCoverage(0.95, dof) * Math.sqrt((squares / dof) * (1 + 1 / n)));
  const differenceK = reading.gainK - expectedK;
  return {
    ...base,
    expectedK,
    differenceK,
    doubtK,
    verdict: Math.abs(differenceK) <= doubtK ? 'alike' : differenceK > 0 ? 'hotter' : 'cooler',
  };
}

/** Why a seat may be off: from which spots are off, when they rose, and what else was different. */
function causesOf(now: SeatMount, spots: readonly SeatSpot[], earlier: readonly SeatMount[]): SeatCause[] {
  const off = spots.filter((spot) => spot.verdict === 'hotter');
  if (off.length === 0) return spots.some((spot) => spot.verdict === 'cooler') ? ['better', 'power'] : [];
  const reading = (mount: SeatMount, spotId: string) => mount.spots.find((spot) => spot.spotId === spotId);
  const earlyExcess = (spotId: string) =>
    reading(now, spotId)!.earlyGainK -
    mean(
      earlier.flatMap((mount) => {
        const spot = reading(mount, spotId);
        return spot ? [atPower(spot.earlyGainK, mount, now)] : [];
      }),
    );
  // Bad contact shows early at the part beside it, whose own heat capacity is small; a fan that stands still shows late and
  // everywhere, through a sink that warms for minutes.
  const earliest = Math.max(...off.map(({ spotId, differenceK }) => earlyExcess(spotId) / differenceK!));
  const idles = (mount: SeatMount) => mount.spots.flatMap((spot) => spot.idleK ?? []);
  const [idleNow, idleBefore] = [idles(now), earlier.flatMap(idles)];
  const idle = idleNow.length > 0 && idleBefore.length > 0 ? mean(idleNow) - mean(idleBefore) : 0;
  const judged = spots.filter((spot) => spot.verdict !== 'unknown');
  const all = off.length === judged.length && judged.length > 1;
  const causes: SeatCause[] = [];
  if (!all) causes.push(off.length === 1 ? 'one-part' : 'contact', off.length === 1 ? 'contact' : 'one-part');
  else causes.push(...(earliest >= EARLY_SHARE ? (['contact', 'fan'] as const) : (['fan', 'contact'] as const)));
  if (idle > 2) causes.push('room');
  if (now.powerW === null || earlier.some((mount) => mount.powerW === null)) causes.push('power');
  return causes;
}

/**
 * Whether a mount sits as earlier mounts of the same variant did: the rise of each spot in the first minutes of load, at equal
 * power, against their mean, with the 95 % interval of one further mount (their own scatter, pooled with an assumed 6 % of the
 * gain at 8 degrees of freedom; never under 1 K).
 *
 * @param earlier other mounts of the same variant; may be empty, then nothing is called
 * @throws InsufficientDataError no spot was read
 * @throws RangeError a reading that is not a number, a power not above zero
 */
export function seatCheck(now: SeatMount, earlier: readonly SeatMount[]): SeatCheck {
  if (now.spots.length === 0) throw new InsufficientDataError('no spot was read on this mount');
  for (const mount of [now, ...earlier]) {
    if (mount.powerW !== null) requirePositive(mount.powerW, 'powerW');
    for (const spot of mount.spots)
      for (const key of ['gainK', 'earlyGainK', 'idleK'] as const) requireFinite(spot[key] ?? 0, `${spot.spotId}: ${key}`);
  }
  const spots = now.spots.map((reading) => spotOf(now, reading, earlier));
  const judged = spots.filter((spot) => spot.differenceK !== null);
  const worst = [...judged].sort((a, b) => Math.abs(b.differenceK! / b.doubtK!) - Math.abs(a.differenceK! / a.doubtK!))[0] ?? null;
  const verdict = worst === null ? 'unknown' : spots.some((spot) => spot.verdict === 'hotter') ? 'hotter' : worst.verdict;
  const equalPower = [now, ...earlier].every((mount) => mount.powerW !== null);
  return { earlier: earlier.length, equalPower, spots, verdict, worst, causes: causesOf(now, spots, earlier) };
}
