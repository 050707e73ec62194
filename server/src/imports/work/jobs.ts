import { statSync } from 'node:fs';
import { MessageChannel } from 'node:worker_threads';
import type { Piscina } from 'piscina';
import { HttpProblem } from '../../http/problems.ts';
import { threads } from '../../threads/threads.ts';
import { LogProblem } from '../read/cells.ts';
import { readTable, UnitQuestion, type Table, type TableBody } from '../read/readTable.ts';
import { scanLog, type LogScan, type ScanOptions } from '../look/scanLog.ts';

/** A smaller file is read, in pieces, before a worker has started. */
const INLINE_BYTES = 8_000_000;

export type WorkerTask = { path: string } & ({ kind: 'scan'; options: ScanOptions } | { kind: 'table'; body: TableBody });
export type WorkerAnswer = { type: 'done'; value: LogScan | Table } | { type: 'problem'; message: string; sentence: string | null };

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

  /** Looks a log through from end to end. */
  scan(path: string, options: ScanOptions, job: string | null): Promise<LogScan> {
    if (statSync(path).size < this.inlineBytes) return scanLog(path, options);
    return this.inWorker<LogScan>({ path, kind: 'scan', options }, job);
  }

  table(path: string, body: TableBody, job: string | null): Promise<Table> {
    if (statSync(path).size < this.inlineBytes) return readTable(path, body);
    return this.inWorker<Table>({ path, kind: 'table', body }, job);
  }

  /**
   * One thread that reads logs, started with the first long log, while the tester still maps its columns, and kept. One at a time: two that read would
   * only share the disk.
   */
  private pool: Piscina<{ task: WorkerTask; port: unknown }, WorkerAnswer> | null = null;

  private warm(): NonNullable<ImportJobs['pool']> {
    this.pool ??= threads(new URL('./worker.ts', import.meta.url), 1);
    return this.pool;
  }

  close(): void {
    void this.pool?.destroy();
    this.pool = null;
  }

  private async inWorker<T extends LogScan | Table>(task: WorkerTask, job: string | null): Promise<T> {
    const size = statSync(task.path).size;
    const { port1, port2 } = new MessageChannel();
    const stop = new AbortController();
    const entry: Job = { share: 0, cancel: () => stop.abort() };
    port1.on('message', (bytes: number) => (entry.share = Math.min(1, bytes / size)));
    port1.unref();
    if (job !== null) this.jobs.set(job, entry);
    try {
      const answer = await this.warm().run({ task, port: port2 }, { transferList: [port2], signal: stop.signal });
      if (answer.type === 'done') return answer.value as T;
      throw answer.sentence === null ? new LogProblem(answer.message) : new UnitQuestion(answer.message, answer.sentence);
    } catch (error) {
      if (stop.signal.aborted) throw new HttpProblem(409, 'Cancelled', 'The import was cancelled. Nothing was kept.');
      throw error;
    } finally {
      port1.close();
      if (job !== null) this.jobs.delete(job);
    }
  }
}
