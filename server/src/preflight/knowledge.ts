import type { PreflightInput, UsualSpeed } from '@red-ember/core';
import type { SeatService } from '../mounts/seat.ts';
import type { MountStore } from '../mounts/store.ts';
import type { ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { SignatureService } from '../signatures/service.ts';
import type { StudyService } from '../studies/service.ts';
import { notFound } from '../http/problems.ts';

/** What earlier runs say of a mount before it is loaded. */
export interface MountKnowledge {
  /** Mean rise over room at idle, K, by spot. */
  idleRiseK: Record<string, number>;
  seat: PreflightInput['seat'];
  /** Of its fans, by their role: the key of their channel on a rig. */
  speeds: Record<string, UsualSpeed>;
}

/** Whoever can say it: the readings of this process, or the desk's. */
export interface KnowsMounts {
  ofMount(mountId: string): Promise<MountKnowledge>;
}

/** Reads what is known of a mount off the runs before it. */
export class MountHistory implements KnowsMounts {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
    private readonly seats: SeatService,
    private readonly mounts: MountStore,
    private readonly signatures: SignatureService,
  ) {}

  /** @throws HttpProblem 404 without the mount */
  async ofMount(mountId: string): Promise<MountKnowledge> {
    const mount = this.mounts.find(mountId);
    if (!mount) throw notFound('This mount');
    const speeds = await this.signatures.usualSpeeds(this.studies.get(mount.studyId), mount.variantId);
    return { idleRiseK: this.usualIdleRise(mount.studyId, mount.variantId), seat: this.seat(mount), speeds };
  }

  private seat(mount: NonNullable<ReturnType<MountStore['find']>>): PreflightInput['seat'] {
    const others = this.mounts.ofStudy(mount.studyId).filter((other) => other.variantId === mount.variantId && other.id !== mount.id);
    if (others.length === 0) return 'not-needed';
    const verdict = this.seats.of(mount.id).check?.verdict ?? 'unknown';
    return verdict === 'unknown' ? 'not-checked' : verdict === 'alike' ? 'alike' : 'off';
  }

  /** Of the variant's runs that ended: another cooler idles at another level. */
  private usualIdleRise(studyId: string, variantId: string): Record<string, number> {
    const study = this.studies.get(studyId);
    const rises: Record<string, number[]> = {};
    for (const run of this.runs.ofStudy(studyId)) {
      if (run.variantId !== variantId || run.state !== 'finished' || run.disposition === 'reject' || run.purpose !== 'measure') continue;
      for (const spot of this.readings.review(run, study).spots) {
        const rise = spot.idle?.rise?.mean.value;
        if (rise !== undefined) (rises[spot.spotId] ??= []).push(rise);
      }
    }
    return Object.fromEntries(
      Object.entries(rises).map(([id, values]) => [id, values.reduce((sum, value) => sum + value / values.length, 0)]),
    );
  }
}
