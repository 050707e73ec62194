import { Piscina } from 'piscina';

/** A thread beyond the first that has had nothing to do for so long is let go, ms: starting one takes seconds. */
const IDLE_MS = 30_000;
/** By how much a patient thread is nicer than the server. */
const PATIENT = 10;

/**
 * Threads that do one kind of work beside the server's own.
 *
 * @param work module whose default export does one task, such as `new URL('./worker.ts', import.meta.url)`
 * @param most threads at a time; the first is started at once and kept
 * @param patient they give way to whatever else wants the processor, where the system can tell threads apart
 */
export function threads<Task, Answer>(work: URL, most: number, { patient = false } = {}): Piscina<Task, Answer> {
  return new Piscina<Task, Answer>({
    filename: new URL('./start.mjs', import.meta.url).href,
    workerData: { work: work.href },
    minThreads: 1,
    maxThreads: most,
    idleTimeout: IDLE_MS,
    niceIncrement: patient ? PATIENT : 0,
    execArgv: [],
  });
}
