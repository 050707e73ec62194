import { LEASE_S, type StateMessage } from '@red-ember/contract';
import type { RigHub } from './rigHub.ts';

/** Runs whose load is to be off, kept and said again until their rig confirms it: a Stop is never forgotten. */
export class StopWishes {
  private readonly open = new Map<string, string>();

  constructor(private readonly rigs: Pick<RigHub, 'send'>) {}

  want(runId: string, rigId: string): void {
    this.open.set(runId, rigId);
    this.say(runId, rigId);
  }

  /** Another run begins on a rig: one that never says what it does would else be told to stop the old one for ever. */
  forget(rigId: string): void {
    for (const [runId, on] of this.open) if (on === rigId) this.open.delete(runId);
  }

  has(runId: string): boolean {
    return this.open.has(runId);
  }

  /** A rig that is on no run, or on another one, has let go of this one. */
  heardHello(rigId: string, itsRun: string | null): void {
    for (const [runId, on] of this.open) if (on === rigId && runId !== itsRun) this.open.delete(runId);
  }

  heardState(rigId: string, { runId: itsRun, loadPercent }: StateMessage): void {
    for (const [runId, on] of this.open) if (on === rigId && itsRun !== runId && loadPercent === 0) this.open.delete(runId);
  }

  sayAgain(): void {
    for (const [runId, rigId] of this.open) this.say(runId, rigId);
  }

  private say(runId: string, rigId: string): void {
    this.rigs.send(rigId, { type: 'command', command: 'load', runId, percent: 0, forS: LEASE_S });
    this.rigs.send(rigId, { type: 'command', command: 'end', runId });
  }
}
