import type { MessagePort } from 'node:worker_threads';
import { move, Piscina } from 'piscina';
import { scanLog } from '../look/scanLog.ts';
import { LogProblem } from '../read/cells.ts';
import { readTable, UnitQuestion, type Table } from '../read/readTable.ts';
import type { WorkerAnswer, WorkerTask } from './jobs.ts';

/** The least time between two words on how far it has come. */
const TELL_MS = 100;

/** Tells through a port how far it has come, not too often. */
function teller(port: MessagePort): (bytes: number) => void {
  let told = 0;
  return (bytes) => {
    if (Date.now() - told < TELL_MS) return;
    told = Date.now();
    port.postMessage(bytes);
  };
}

/** Big columns are handed over, not copied. */
function handedOver(answer: WorkerAnswer, table: Table): WorkerAnswer {
  const buffers = [table.tMs, ...table.columns].flatMap((column) => (ArrayBuffer.isView(column) ? [column.buffer] : []));
  return move({ [Piscina.transferableSymbol]: buffers, [Piscina.valueSymbol]: answer } as never) as unknown as WorkerAnswer;
}

/** Does one task of the pool. What is wrong with a log is an answer; anything else is a fault of ours, and the server's log has it. */
export default async function work({ task, port }: { task: WorkerTask; port: MessagePort }): Promise<WorkerAnswer> {
  try {
    const onBytes = teller(port);
    if (task.kind === 'scan') return { type: 'done', value: await scanLog(task.path, task.options, onBytes) };
    const table = await readTable(task.path, task.body, onBytes);
    return handedOver({ type: 'done', value: table }, table);
  } catch (error) {
    if (!(error instanceof LogProblem)) throw error;
    return { type: 'problem', message: error.message, sentence: error instanceof UnitQuestion ? error.sentence : null };
  } finally {
    port.close();
  }
}
