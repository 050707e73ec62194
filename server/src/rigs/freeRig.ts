import type { RigStatus, Study, VariantBody } from '@red-ember/contract';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import type { MountStore } from '../mounts/store.ts';
import type { StudyService } from '../studies/service.ts';
import { whatLacks } from './channels.ts';
import type { RigHub } from './rigHub.ts';

/** Finds what a run needs: the mount with its variant, and a rig that is free and can run it. */
export class FreeRig {
  constructor(
    private readonly studies: StudyService,
    private readonly mounts: MountStore,
    private readonly rigs: RigHub,
    private readonly busy: (rigId: string) => string | null,
  ) {}

  /**
   * A mount of a study with its variant.
   *
   * @throws HttpProblem 404 without them, 422 where the study has nothing to read
   */
  mounted(studyId: string, mountId: string): { study: Study; mount: NonNullable<ReturnType<MountStore['find']>>; variant: VariantBody } {
    const study = this.studies.get(studyId);
    const mount = this.mounts.find(mountId);
    const variant = study.variants.find((candidate) => candidate.id === mount?.variantId);
    if (!mount || mount.studyId !== studyId || !variant) throw notFound('This mount');
    if (study.spots.length === 0) throw unprocessable('This study has no spots yet: say at Look what is to be read.');
    return { study, mount, variant };
  }

  /**
   * A free rig that can run a variant: the one that is named, or the first that fits.
   *
   * @throws HttpProblem 409 without a free rig, 422 with what the rig lacks
   */
  rigFor(study: Study, variant: VariantBody, rigId?: string): RigStatus {
    const rigs = this.rigs.list(this.busy).filter((rig) => rig.connected && (!rigId || rig.id === rigId));
    if (rigs.length === 0)
      throw conflict(rigId ? 'This rig is not connected.' : 'No rig is connected. Start the bench, or import a recorded log.');
    const free = rigs.filter((candidate) => candidate.busyRunId === null);
    if (free.length === 0) throw conflict(rigs.length === 1 ? 'The rig is busy with another run.' : 'Every rig is busy with another run.');
    const lacking = free.map((rig) => ({ rig, lacks: whatLacks(study, variant, rig) }));
    const fits = lacking.find(({ lacks }) => lacks === null);
    if (!fits) throw unprocessable(lacking[0]!.lacks!);
    return fits.rig;
  }
}

/** @throws HttpProblem 422 with the first fault that a rig cannot be given */
export function mayBePlanted(rig: RigStatus, faults: readonly string[]): void {
  const unknown = faults.find((fault) => !rig.faults.some(({ key }) => key === fault));
  if (unknown !== undefined) throw unprocessable(`${rig.name} cannot be given the fault ${unknown}.`);
}
