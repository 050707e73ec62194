import type { RunReview } from '@red-ember/core';
import type { Piscina } from 'piscina';
import { threads } from '../../threads/threads.ts';
import type { ReviewInputs } from '../inputs.ts';

/** One run that is to be read: the thread fetches its samples itself. */
export interface ReviewTask {
  dataFolder: string;
  runId: string;
  inputs: ReviewInputs;
}

/** Reads runs beside whoever asks; a third of a second of somebody's time each. */
export interface Reviewer {
  review(runId: string, inputs: ReviewInputs): Promise<RunReview>;
  close(): void;
}

/** Reads runs of one bench in threads. The first is started when there is something to read, and kept. */
export class ReviewThreads implements Reviewer {
  private pool: Piscina<ReviewTask, RunReview> | null = null;
  private closed = false;

  constructor(
    private readonly dataFolder: string,
    private readonly most: number,
  ) {}

  review(runId: string, inputs: ReviewInputs): Promise<RunReview> {
    // What was in hand when it was closed is tried once more by whoever asked: no thread is started for it.
    if (this.closed) return Promise.reject(new Error('No more runs are read here.'));
    this.pool ??= threads(new URL('./worker.ts', import.meta.url), this.most);
    return this.pool.run({ dataFolder: this.dataFolder, runId, inputs });
  }

  close(): void {
    this.closed = true;
    void this.pool?.destroy();
    this.pool = null;
  }
}
