import { useSearchParams } from 'react-router';
import { tagsOf } from '@red-ember/study';
import { Pick } from '../ui/Pick.tsx';

/** A list narrowed down to a tag, which stands in the address, and what the tag is chosen by; nothing where there is no tag. */
export function useTagged<T>(all: readonly T[] | undefined, read: (row: T) => string | undefined) {
  const [search, setSearch] = useSearchParams();
  const tags = tagsOf({ tags: all?.map((row) => read(row) ?? '').join(',') ?? '' }).sort((p, q) => p.localeCompare(q));
  // A tag that was taken off the last of them since this address was written narrows nothing down.
  const tag = tags.find((known) => known === search.get('tag')) ?? '';
  const rows = all?.filter((row) => tag === '' || tagsOf({ tags: read(row) ?? '' }).some((own) => own.toLowerCase() === tag.toLowerCase()));
  return {
    rows,
    /** As in "3 parts, tagged spare". */
    narrowed: tag === '' ? '' : `, tagged ${tag}`,
    pick:
      tags.length === 0 ? null : (
        <p className="mb-3">
          <Pick
            label="Tag"
            value={tag}
            options={[{ value: '', label: 'any' }, ...tags.map((known) => ({ value: known, label: known }))]}
            onChange={(chosen) => setSearch(chosen === '' ? {} : { tag: chosen }, { replace: true })}
          />
        </p>
      ),
  };
}
