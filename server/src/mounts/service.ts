import { randomInt } from 'node:crypto';
import { handsMinutes, learnChangeOver } from '@red-ember/core';
import {
  asInitials,
  type ChangeOverHistory,
  type Mount,
  type MountBody,
  type MountOfBench,
  type Photo,
  type Study,
  type VariantBody,
} from '@red-ember/contract';
import { cameFrom, cautionsOn, mountCard, type MountCard } from '@red-ember/study';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import type { StudyService } from '../studies/service.ts';
import type { Album } from '../photographs/album.ts';
import type { MountStore } from './store.ts';

export class MountService {
  constructor(
    private readonly store: MountStore,
    private readonly studies: StudyService,
    readonly photographs: Album,
    private readonly now: () => Date = () => new Date(),
  ) {}

  ofStudy(studyId: string): Mount[] {
    this.studies.get(studyId);
    return this.store.ofStudy(studyId);
  }

  ofBench(): MountOfBench[] {
    return this.store.ofBench();
  }

  get(id: string): Mount {
    const mount = this.store.find(id);
    if (!mount) throw notFound('This mount');
    // The seed of a simulated fit is the bench's own business.
    const { seed: _seed, ...told } = mount;
    return told;
  }

  /** What each factor took to change, from every card that was worked on this bench. */
  learned(): ChangeOverHistory {
    return learnChangeOver(this.store.changeOvers());
  }

  /**
   * Writes down that a variant is on the bench, by its card against what was there before on the same part.
   *
   * @throws HttpProblem 422 while a caution is not confirmed, a step is neither done nor left out, or the scratch drive's serial
   *   number is another one
   */
  make(studyId: string, body: MountBody): Mount {
    const study = this.studies.get(studyId);
    const variant = study.variants.find((candidate) => candidate.id === body.variantId);
    if (!variant) throw notFound('This variant');
    const from = cameFrom(study.variants, this.store.ofStudy(studyId), variant);
    const card = this.card(study, from, variant);
    this.checkCard(card, body);
    this.checkSerial(study, variant, body);
    const now = this.now();
    const ticked = (ids: string[] = []) => card.steps.filter(({ step }) => ids.includes(step.id)).map(({ step }) => step.text);
    const id = this.store.insert({
      studyId,
      variantId: variant.id,
      madeAt: now.toISOString(),
      confirmed: body.confirmed,
      note: body.note,
      seed: randomInt(2 ** 31 - 1),
      fromVariantId: from?.id ?? null,
      handsMin: body.startedAt
        ? handsMinutes(
            Date.parse(body.startedAt),
            now.getTime(),
            card.steps.map(({ step }) => step.waitMin),
          )
        : null,
      // Neither a first mount nor a refit says what changing one factor takes.
      changed: from === null || from.id === variant.id ? [] : card.changed.map((change) => change.factor),
      done: ticked(body.done),
      skipped: ticked(body.skipped),
      serial: body.serial?.trim() ?? '',
      by: asInitials(body.by ?? ''),
    });
    return this.get(id);
  }

  /** The id of a variant's mount by the number that the tester counts it by; one that is named for the first time is written down, without a card. */
  numbered(studyId: string, variantId: string, number: number, madeAt: string): string {
    const note = 'Written down with a recorded run; no card was worked.';
    const nothing = { confirmed: [], changed: [], done: [], skipped: [], serial: '', by: '', fromVariantId: null, handsMin: null };
    return this.store.numbered({ studyId, variantId, madeAt, note, seed: 0, ...nothing }, number);
  }

  /** Takes back a mount that was written down by mistake. @throws HttpProblem 409 where runs rest on it */
  takeBack(id: string): void {
    this.get(id);
    if (!this.store.remove(id)) throw conflict('Runs rest on this mount, so it stays. Mount again instead.');
  }

  addPhoto(mountId: string, name: string, file: Buffer): Promise<Photo> {
    this.get(mountId);
    return this.photographs.add(mountId, name, file);
  }

  /** A photograph of a study in the trash is not shown either. */
  image(photoId: string): Buffer {
    return this.photographs.image(photoId, (mountId) => this.store.find(mountId) !== null);
  }

  private card(study: Study, from: VariantBody | null, to: VariantBody): MountCard {
    try {
      return mountCard(study, from, to);
    } catch (error) {
      if (error instanceof RangeError) throw unprocessable(`${error.message}: say at Plan which lies under which.`);
      throw error;
    }
  }

  private checkCard(card: MountCard, body: MountBody): void {
    const open = cautionsOn(card).filter((caution) => !body.confirmed.includes(caution.key));
    if (open.length > 0)
      throw unprocessable(`${open.length === 1 ? 'One caution is' : `${open.length} cautions are`} not confirmed yet.`, [
        { pointer: '/confirmed', sentence: open[0]!.text },
      ]);
    const seen = new Set([...(body.done ?? []), ...(body.skipped ?? [])]);
    const left = card.steps.filter(({ step }) => !seen.has(step.id));
    if (left.length > 0)
      throw unprocessable(`${left.length === 1 ? 'One step is' : `${left.length} steps are`} neither done nor left out.`, [
        { pointer: '/done', sentence: left[0]!.step.text },
      ]);
  }

  private checkSerial(study: Study, variant: VariantBody, body: MountBody): void {
    const serial = study.subjects.find((subject) => subject.id === variant.subjectId)?.serial?.trim() ?? '';
    if (study.family !== 'drive' || serial === '') return;
    if (body.serial?.trim().toLowerCase() === serial.toLowerCase()) return;
    const sentence = body.serial?.trim()
      ? `The scratch drive of this study is ${serial}, not ${body.serial.trim()}. A write test destroys what is on a drive.`
      : 'Read the serial number off the drive: a write test destroys what is on it.';
    throw unprocessable(sentence, [{ pointer: '/serial', sentence }]);
  }
}
