import { v7 as newId } from 'uuid';
import type { Rehearsal, RehearsalBody } from '@red-ember/contract';
import { conflict, notFound } from '../http/problems.ts';
import type { RigHub } from '../rigs/rigHub.ts';
import { BrokenOff, Rehearsing } from './rehearsing.ts';
import type { RehearsalStore } from './store.ts';

interface UnderWay {
  rehearsal: Rehearsal;
  rehearsing: Rehearsing;
  over: Promise<void>;
}

/** Has rigs show, before anything is measured on them, that their load goes off; and keeps what they showed. */
export class RehearsalService {
  private readonly underWay = new Map<string, UnderWay>();

  constructor(
    private readonly store: RehearsalStore,
    private readonly rigs: RigHub,
    private readonly runs: { runOnRig(rigId: string): string | null },
    private readonly log: (text: string) => void,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /** @throws HttpProblem 404 for a rig that is not there, 409 where it is busy */
  start(rigId: string, { loadPercent }: RehearsalBody): Rehearsal {
    const hello = this.rigs.hello(rigId);
    if (!hello) throw notFound('This rig');
    if (!this.rigs.isConnected(rigId)) throw conflict('This rig is not connected.');
    if (this.runs.runOnRig(rigId)) throw conflict('A run goes on at this rig: rehearse before or after it.');
    if (this.underWay.has(rigId)) throw conflict('This rig is rehearsing already.');
    const id = newId();
    const rehearsal: Rehearsal = {
      id,
      rigId,
      rigName: hello.rig.name,
      at: this.now().toISOString(),
      loadPercent,
      trying: 'stop',
      brokenOff: '',
      steps: [],
    };
    const rehearsing = new Rehearsing(
      this.rigs,
      rigId,
      loadPercent,
      (key) => (rehearsal.trying = key),
      (step) => rehearsal.steps.push(step),
      `rehearsal-${id}`,
    );
    const untap = this.rigs.tap(rigId, rehearsing);
    const over = rehearsing
      .act()
      .catch((error: unknown) => {
        rehearsal.brokenOff = error instanceof BrokenOff ? error.message : `The server stumbled over it: ${String(error)}`;
      })
      .finally(() => {
        untap();
        rehearsal.trying = null;
        this.underWay.delete(rigId);
        try {
          this.store.insert(rehearsal);
        } catch (error) {
          this.log(`The rehearsal of ${rehearsal.rigName} could not be kept: ${String(error)}`);
        }
      });
    this.underWay.set(rigId, { rehearsal, rehearsing, over });
    return rehearsal;
  }

  breakOff(rigId: string): void {
    const going = this.underWay.get(rigId);
    if (!going) throw conflict('This rig is not rehearsing.');
    going.rehearsing.breakOff('Broken off by hand.');
  }

  /** The one under way first, then the newest. */
  ofRig(rigId: string): Rehearsal[] {
    const going = this.underWay.get(rigId);
    return [...(going ? [going.rehearsal] : []), ...this.store.ofRig(rigId)];
  }

  newest(rigId: string): Rehearsal | null {
    return this.ofRig(rigId)[0] ?? null;
  }

  /** What a rig is busy with, as a name of a run; null where it rehearses nothing. */
  runOnRig(rigId: string): string | null {
    const going = this.underWay.get(rigId);
    return going ? `rehearsal-${going.rehearsal.id}` : null;
  }

  goesOn(): boolean {
    return this.underWay.size > 0;
  }

  close(): void {
    for (const { rehearsing } of this.underWay.values()) rehearsing.breakOff('The server was ended in the middle.');
  }
}
