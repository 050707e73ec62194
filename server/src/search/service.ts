import { type SearchHits } from '@red-ember/contract';
import { folded, type SearchStore } from './store.ts';

/** More words tell nothing apart that these do not. */
const MOST_WORDS = 8;
/** Of one kind. */
const MOST_HITS = 30;

/** Looks for words in everything that was written down on the bench. */
export class SearchService {
  constructor(private readonly store: SearchStore) {}

  find(query: string): SearchHits {
    const words = [...new Set(folded(query).split(/\s+/).filter(Boolean))].slice(0, MOST_WORDS);
    if (words.length === 0) return { words, hits: [], more: [] };
    const found = [...this.store.find(words, MOST_HITS)];
    return {
      words,
      hits: found.flatMap(([, hits]) => hits.slice(0, MOST_HITS)),
      more: found.flatMap(([kind, hits]) => (hits.length > MOST_HITS ? [kind] : [])),
    };
  }
}
