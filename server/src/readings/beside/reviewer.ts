import type { RunReview, Series } from '@red-ember/core';
import type { Piscina } from 'piscina';
import { threads } from '../../threads/threads.ts';
import type { Drawn } from '../../samples/overviews/store.ts';
import type { SampleStore } from '../../samples/store.ts';
import type { ReviewInputs } from '../inputs.ts';
import { HALVES, halves, joined } from './halves.ts';

/** One run that is to be read: the thread fetches its samples itself. */
interface ReviewTask {
  dataFolder: string;
  runId: string;
  inputs: ReviewInputs;
}

/** Channels of one run whose whole trace is to be thinned for drawing. */
interface DrawTask {
  dataFolder: string;
  runId: string;
  keys: readonly string[];
  points: number;
}

/** A run that is stored nowhere where a thread could fetch it: its samples go along. */
interface SentTask {
  inputs: ReviewInputs;
  samples: ReadonlyMap<string, Series>;
}

/** What a thread is asked for; nothing where it is only to be there. */
export type BesideTask = ReviewTask | SentTask | DrawTask | null;

/** Reads runs beside whoever asks; a third of a second of somebody's time each. */
export interface Reviewer {
  /** Somebody is there who has read before: no thread need be waited for that is yet to start. */
  readonly running: boolean;
  /** @param heavy takes seconds: it is read by two at a time, where there are two */
  review(runId: string, inputs: ReviewInputs, heavy?: boolean): Promise<RunReview>;
  /** The same of samples that are handed over. */
  reviewSent(inputs: ReviewInputs, samplesOf: (key: string) => Series, heavy?: boolean): Promise<RunReview>;
  /** Thins whole traces, in the order of the keys. */
  draw(runId: string, keys: readonly string[], points: number): Promise<Drawn[]>;
  /** Something is about to be read. @param heavy by more than one at a time */
  getReady(heavy: boolean): void;
  close(): void;
}

/** Has runs of a bench in memory read by another bench's threads. */
export class SentReviewer implements Reviewer {
  constructor(
    private readonly threads: Reviewer,
    private readonly samples: SampleStore,
  ) {}

  get running(): boolean {
    return this.threads.running;
  }

  review(runId: string, inputs: ReviewInputs, heavy = false): Promise<RunReview> {
    return this.threads.reviewSent(inputs, (key) => this.samples.read(runId, key), heavy);
  }

  reviewSent(inputs: ReviewInputs, samplesOf: (key: string) => Series, heavy = false): Promise<RunReview> {
    return this.threads.reviewSent(inputs, samplesOf, heavy);
  }

  draw(): Promise<Drawn[]> {
    return Promise.reject(new Error('Nothing is drawn of a bench in memory.'));
  }

  getReady(heavy: boolean): void {
    this.threads.getReady(heavy);
  }

  /** The threads are the other bench's. */
  close(): void {}
}

/** Reads runs of one bench in threads. The first is started when there is something to read, and kept. */
export class ReviewThreads implements Reviewer {
  private pool: Piscina<BesideTask, unknown> | null = null;
  private closed = false;
  private practised = false;

  constructor(
    private readonly dataFolder: string,
    private readonly most: number,
  ) {}

  get running(): boolean {
    return this.practised;
  }

  review(runId: string, inputs: ReviewInputs, heavy = false): Promise<RunReview> {
    return this.inParts(inputs, heavy, (part) => ({ dataFolder: this.dataFolder, runId, inputs: part }));
  }

  reviewSent(inputs: ReviewInputs, samplesOf: (key: string) => Series, heavy = false): Promise<RunReview> {
    return this.inParts(inputs, heavy, (part) => ({
      inputs: part,
      samples: new Map([...part.channels, ...part.locks].map(({ key }) => [key, samplesOf(key)])),
    }));
  }

  private async inParts(inputs: ReviewInputs, heavy: boolean, task: (part: ReviewInputs) => BesideTask): Promise<RunReview> {
    // What was in hand when it was closed is tried once more by whoever asked: no thread is started for it.
    if (this.closed) throw new Error('No more runs are read here.');
    const pool = this.started() as Piscina<BesideTask, RunReview>;
    const parts = heavy && this.most > 1 ? halves(inputs) : [inputs];
    const read = await Promise.all(parts.map((part) => pool.run(task(part))));
    this.practised = true;
    return joined(inputs, read);
  }

  async draw(runId: string, keys: readonly string[], points: number): Promise<Drawn[]> {
    if (this.closed) throw new Error('Nothing more is drawn here.');
    return (this.started() as Piscina<BesideTask, Drawn[]>).run({ dataFolder: this.dataFolder, runId, keys, points });
  }

  getReady(heavy: boolean): void {
    if (this.closed) return;
    const pool = this.started();
    // One beside the first is started only where there is work for it.
    for (let thread = 0; thread < (heavy ? Math.min(HALVES, this.most) : 1); thread++)
      void pool.run(null).then(
        () => (this.practised = true),
        () => undefined,
      );
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
