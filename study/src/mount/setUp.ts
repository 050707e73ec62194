import { lockValue } from '../definition/hold.ts';
import type { FittedPartEntry } from '../definition/fitting.ts';
import { UNNAMED_PART, type StudyDefinition } from '../definition/study.ts';
import { withoutAccents } from '../spots/classByName.ts';
import { partsOf } from './card.ts';

const plain = (text: string): string => withoutAccents(text.trim().toLowerCase());

/** Two studies speak of one part where its name, kind, size and serial number are the same; prices and notes change. */
export const sameAs = ({ name, kind, pad, paste, serial = '' }: Omit<FittedPartEntry, 'level' | 'variantId'>): string =>
  JSON.stringify([plain(name), kind, pad, paste && [paste.areaMm2, paste.bondLineMm, paste.densityGPerCm3], plain(serial)]);

/**
 * What is measured with a variant, and on what, as far as the study says it: where two of them are the same, in whichever studies, what
 * was normal of one is normal of the other. Titles, limits, sensors and how long a load lasts are not in it.
 *
 * @returns null where the part has no name, which could be anybody's
 */
export function setUpOf(study: StudyDefinition, variantId: string): string | null {
  const variant = study.variants.find(({ id }) => id === variantId);
  const part = study.subjects.find(({ id }) => id === variant?.subjectId);
  if (!variant || !part || plain(part.name) === '' || plain(part.name) === plain(UNNAMED_PART)) return null;
  const firstLoad = study.recipe.findIndex(({ kind }) => kind === 'load');
  const sorted = (words: readonly string[]) => [...words].sort();
  return JSON.stringify([
    study.family,
    [plain(part.name), plain(part.serial ?? ''), plain(part.details)],
    [plain(variant.name), variant.setup],
    sorted((variant.levels ?? []).map(({ factor, level }) => `${plain(factor)}: ${plain(level)}`)),
    sorted(partsOf(study, variant).map((fitted) => `${fitted.quantity} × ${sameAs(fitted)}`)),
    sorted(study.locks.map((lock) => `${plain(lock.name)}: ${plain(lockValue(lock, part.id))}`)),
    study.recipe.slice(0, firstLoad + 1).map(({ kind, loadPercent, set = [] }) => [kind, loadPercent, set]),
    [study.rules.fans, study.rules.load, study.rules.place],
  ]);
}
