import { asSentence } from './asSentence.ts';

/** What the core works out, or why it cannot, as a sentence for the page. */
export function orSentence<T extends object>(work: () => T): T | string {
  try {
    return work();
  } catch (error) {
    if (error instanceof RangeError) return asSentence(error.message);
    throw error;
  }
}
