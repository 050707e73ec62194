import { settlingNow, settlingTrace, type Series, type BoundedSettling } from '@red-ember/core';
import { threads } from '../../threads/threads.ts';

/** One spot of one phase, as it is judged; copies, since what is handed over is gone for whoever had it. */
export interface SettlingTask {
  spot: Series;
  room: Series | null;
}

/** Says how far a spot has settled; takes tens of milliseconds of somebody's time. */
export interface SettlingJudge {
  judge(task: SettlingTask): Promise<BoundedSettling | null>;
  close(): void;
}

export const settlingOf = ({ spot, room }: SettlingTask): BoundedSettling | null => settlingNow(settlingTrace(spot, room));

/** Judges in the caller's own time. */
export const judgesHere: SettlingJudge = { judge: (task) => Promise.resolve(settlingOf(task)), close: () => {} };

/** Judges in a thread: the watch over the load has no tens of milliseconds to give. */
export class JudgesBeside implements SettlingJudge {
  private readonly pool = threads<SettlingTask, BoundedSettling | null>(new URL('./worker.ts', import.meta.url), 1);

  judge(task: SettlingTask): Promise<BoundedSettling | null> {
    return this.pool.run(task);
  }

  close(): void {
    void this.pool.destroy();
  }
}
