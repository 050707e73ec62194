import { Piscina } from 'piscina';

/** A thread beyond the first that has had nothing to do for so long is let go, ms: starting one takes seconds. */
const IDLE_MS = 30_000;
/**
 * Threads that do one kind of work beside the server's own.
 *
 * @param work module whose default export does one task, such as `new URL('./worker.ts', import.meta.url)`
 * @param most threads at a time; the first is started at once and kept
 */
export function threads<Task, Answer>(work: URL, most: number): Piscina<Task, Answer> {
  return new Piscina<Task, Answer>({
    filename: new URL('./start.mjs', import.meta.url).href,
    workerData: { work: work.href },
    minThreads: 1,
    maxThreads: most,
    idleTimeout: IDLE_MS,
    execArgv: [],
  });
}
