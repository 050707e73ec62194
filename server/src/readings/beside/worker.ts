import type { RunReview } from '@red-ember/core';
import { openToRead } from '../../database/open.ts';
import { SampleStore } from '../../samples/store.ts';
import { reviewOf } from '../inputs.ts';
import type { ReviewTask } from './reviewer.ts';

/** Reads one run, over a connection of its own that cannot write and is gone with the task: nothing holds on to a bench that is put away. */
export default function work({ dataFolder, runId, inputs }: ReviewTask): RunReview {
  const db = openToRead(dataFolder);
  try {
    const samples = new SampleStore(db);
    return reviewOf(inputs, (key) => samples.read(runId, key));
  } finally {
    db.close();
  }
}
