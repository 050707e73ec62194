/**
 * What went over the line of a run. `commanded` and `reported`: a load changed; `missing`: messages of these numbers never came; `again`:
 * they came once more, after a line was lost or an acknowledgement was; `back`: the rig said hello in the middle of the run.
 */
export type LineKind = 'commanded' | 'reported' | 'missing' | 'again' | 'back';

export interface LineEntry {
  /** The run's clock, s. */
  atS: number;
  /** The wall's, ISO. */
  at: string;
  kind: LineKind;
  /** Of a load, %; null where it is none. */
  percent: number | null;
  /** Sequence numbers, from and to; null where it is about none. */
  fromSeq: number | null;
  toSeq: number | null;
}

/** A stretch over which a rig reported another load than it was told. */
export interface LoadDifference {
  fromS: number;
  toS: number;
  /** By the wall clock, s. */
  lastedS: number;
  commanded: number;
  reported: number;
}

/** A rig has this long to do what it is told, s of the wall clock. */
const OBEYS_WITHIN_S = 2;

/**
 * Where a rig reported another load than was commanded for longer than it may take to obey.
 *
 * @param entries in the order in which they were written
 * @param end of the run: its clock, s, and the wall's, ISO; what differs then differs until then
 */
export function whereLoadsDiffer(entries: readonly LineEntry[], end: { atS: number; at: string }): LoadDifference[] {
  const found: LoadDifference[] = [];
  let commanded: number | null = null;
  let reported: number | null = null;
  let since: { atS: number; at: string } | null = null;
  const close = (now: { atS: number; at: string }) => {
    if (!since || commanded === null || reported === null) return;
    const lastedS = (Date.parse(now.at) - Date.parse(since.at)) / 1000;
    if (lastedS > OBEYS_WITHIN_S) found.push({ fromS: since.atS, toS: now.atS, lastedS, commanded, reported });
  };
  for (const entry of entries) {
    if (entry.percent === null) continue;
    close(entry);
    if (entry.kind === 'commanded') commanded = entry.percent;
    if (entry.kind === 'reported') reported = entry.percent;
    since = commanded !== null && reported !== null && commanded !== reported ? entry : null;
  }
  close(end);
  return found;
}

/** A step of the times that is so many times the usual one is a gap. */
const GAP_STEPS = 3;

/**
 * Stretches without samples.
 *
 * @param t times of samples, ascending, s
 * @returns the usual step, s, and every gap; none of either where there are fewer than three samples
 */
export function sampleGaps(t: ArrayLike<number>): { stepS: number | null; gaps: { fromS: number; toS: number }[] } {
  if (t.length < 3) return { stepS: null, gaps: [] };
  const steps = Float64Array.from({ length: t.length - 1 }, (_, i) => t[i + 1]! - t[i]!);
  const stepS = Float64Array.from(steps).sort()[Math.floor(steps.length / 2)]!;
  const gaps: { fromS: number; toS: number }[] = [];
  steps.forEach((step, i) => {
    if (step > GAP_STEPS * stepS) gaps.push({ fromS: t[i]!, toS: t[i + 1]! });
  });
  return { stepS, gaps };
}
