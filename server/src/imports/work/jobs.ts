import { statSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { HttpProblem } from '../../http/problems.ts';
import { LogProblem } from '../read/cells.ts';
import { readTable, UnitQuestion, type Table, type TableBody } from '../read/readTable.ts';
import { peekLog, scanLog, type LogScan, type ScanOptions } from '../look/scanLog.ts';

/** A smaller file is read, in pieces, before a worker has started. */
const INLINE_BYTES = 8_000_000;

export type WorkerTask = { path: string } & ({ kind: 'scan'; options: ScanOptions } | { kind: 'table'; body: TableBody });
export type WorkerAnswer =
  | { type: 'progress'; bytes: number }
  | { type: 'done'; value: LogScan | Table }
  | { type: 'problem'; message: string; sentence: string | null };

interface Job {
  share: number;
  cancel: () => void;
}

/** Reads logs beside the server's own work, so that a live run is not held up; each can be watched and cancelled by its id. */
export class ImportJobs {
  private readonly jobs = new Map<string, Job>();

  constructor(private readonly inlineBytes = INLINE_BYTES) {}

  /** How much of a job's file has been read, 0..1; null for one that is not going on. */
  share(job: string): number | null {
    return this.jobs.get(job)?.share ?? null;
  }

  cancel(job: string): boolean {
    const going = this.jobs.get(job);
    going?.cancel();
    return going !== undefined;
  }

  /** Looks a log through; of a long one that is plain, only here and there. */
  async scan(path: string, options: ScanOptions, job: string | null): Promise<LogScan> {
    if (statSync(path).size < this.inlineBytes) return scanLog(path, options);
    this.warm();
    const peeked = await peekLog(path, options);
    if (peeked) return peeked;
    return this.inWorker<LogScan>({ path, kind: 'scan', options }, job);
  }

  table(path: string, body: TableBody, job: string | null): Promise<Table> {
    if (statSync(path).size < this.inlineBytes) return readTable(path, body);
    return this.inWorker<Table>({ path, kind: 'table', body }, job);
  }

  /** A worker that has loaded everything and waits for its task: while the tester maps columns, it can start. */
  private spare: Worker | null = null;

  private warm(): void {
    if (this.spare) return;
    const spare = new Worker(new URL('./startWorker.mjs', import.meta.url), { execArgv: [] });
    spare.unref();
    spare.once('error', () => (this.spare = null));
    this.spare = spare;
  }

  close(): void {
    void this.spare?.terminate();
    this.spare = null;
  }

  private inWorker<T extends LogScan | Table>(task: WorkerTask, job: string | null): Promise<T> {
    const size = statSync(task.path).size;
    this.warm();
    const worker = this.spare!;
    this.spare = null;
    worker.ref();
    worker.removeAllListeners('error');
    worker.postMessage(task);
    const answer = new Promise<T>((resolve, reject) => {
      const entry: Job = {
        share: 0,
        cancel: () => reject(new HttpProblem(409, 'Cancelled', 'The import was cancelled. Nothing was kept.')),
      };
      if (job !== null) this.jobs.set(job, entry);
      worker.on('message', (said: WorkerAnswer) => {
        if (said.type === 'progress') entry.share = Math.min(1, said.bytes / size);
        else if (said.type === 'done') resolve(said.value as T);
        else reject(said.sentence === null ? new LogProblem(said.message) : new UnitQuestion(said.message, said.sentence));
      });
      worker.once('error', reject);
      worker.once('exit', () => reject(new Error('the reader of a log ended without an answer')));
    });
    return answer.finally(() => {
      if (job !== null) this.jobs.delete(job);
      void worker.terminate();
    });
  }
}
