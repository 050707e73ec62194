import type { KeptPart, KeptPartBody, PartOfBench, Photo } from '@red-ember/contract';
import { partByItself, sameAs } from '@red-ember/study';
import { changedMeanwhile, conflict, notFound } from '../http/problems.ts';
import type { Album } from '../photographs/album.ts';
import type { PartStore } from './store.ts';

/** What the bench has to put on: every part of every study and every part that is kept, once, as it was last written down. */
export class PartService {
  constructor(
    private readonly store: PartStore,
    readonly photographs: Album,
    private readonly now: () => Date = () => new Date(),
  ) {}

  ofBench(): PartOfBench[] {
    const found = new Map<string, PartOfBench>();
    for (const { study, kept, currency, part } of this.store.everyPart()) {
      const key = sameAs(part);
      const known = found.get(key) ?? { part: partByItself(part), currency, studies: [], kept: null };
      if (study && !known.studies.some(({ id }) => id === study.id)) known.studies.push(study);
      if (kept) known.kept ??= { ...kept, photos: this.photographs.of(kept.id) };
      found.set(key, known);
    }
    return [...found.values()].sort(
      (p, q) => p.part.kind.localeCompare(q.part.kind, 'en') || p.part.name.localeCompare(q.part.name, 'en', { numeric: true }),
    );
  }

  /** @throws HttpProblem 409 where the same part is kept already */
  keep(body: KeptPartBody): KeptPart {
    this.checkOnce(body);
    return this.get(this.store.insert(body, this.now().toISOString()));
  }

  /** @throws HttpProblem 412 where somebody else saved in between, 409 where another kept part would be the same */
  change(id: string, body: KeptPartBody, expectedVersion: number): KeptPart {
    this.get(id);
    this.checkOnce(body, id);
    if (!this.store.update(id, body, expectedVersion, this.now().toISOString())) throw changedMeanwhile('This part');
    return this.get(id);
  }

  remove(id: string): void {
    if (!this.store.remove(id)) throw notFound('This part');
  }

  addPhoto(id: string, name: string, file: Buffer): Promise<Photo> {
    this.get(id);
    return this.photographs.add(id, name, file);
  }

  image(photoId: string): Buffer {
    return this.photographs.image(photoId, () => true);
  }

  private get(id: string): KeptPart {
    const version = this.store.versionOf(id);
    if (version === null) throw notFound('This part');
    return { id, version, photos: this.photographs.of(id) };
  }

  private checkOnce({ part }: KeptPartBody, id = ''): void {
    const key = sameAs(part);
    if (this.store.everyPart().some((other) => other.kept && other.kept.id !== id && sameAs(other.part) === key))
      throw conflict(`${part.name} is kept already, in this kind and size and with this serial number.`, [
        { pointer: '/part/name', sentence: 'Another part of this name is kept already: give it a name or a serial number of its own.' },
      ]);
  }
}
