import type { StudyBody } from '@red-ember/contract';

/** Fields that name a spot or a variant by its id, alone or in a list; a channel that is called like one is none of them. */
const ID_FIELDS = new Set(['spotId', 'variantId', 'twinOf', 'order', 'firstVariantId', 'lastVariantId']);

/** Anything that names spots and variants by their fields, with other ids in these. */
export function renamed(value: unknown, ids: ReadonlyMap<string, string>, field = ''): unknown {
  if (typeof value === 'string') return ID_FIELDS.has(field) ? (ids.get(value) ?? value) : value;
  if (Array.isArray(value)) return value.map((entry) => renamed(entry, ids, field));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, renamed(inner, ids, name)]));
}

/** A study with other ids for its spots and variants, wherever they are meant by their field. */
export function withIds(body: StudyBody, ids: ReadonlyMap<string, string>): StudyBody {
  const copy = renamed(body, ids) as StudyBody;
  const own = <T extends { id: string }>(parts: T[]): T[] => parts.map((part) => ({ ...part, id: ids.get(part.id) ?? part.id }));
  return { ...copy, spots: own(copy.spots), variants: own(copy.variants) };
}
