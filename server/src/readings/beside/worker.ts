import type { RunReview } from '@red-ember/core';
import { openToRead } from '../../database/open.ts';
import { SampleStore } from '../../samples/store.ts';
import { reviewOf } from '../inputs.ts';
import type { ReviewTask } from './reviewer.ts';

/**
 * Reads one run, or nothing where the thread is only to be there; over a connection of its own that cannot write and is gone with the task:
 * nothing holds on to a bench that is put away.
 */
export default function work(task: ReviewTask | null): RunReview | null {
  if (!task) return null;
  const { dataFolder, runId, inputs } = task;
  const db = openToRead(dataFolder);
  try {
    const samples = new SampleStore(db);
    return reviewOf(inputs, (key) => samples.read(runId, key));
  } finally {
    db.close();
  }
}
