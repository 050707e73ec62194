import type { Database } from 'better-sqlite3';
import type { RunReview } from '@red-ember/core';

/** Reviews that are kept in memory beside; one takes some tens of kilobytes, and a millisecond or two to be made of what is stored. */
const IN_MEMORY = 600;

/** SQL for stored reviews. They may be thrown away: samples and method give them back. Nobody changes one that he was given. */
export class ReviewStore {
  /** By run; the one that was asked for last stands last. */
  private readonly known = new Map<string, { made: string; review: RunReview }>();

  constructor(private readonly db: Database) {}

  find(runId: string, methodVersion: string, inputs: string): RunReview | null {
    const made = `${methodVersion} ${inputs}`;
    const known = this.known.get(runId);
    const review = known?.made === made ? known.review : this.stored(runId, methodVersion, inputs);
    if (review) this.remember(runId, made, review);
    return review;
  }

  private remember(runId: string, made: string, review: RunReview): void {
    this.known.delete(runId);
    this.known.set(runId, { made, review });
    const [oldest] = this.known.keys();
    if (this.known.size > IN_MEMORY && oldest !== undefined) this.known.delete(oldest);
  }

  private stored(runId: string, methodVersion: string, inputs: string): RunReview | null {
    const row = this.db
      .prepare('SELECT body FROM review_cache WHERE run_id = ? AND method_version = ? AND inputs = ?')
      .get(runId, methodVersion, inputs) as { body: string } | undefined;
    return row ? (JSON.parse(row.body, revive) as RunReview) : null;
  }

  has(runId: string, methodVersion: string, inputs: string): boolean {
    const found = this.db.prepare('SELECT 1 FROM review_cache WHERE run_id = ? AND method_version = ? AND inputs = ?').get(runId, methodVersion, inputs); // prettier-ignore
    return found !== undefined;
  }

  put(runId: string, methodVersion: string, inputs: string, review: RunReview): void {
    this.db
      .prepare(
        'INSERT INTO review_cache (run_id, method_version, inputs, body) VALUES (?, ?, ?, ?) ON CONFLICT (run_id) DO UPDATE SET method_version = excluded.method_version, inputs = excluded.inputs, body = excluded.body',
      )
      .run(
        runId,
        methodVersion,
        inputs,
        JSON.stringify(review, (_key, value: unknown) => (value === Infinity ? 'Infinity' : value)),
      );
  }
}

const revive = (_key: string, value: unknown) => (value === 'Infinity' ? Infinity : value);
