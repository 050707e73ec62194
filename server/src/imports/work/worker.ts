import { parentPort } from 'node:worker_threads';
import { LogProblem } from '../read/cells.ts';
import type { WorkerAnswer, WorkerTask } from './jobs.ts';
import { readTable, UnitQuestion } from '../read/readTable.ts';
import { scanLog } from '../look/scanLog.ts';

/** The least time between two words on how far it has come. */
const TELL_MS = 100;

const say = (answer: WorkerAnswer) => parentPort!.postMessage(answer);
let told = 0;
const onBytes = (bytes: number) => {
  if (Date.now() - told < TELL_MS) return;
  told = Date.now();
  say({ type: 'progress', bytes });
};

async function work(task: WorkerTask): Promise<void> {
  try {
    if (task.kind === 'scan') say({ type: 'done', value: await scanLog(task.path, task.options, onBytes) });
    else {
      const value = await readTable(task.path, task.body, onBytes);
      // Handed over, not copied.
      parentPort!.postMessage({ type: 'done', value } satisfies WorkerAnswer, [
        value.tMs.buffer,
        ...value.columns.map((column) => column.buffer),
      ]);
    }
  } catch (error) {
    // Anything else is a fault of ours and ends the worker; the server's log has it.
    if (!(error instanceof LogProblem)) throw error;
    say({ type: 'problem', message: error.message, sentence: error instanceof UnitQuestion ? error.sentence : null });
  }
}

// One task, then the worker is done with.
parentPort!.once('message', (task: WorkerTask) => void work(task));
