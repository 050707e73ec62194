import { parentPort, workerData } from 'node:worker_threads';
import { LogProblem } from './cells.ts';
import type { WorkerAnswer, WorkerTask } from './jobs.ts';
import { readTable, UnitQuestion } from './readTable.ts';
import { scanLog } from './scanLog.ts';

/** The least time between two words on how far it has come. */
const TELL_MS = 100;

const task = workerData as WorkerTask;
const say = (answer: WorkerAnswer) => parentPort!.postMessage(answer);
let told = 0;
const onBytes = (bytes: number) => {
  if (Date.now() - told < TELL_MS) return;
  told = Date.now();
  say({ type: 'progress', bytes });
};
try {
  say({
    type: 'done',
    value: await (task.kind === 'scan' ? scanLog(task.path, task.options, onBytes) : readTable(task.path, task.body, onBytes)),
  });
} catch (error) {
  // Anything else is a fault of ours and ends the worker; the server's log has it.
  if (!(error instanceof LogProblem)) throw error;
  say({ type: 'problem', message: error.message, sentence: error instanceof UnitQuestion ? error.sentence : null });
}
