import { drawable, type RunReview } from '@red-ember/core';
import { openToRead } from '../../database/open.ts';
import type { Drawn } from '../../samples/overviews/store.ts';
import { SampleStore } from '../../samples/store.ts';
import { reviewOf } from '../inputs.ts';
import { practised } from './practised.ts';
import type { BesideTask } from './reviewer.ts';

/**
 * Reads or draws one run, or practises where there is nothing yet; over a connection of its own that cannot write and is gone with the task:
 * nothing holds on to a bench that is put away.
 */
export default function work(task: BesideTask): RunReview | Drawn[] | null {
  if (!task) return practised();
  if ('samples' in task) return reviewOf(task.inputs, (key) => task.samples.get(key)!);
  const db = openToRead(task.dataFolder);
  try {
    const samples = new SampleStore(db);
    if ('keys' in task) return task.keys.map((key) => drawable(samples.read(task.runId, key), task.points));
    return reviewOf(task.inputs, (key) => samples.read(task.runId, key));
  } finally {
    db.close();
  }
}
