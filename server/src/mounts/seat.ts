import { SEAT_LATE_S, seatCheck, seatReading, type SeatMount } from '@red-ember/core';
import type { Run, SeatReport, Study } from '@red-ember/contract';
import type { RunStore } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { MountService } from './service.ts';

/** Samples before and after the first minutes of load that are read with them, seconds. */
const AROUND_S = 60;

/** Compares how a mount warms up with other mounts of the same variant. */
export class SeatService {
  constructor(
    private readonly mounts: MountService,
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly samples: SampleStore,
  ) {}

  of(mountId: string): SeatReport {
    const mount = this.mounts.get(mountId);
    const study = this.studies.get(mount.studyId);
    const runs = this.runs.ofStudy(study.id).filter((run) => run.variantId === mount.variantId && run.mountId !== null);
    const readOf = (id: string) => runs.filter((run) => run.mountId === id).flatMap((run) => this.read(study, run) ?? [])[0];
    const base = { mountId, atMin: SEAT_LATE_S / 60, check: null };
    const own = readOf(mountId);
    if (!own) return { ...base, runId: null, sentence: `No run of this mount has ${SEAT_LATE_S / 60} minutes of load yet.` };
    const earlier = this.mounts
      .ofStudy(study.id)
      .filter((other) => other.variantId === mount.variantId && other.id !== mountId)
      .flatMap((other) => readOf(other.id)?.mount ?? []);
    return { ...base, runId: own.runId, check: seatCheck(own.mount, earlier), sentence: '' };
  }

  /** What the first minutes of load of a run show; null where it has none, or was rejected and is no example. */
  private read(study: Study, run: Run): { runId: string; mount: SeatMount } | null {
    const load = run.phases.find((phase) => phase.kind === 'load');
    if (!load || run.disposition === 'reject') return null;
    const series = (key: string) =>
      this.samples.read(run.id, key, Math.max(0, load.startS - AROUND_S), load.startS + SEAT_LATE_S + AROUND_S);
    const ofRole = (role: string) => {
      const channel = run.channels.find((candidate) => candidate.role === role);
      return channel ? series(channel.key) : null;
    };
    const mount = seatReading({
      spots: run.channels
        .filter((channel) => channel.role === 'spot' && study.spots.some((spot) => spot.id === channel.spotId))
        .map((channel) => ({ spotId: channel.spotId!, series: series(channel.key) })),
      room: ofRole('room'),
      power: ofRole('power'),
      loadStartS: load.startS,
      loadEndS: load.endS ?? run.lengthS,
    });
    return mount && { runId: run.id, mount };
  }
}
