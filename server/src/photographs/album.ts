import type { Photo } from '@red-ember/contract';
import { conflict, notFound } from '../http/problems.ts';
import { forDisplay } from './photograph.ts';
import type { PhotoStore } from './store.ts';

const MOST_PHOTOS = 20;

/** The photographs of one kind of thing, made fit to be displayed before they are kept. */
export class Album {
  constructor(
    private readonly store: PhotoStore,
    /** As in "a mount holds up to …". */
    private readonly owner: string,
    private readonly now: () => Date = () => new Date(),
  ) {}

  of(ownerId: string): Photo[] {
    return this.store.of(ownerId);
  }

  /** @throws HttpProblem 422 where the file is no photograph, 409 where there are enough of them */
  async add(ownerId: string, name: string, file: Buffer): Promise<Photo> {
    if (this.of(ownerId).length >= MOST_PHOTOS) throw conflict(`A ${this.owner} holds up to ${MOST_PHOTOS} photographs.`);
    const { image, widthPx, heightPx } = await forDisplay(file);
    return this.store.add(ownerId, { name: name.trim() || 'Photograph', widthPx, heightPx, madeAt: this.now().toISOString() }, image);
  }

  /** @param seen whether what it shows may be seen */
  image(photoId: string, seen: (ownerId: string) => boolean): Buffer {
    const photo = this.store.image(photoId);
    if (!photo || !seen(photo.ownerId)) throw notFound('This photograph');
    return photo.image;
  }

  remove(photoId: string): void {
    if (!this.store.remove(photoId)) throw notFound('This photograph');
  }
}
