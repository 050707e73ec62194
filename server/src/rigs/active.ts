import {
  clock,
  ClockWatch,
  CutOutWatch,
  duration,
  fixed,
  type HeldBy,
  InsufficientDataError,
  signed,
  watchLock,
  type LiveLock,
  type RecipePhase,
  type Series,
} from '@red-ember/core';
import { CLOCK_OFF, type Run, type RunState, type Study, type VanishChoice } from '@red-ember/contract';
import type { RunPlan, StoredChannel } from '../runs/store.ts';
import { watchedLocks, type WatchedLock } from '../runs/watchedLocks.ts';
import type { SampleStore } from '../samples/store.ts';
import { GrowingSeries } from './liveRecord.ts';
import { LineRecord } from './lineRecord.ts';
import { LoadGuard } from './loadGuard.ts';
import type { SettlingJudge } from './settling/judge.ts';
import { SettlingWatch } from './settling/settlingWatch.ts';

/** A part that has not answered for this long is gone, seconds of the run's clock. */
const VANISH_S = 20;

/** A run that goes on, as the conductor holds it; all of it can be rebuilt from the database. */
export interface Active {
  runId: string;
  studyId: string;
  rigId: string;
  timeScale: number;
  recipe: RecipePhase[];
  phaseIndex: number;
  phaseStartMs: number;
  lastSeq: number;
  lastMs: number;
  loadStartS: number | null;
  idleEnd: { fromS: number; toS: number } | null;
  /** Recorded by the rig; spots that are read by hand are not among them. */
  channels: StoredChannel[];
  /** Spots read by hand, with what an instrument in somebody's hand shows now. */
  hand: { spotId: string; key: string; valueC: number | null }[];
  series: Map<string, GrowingSeries>;
  watch: CutOutWatch;
  guard: LoadGuard;
  line: LineRecord;
  clock: ClockWatch;
  /** What was said of the rig's clock; null while nothing was. */
  clockSaid: string | null;
  /** Latest time that was seen on the rig's clock, whether it was kept or not, ms. */
  seenMs: number;
  /** Why the load is off although the phase asks for it, until that is written; null where it is not. */
  held: { why: string; linkId?: string | undefined } | null;
  /** How the run ends, until that is written. */
  ending: { state: RunState; endedBy: string; reason: string } | null;
  /** The record cannot be written: why, and when it is tried again, ms of the monotonic clock. */
  trouble: { sentence: string; sinceMs: number; waitMs: number; nextAtMs: number } | null;
  /** First message that was not kept and has to come again; null where there is none. */
  declinedSeq: number | null;
  /** A message that could not be kept, and how often it was tried. */
  poison: { seq: number; tries: number } | null;
  /** The rig reports a load that nobody asks for. */
  runsAway: boolean;
  locks: (WatchedLock & LiveLock)[];
  needsRoom: boolean;
  onVanish: VanishChoice;
  vanished: boolean;
  settling: SettlingWatch;
  locksCheckedS: number;
  /** When settling was last judged, ms of the monotonic clock. */
  lookedAtMs: number;
  sentUpTo: Map<string, number>;
  snapshotAtMs: number;
  /** What was last found to hold the part back, and when it may be looked for again, ms of the monotonic clock. */
  heldBack: { by: HeldBy | null; againAtMs: number };
  samplesAtMs: number;
  /** When the server began to wait for the rig: its start, or the run's. */
  waitingSinceMs: number;
  quiet: boolean;
}

export function activeOf(
  run: Run,
  plan: RunPlan,
  stored: StoredChannel[],
  study: Study | null,
  samples: SampleStore,
  judge: SettlingJudge,
  now: () => Date,
): Active {
  const channels = stored.filter((channel) => channel.role !== 'hand');
  const last = run.phases.at(-1);
  const loadPhase = run.phases.find((phase) => phase.kind === 'load');
  const idle = run.phases.find((phase) => phase.kind === 'idle-soak' && phase.endS !== null);
  return {
    runId: run.id,
    studyId: run.studyId,
    rigId: run.sourceName,
    timeScale: run.timeScale,
    recipe: plan.recipe,
    phaseIndex: Math.max(0, run.phases.length - 1),
    phaseStartMs: last ? Math.round(last.startS * 1000) : 0,
    lastSeq: plan.lastSeq,
    lastMs: Math.round(run.lengthS * 1000),
    loadStartS: loadPhase?.startS ?? null,
    idleEnd: idle ? { fromS: Math.max(idle.startS, idle.endS! - 120), toS: idle.endS! } : null,
    channels,
    hand: stored.filter((channel) => channel.role === 'hand').map(({ spotId, key }) => ({ spotId: spotId!, key, valueC: null })),
    series: new Map(channels.map((channel) => [channel.key, GrowingSeries.from(samples.read(run.id, channel.key))])),
    watch: new CutOutWatch(plan.armed),
    guard: new LoadGuard(plan.armed),
    line: new LineRecord(now),
    clock: new ClockWatch(run.timeScale),
    clockSaid: run.events.find(({ kind }) => kind === CLOCK_OFF)?.text ?? null,
    seenMs: Math.round(run.lengthS * 1000),
    held: null,
    ending: null,
    trouble: null,
    declinedSeq: null,
    poison: null,
    runsAway: false,
    locks: (study ? watchedLocks(run, study) : []).map((lock) => ({ ...lock, now: null, leftAtS: null, largestOff: 0 })),
    needsRoom: study?.rules.basis !== 'as-found' && channels.some((channel) => channel.role === 'room'),
    onVanish: run.onVanish,
    vanished: false,
    settling: new SettlingWatch(judge),
    locksCheckedS: 0,
    lookedAtMs: 0,
    sentUpTo: new Map(),
    snapshotAtMs: 0,
    heldBack: { by: null, againAtMs: 0 },
    samplesAtMs: 0,
    waitingSinceMs: performance.now(),
    quiet: false,
  };
}

/** The series of a role's channel as far as it has come; null where none is recorded. */
export function seriesOf(active: Active, role: string): Series | null {
  const channel = active.channels.find((candidate) => candidate.role === role);
  return channel ? active.series.get(channel.key)!.view : null;
}

/** Spots that the rig reads, with their series as far as they have come. */
export const spotsOf = (active: Active): { spotId: string; series: Series }[] =>
  active.channels
    .filter((channel) => channel.role === 'spot')
    .map(({ key, spotId }) => ({ spotId: spotId!, series: active.series.get(key)!.view }));

/** Looks at the locks since the load began; returns a sentence for each that has left its tolerance since the last look. */
export function lookAtLocks(active: Active): string[] {
  if (active.loadStartS === null) return [];
  const window = { startS: active.loadStartS, endS: active.lastMs / 1000 + 1e-6 };
  return active.locks.flatMap((lock) => {
    const series = active.series.get(lock.key);
    if (!series) return [];
    lock.now = series.latest;
    try {
      const { leftAtS, largestOff } = watchLock(series.view, lock, window);
      const news = leftAtS !== null && lock.leftAtS === null;
      lock.leftAtS = leftAtS;
      lock.largestOff = largestOff;
      const unit = lock.unit === '' ? '' : ` ${lock.unit}`;
      return news ? [`${lock.name} moved ${signed(largestOff, 1)}${unit} from ${lock.value}${unit} at ${clock(leftAtS)}`] : [];
    } catch (error) {
      if (error instanceof InsufficientDataError) return [];
      throw error;
    }
  });
}

/** Says once that the rig's clock goes otherwise than this machine's, and by how much; null where there is nothing to say, or it was said. */
export function lookAtClock(active: Active): string | null {
  const off = active.clockSaid === null ? active.clock.off() : null;
  if (!off) return null;
  const goes = `${fixed(100 * Math.abs(off.share), 1)} % ${off.share > 0 ? 'fast' : 'slow'}`;
  active.clockSaid = `The rig’s clock goes ${goes} by this machine’s: ${fixed(Math.abs(off.byS), 1)} s in ${duration(off.overS)}`;
  return active.clockSaid;
}

/** Whether the part has just gone, has just come back, or neither: a part under load that no longer says what it does is gone. */
export function answerOf(active: Active): 'gone' | 'back' | null {
  const channel = active.channels.find((candidate) => candidate.role === 'throughput');
  const atS = channel ? active.series.get(channel.key)!.latestAtS : null;
  if (atS === null) return null;
  const silentS = active.lastMs / 1000 - atS;
  const gone = silentS >= VANISH_S && (active.vanished || active.recipe[active.phaseIndex]!.loadPercent > 0);
  if (gone === active.vanished) return null;
  active.vanished = gone;
  return gone ? 'gone' : 'back';
}
