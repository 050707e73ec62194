import type { RunReview } from '@red-ember/core';
import type { Piscina } from 'piscina';
import { threads } from '../../threads/threads.ts';
import type { Drawn } from '../../samples/overviews/store.ts';
import type { ReviewInputs } from '../inputs.ts';
import { HALVES, halves, joined } from './halves.ts';

/** One run that is to be read: the thread fetches its samples itself. */
export interface ReviewTask {
  dataFolder: string;
  runId: string;
  inputs: ReviewInputs;
}

/** Channels of one run whose whole trace is to be thinned for drawing. */
export interface DrawTask {
  dataFolder: string;
  runId: string;
  keys: readonly string[];
  points: number;
}

/** What a thread is asked for; nothing where it is only to be there. */
export type BesideTask = ReviewTask | DrawTask | null;

/** Reads runs beside whoever asks; a third of a second of somebody's time each. */
export interface Reviewer {
  /** @param heavy takes seconds: it is read by two at a time, where there are two */
  review(runId: string, inputs: ReviewInputs, heavy?: boolean): Promise<RunReview>;
  /** Thins whole traces, in the order of the keys. */
  draw(runId: string, keys: readonly string[], points: number): Promise<Drawn[]>;
  /** Something is about to be read. */
  getReady(): void;
  close(): void;
}

/** Reads runs of one bench in threads. The first is started when there is something to read, and kept. */
export class ReviewThreads implements Reviewer {
  private pool: Piscina<BesideTask, unknown> | null = null;
  private closed = false;

  constructor(
    private readonly dataFolder: string,
    private readonly most: number,
  ) {}

  async review(runId: string, inputs: ReviewInputs, heavy = false): Promise<RunReview> {
    // What was in hand when it was closed is tried once more by whoever asked: no thread is started for it.
    if (this.closed) throw new Error('No more runs are read here.');
    const pool = this.started() as Piscina<BesideTask, RunReview>;
    const parts = heavy && this.most > 1 ? halves(inputs) : [inputs];
    const read = parts.map((part) => pool.run({ dataFolder: this.dataFolder, runId, inputs: part }));
    return joined(inputs, await Promise.all(read));
  }

  async draw(runId: string, keys: readonly string[], points: number): Promise<Drawn[]> {
    if (this.closed) throw new Error('Nothing more is drawn here.');
    return (this.started() as Piscina<BesideTask, Drawn[]>).run({ dataFolder: this.dataFolder, runId, keys, points });
  }

  getReady(): void {
    if (this.closed) return;
    const pool = this.started();
    // One beside the first is started only where there is work for it.
    for (let thread = 0; thread < Math.min(HALVES, this.most); thread++) void pool.run(null).catch(() => undefined);
  }

  private started(): Piscina<BesideTask, unknown> {
    return (this.pool ??= threads(new URL('./worker.ts', import.meta.url), this.most));
  }

  close(): void {
    this.closed = true;
    void this.pool?.destroy();
    this.pool = null;
  }
}
