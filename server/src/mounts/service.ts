import { randomInt } from 'node:crypto';
import { cautionsFor, type Mount, type MountBody } from '@red-ember/contract';
import { notFound, unprocessable } from '../http/problems.ts';
import type { StudyService } from '../studies/service.ts';
import type { MountStore } from './store.ts';

export class MountService {
  constructor(
    private readonly store: MountStore,
    private readonly studies: StudyService,
    private readonly now: () => Date = () => new Date(),
  ) {}

  ofStudy(studyId: string): Mount[] {
    this.studies.get(studyId);
    return this.store.ofStudy(studyId);
  }

  /** @throws HttpProblem 422 while a caution is not confirmed */
  make(studyId: string, body: MountBody): Mount {
    const study = this.studies.get(studyId);
    if (!study.variants.some((variant) => variant.id === body.variantId)) throw notFound('This variant');
    const open = cautionsFor(study.family).filter((caution) => !body.confirmed.includes(caution.key));
    if (open.length > 0)
      throw unprocessable(`${open.length === 1 ? 'One caution is' : `${open.length} cautions are`} not confirmed yet.`, [
        { pointer: '/confirmed', sentence: open[0]!.text },
      ]);
    const id = this.store.insert({
      studyId,
      variantId: body.variantId,
      madeAt: this.now().toISOString(),
      confirmed: body.confirmed,
      note: body.note,
      seed: randomInt(2 ** 31 - 1),
    });
    return this.store.ofStudy(studyId).find((mount) => mount.id === id)!;
  }
}
