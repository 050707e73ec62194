import { drawable, heldNow, liveFigures, type HeldBy } from '@red-ember/core';
import type { LiveSamples, LiveSnapshot } from '@red-ember/contract';
import { handSeries } from '../runs/handStore.ts';
import type { LiveHub } from '../live/hub.ts';
import type { RunStore, StoredChannel } from '../runs/store.ts';
import { powerLimitOf } from '../runs/watchedLocks.ts';
import type { StudyStore } from '../studies/store.ts';
import { seriesOf, type Active } from './active.ts';

const SNAPSHOT_EVERY_MS = 1000;
const SAMPLES_EVERY_MS = 250;
/** What is looked for rests for so many times as long as it took. */
const REST = 50;

/** Tells the pages of a run that goes on; does nothing where no page watches. */
export class LivePublisher {
  constructor(private readonly deps: { runs: RunStore; studies: StudyStore; live: LiveHub; log: (text: string) => void }) {}

  /** What is shown must never be what takes a load off, nor what keeps it on. */
  private tell(active: Active, event: string, data: () => unknown): void {
    if (!this.deps.live.hasListeners(active.runId)) return;
    try {
      this.deps.live.publish(active.runId, event, data());
    } catch (error) {
      this.deps.log(`Pages of run ${active.runId} were not told: ${String(error)}`);
    }
  }

  run(active: Active): void {
    this.tell(active, 'run', () => this.deps.runs.find(active.runId));
  }

  /** New samples and, every second, how the run stands. */
  samples(active: Active): void {
    const now = performance.now();
    if (!this.deps.live.hasListeners(active.runId)) return;
    if (now - active.samplesAtMs >= SAMPLES_EVERY_MS) {
      active.samplesAtMs = now;
      this.tell(active, 'samples', () => this.newSamples(active));
    }
    if (now - active.snapshotAtMs >= SNAPSHOT_EVERY_MS) this.snapshot(active);
  }

  private newSamples(active: Active): LiveSamples {
    const series = active.channels
      .filter((channel) => channel.role !== 'beside')
      .map((channel) => {
        const { t, y } = active.series.get(channel.key)!.view;
        const from = active.sentUpTo.get(channel.key) ?? Math.max(0, t.length - 1);
        active.sentUpTo.set(channel.key, t.length);
        return { key: channel.key, ...drawable({ t: t.subarray(from), y: y.subarray(from) }, 24) };
      });
    return { runId: active.runId, series };
  }

  snapshot(active: Active): void {
    active.snapshotAtMs = performance.now();
    this.tell(active, 'snapshot', () => this.snapshotOf(active));
  }

  /** What holds the part back; looked for anew no oftener than its cost allows, since a long load takes a while to look through. */
  private heldBy(active: Active, throttle: { id: string; throttleC: number | null } | null): HeldBy | null {
    const began = performance.now();
    if (began < active.heldBack.againAtMs) return active.heldBack.by;
    const work = seriesOf(active, 'throughput');
    const { loadStartS } = active;
    if (!work || loadStartS === null) return null;
    const spot = active.channels.find((channel) => channel.spotId === throttle?.id);
    const limitW = powerLimitOf(active.locks, active.channels);
    const [powerSeries, utilisation] = [seriesOf(active, 'power'), seriesOf(active, 'utilisation')];
    const by = heldNow(
      work,
      { startS: loadStartS, nowS: active.lastMs / 1000 },
      {
        ...(spot && throttle?.throttleC != null ? { temperature: active.series.get(spot.key)!.view, limitC: throttle.throttleC } : {}),
        ...(utilisation ? { utilisation } : {}),
        ...(powerSeries && limitW !== null ? { power: powerSeries, powerCapW: limitW } : {}),
      },
    );
    active.heldBack = { by, againAtMs: began + REST * (performance.now() - began) };
    return by;
  }

  snapshotOf(active: Active): LiveSnapshot {
    const { runId } = active;
    const study = this.deps.studies.find(active.studyId);
    const hand = active.hand.length > 0 ? (this.deps.runs.find(runId)?.handReadings ?? []) : [];
    const byRole = (role: string) => active.channels.find((channel) => channel.role === role);
    const viewOf = (channel: StoredChannel | undefined) => (channel ? (active.series.get(channel.key)?.view ?? null) : null);
    const figures = liveFigures({
      nowS: active.lastMs / 1000,
      phaseIndex: active.phaseIndex,
      phaseStartS: active.phaseStartMs / 1000,
      phase: active.recipe[active.phaseIndex]!,
      idleEnd: active.idleEnd,
      loadStartS: active.loadStartS,
      room: viewOf(byRole('room')),
      throughput: viewOf(byRole('throughput')),
      throughputUnit: byRole('throughput')?.unit ?? '',
      power: viewOf(byRole('power')),
      heldBy: this.heldBy(active, study?.spots.find((spot) => spot.throttleC !== null) ?? null),
      locks: active.locks,
      vanished: active.vanished,
      shows: active.hand,
      settlingOf: (spotId) => active.settling.of(spotId),
      spots: (study?.spots ?? []).flatMap(({ id, limitC }) => {
        const channel = active.channels.find((candidate) => candidate.spotId === id);
        if (channel) return [{ spotId: id, limitC, series: active.series.get(channel.key)!.view }];
        const byHand = active.hand.some((spot) => spot.spotId === id);
        return byHand ? [{ spotId: id, limitC, series: handSeries(hand, id), byHand }] : [];
      }),
      rigLost: active.quiet,
    });
    return {
      runId,
      state: active.lastSeq > 0 ? 'recording' : 'waiting',
      trouble: active.trouble?.sentence ?? null,
      runsAway: active.runsAway,
      ...figures,
    };
  }
}
