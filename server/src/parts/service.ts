import type { PartOfBench } from '@red-ember/contract';
import { partByItself, withoutAccents, type FittedPartEntry } from '@red-ember/study';
import type { PartStore } from './store.ts';

/** Two studies speak of one part where its name, kind, size and serial number are the same; prices and notes change. */
const plain = (text: string): string => withoutAccents(text.trim().toLowerCase());
const sameAs = ({ name, kind, pad, paste, serial = '' }: FittedPartEntry): string =>
  JSON.stringify([plain(name), kind, pad, paste && [paste.areaMm2, paste.bondLineMm, paste.densityGPerCm3], plain(serial)]);

/** What the bench has to put on: every part of every study, once, as it was last written down. */
export class PartService {
  constructor(private readonly store: PartStore) {}

  ofBench(): PartOfBench[] {
    const found = new Map<string, PartOfBench>();
    for (const { studyId, studyTitle, currency, part } of this.store.everyPart()) {
      const key = sameAs(part);
      const known = found.get(key) ?? { part: partByItself(part), currency, studies: [] };
      if (!known.studies.some(({ id }) => id === studyId)) known.studies.push({ id: studyId, title: studyTitle });
      found.set(key, known);
    }
    return [...found.values()].sort(
      (p, q) => p.part.kind.localeCompare(q.part.kind, 'en') || p.part.name.localeCompare(q.part.name, 'en', { numeric: true }),
    );
  }
}
