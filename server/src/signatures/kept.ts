import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { FEATURES, LEAST_RUNS, limitOf, METHOD_VERSION, signatureOf, type Normal, type SignatureRecord } from '@red-ember/core';
import type { MovedNormal, SignatureVersion, Study } from '@red-ember/contract';
import { setUpOf } from '@red-ember/study';
import type { ReadingService } from '../readings/service.ts';
import type { RunKind } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import { LEAST_LOAD_S, type CleanLoads } from './loads.ts';
import type { KeptSignature, NormalAfter, SignatureStore } from './store.ts';

/** A run is held against it after so much of its load, s, and at the end of the loads that it was learnt from. */
const LOOKS_S = [LEAST_LOAD_S, 600, 1200];
/** So many other studies of a set-up are looked through for what is normal of it; the newest say it best. */
const MOST_STUDIES = 3;

const isOfSpot = ({ key }: Pick<Normal, 'key'>) => FEATURES[key].of === 'spot';

/** Normals with their spots called by what stands for them on the other side; those of spots that it does not have are left out. */
function calledBy(normals: readonly Normal[], of: ReadonlyMap<string, string>): Normal[] {
  return normals.flatMap((normal) => {
    if (!isOfSpot(normal)) return [normal];
    const id = of.get(normal.id);
    return id === undefined ? [] : [{ ...normal, id }];
  });
}

/** What is normal of a set-up, kept on the bench: a new study of a part that it knows need not learn it again. */
export class KeptSignatures {
  constructor(
    private readonly store: SignatureStore,
    private readonly studies: StudyService,
    private readonly loads: CleanLoads,
    private readonly readings: ReadingService,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /** Every version of a variant's set-up, the newest first, each against the one before; the study's own is brought up to date first. */
  async versions(study: Study, variantId: string): Promise<SignatureVersion[]> {
    const setUp = await this.keep(study, variantId);
    const kept = setUp === null ? [] : this.store.versions(setUp);
    return kept.map((one, i) => ({
      version: one.version,
      madeAt: one.madeAt,
      study: one.study,
      of: one.of,
      loadS: one.after.at(-1)!.loadS,
      moved: kept[i + 1] ? movedBetween(kept[i + 1]!, one) : [],
    }));
  }

  /**
   * The newest of what other studies of the bench learnt of a variant's set-up, in this study's words.
   *
   * @param kind a logger's traces are not held against a rig's, nor those of a simulated one against a real one's
   * @param loadS there is so much of a load: the longest look that is no longer
   */
  async fromElsewhere(
    study: Study,
    variantId: string,
    kind: RunKind,
    loadS: number,
  ): Promise<(NormalAfter & { from: KeptSignature }) | null> {
    const setUp = this.keyOf(study, variantId, kind);
    if (setUp === null) return null;
    await this.keepOthers(study, setUp, kind);
    const others = this.store.versions(setUp).filter((version) => version.study.id !== study.id);
    const newest = others.filter((version, i) => others.findIndex((other) => other.study.id === version.study.id) === i);
    const from = newest.sort((p, q) => q.measuredAt.localeCompare(p.measuredAt))[0];
    const look = from?.after.findLast((after) => after.loadS <= loadS);
    if (!from || !look) return null;
    const ids = new Map(study.spots.map(({ id, name }) => [name, id]));
    return { from, loadS: look.loadS, normals: calledBy(look.normals, ids) };
  }

  private async keepOthers(study: Study, setUp: string, kind: RunKind): Promise<void> {
    const names = new Set(study.subjects.map(({ name }) => name));
    const found: { other: Study; variantIds: string[] }[] = [];
    for (const id of [...names].flatMap((name) => this.store.studiesAbout(name))) {
      if (id === study.id || found.length >= MOST_STUDIES) continue;
      const other = this.studies.get(id);
      const variantIds = other.variants.flatMap((variant) => (this.keyOf(other, variant.id, kind) === setUp ? [variant.id] : []));
      if (variantIds.length > 0) found.push({ other, variantIds });
      await setImmediate();
    }
    // The oldest first, so that versions follow each other as they were measured.
    for (const { other, variantIds } of found.reverse()) for (const id of variantIds) await this.keep(other, id);
  }

  /** Keeps what a study's clean runs say now, where it is not what they said before. @returns under which it is kept */
  private async keep(study: Study, variantId: string): Promise<string | null> {
    const clean = this.loads.of(study, variantId);
    const kind = this.loads.kindOf(study, clean);
    const setUp = this.keyOf(study, variantId, kind);
    const counted = clean.filter((load) => this.loads.kindOf(study, [load]) === kind);
    if (setUp === null || counted.length < LEAST_RUNS) return setUp;
    const restsOn = createHash('sha256')
      .update(JSON.stringify([METHOD_VERSION, counted.map(({ run }) => [run.id, this.readings.restsOn(run, study)])]))
      .digest('hex');
    const isKept = () => this.store.versions(setUp).find((version) => version.study.id === study.id)?.restsOn === restsOn;
    if (isKept()) return setUp;
    const longest = Math.min(...counted.map(({ lengthS }) => lengthS));
    const names = new Map(study.spots.map(({ id, name }) => [id, name]));
    const records: SignatureRecord[] = [];
    for (const load of counted) {
      records.push(this.loads.record(load, longest));
      await setImmediate();
    }
    const after: NormalAfter[] = [];
    for (const loadS of [...LOOKS_S.filter((look) => look < longest), longest]) {
      const cut = records.map((record) => ({ ...record, loadEndS: record.loadStartS + loadS }));
      after.push({ loadS, normals: calledBy(signatureOf(cut), names) });
      await setImmediate();
    }
    // Somebody else may have asked meanwhile.
    if (isKept()) return setUp;
    this.store.insert(setUp, {
      study: { id: study.id, title: study.title },
      madeAt: this.now().toISOString(),
      measuredAt: counted
        .map(({ run }) => run.startedAt)
        .sort()
        .at(-1)!,
      restsOn,
      of: counted.map(({ run }) => run.number),
      after,
    });
    return setUp;
  }

  /** Null where nobody could say that it is the same part, or where the study is kept apart from the others. */
  private keyOf(study: Study, variantId: string, kind: RunKind): string | null {
    const setUp = setUpOf(study, variantId);
    if (setUp === null || !this.store.isOnTheShelf(study.id)) return null;
    const part = study.subjects.find(({ id }) => id === study.variants.find((variant) => variant.id === variantId)?.subjectId);
    // A part that was named by its files alone could be any of its kind.
    const known = kind !== 'file' || (part?.serial ?? '').trim() !== '' || (part?.details ?? '').trim() !== '';
    return known ? `${kind} ${setUp}` : null;
  }
}

/** What lies further from what was normal before than one more clean run may, at the end of the longest load that both know. */
function movedBetween(before: KeptSignature, after: KeptSignature): MovedNormal[] {
  const look = before.after.findLast(({ loadS }) => after.after.some((other) => other.loadS === loadS));
  const now = after.after.find(({ loadS }) => loadS === look?.loadS);
  return (now?.normals ?? []).flatMap((normal) => {
    const was = look!.normals.find(({ key, id }) => key === normal.key && id === normal.id);
    if (!was || Math.abs(normal.mean - was.mean) <= limitOf(was)) return [];
    return [{ key: normal.key, of: normal.id, from: was.mean, to: normal.mean }];
  });
}
