import type { SignatureRecord } from '@red-ember/core';
import { goesOn, type RecordedRole, type Run, type Study } from '@red-ember/contract';
import { whyUnsound } from '../readings/sound.ts';
import type { ReadingService } from '../readings/service.ts';
import type { RunKind, RunStore } from '../runs/store.ts';

/** More clean runs tell no better what is normal. */
const MOST_RUNS = 8;
/** Of a shorter load the end is not that of a load at all, s. */
export const LEAST_LOAD_S = 300;
export const FANS: RecordedRole[] = ['fan', 'fan2', 'fan3'];

/** The stretch of a run that is compared. */
export interface Load {
  run: Run;
  startS: number;
  lengthS: number;
}

/** The first load of a run that is long enough; the first follows a rest, whatever comes later follows another load. */
export function loadOf(run: Run): Load | null {
  const phase = run.phases.find(({ kind }) => kind === 'load');
  if (!phase) return null;
  const lengthS = (phase.endS ?? run.lengthS) - phase.startS;
  return lengthS >= LEAST_LOAD_S ? { run, startS: phase.startS, lengthS } : null;
}

/** Loads of runs from which it is learnt what is normal. */
export class CleanLoads {
  constructor(
    private readonly store: RunStore,
    private readonly readings: ReadingService,
  ) {}

  /** Clean runs of a variant with a load of some length, the newest last, no more than are of use. */
  of(study: Study, variantId: string, but: (run: Run) => boolean = () => true): Load[] {
    return this.store
      .measured(study.id)
      .filter((run) => run.variantId === variantId && !goesOn(run) && but(run) && whyUnsound(run, study, this.readings) === null)
      .flatMap((run) => loadOf(run) ?? [])
      .slice(-MOST_RUNS);
  }

  /** Of which kind these are: of the newest of them; without any, what the study is set up for. */
  kindOf(study: Study, loads: readonly Load[]): RunKind {
    const newest = loads.at(-1);
    return newest ? this.store.kindOf(newest.run.id) : (this.store.kindsOf(study.id).find((kind) => kind !== 'file') ?? 'file');
  }

  /**
   * @param lengthS from the start of the load on
   * @param what reading every spot takes longest, and fans are known without
   */
  record({ run, startS }: Load, lengthS: number, what: 'all' | 'fans' = 'all'): SignatureRecord {
    const of = (role: RecordedRole) => {
      const channel = run.channels.find((candidate) => candidate.role === role);
      return channel ? this.readings.corrected(run, channel.key) : null;
    };
    return {
      id: run.id,
      loadStartS: startS,
      loadEndS: startS + lengthS,
      spots: run.channels.flatMap(({ key, role, spotId }) =>
        role === 'spot' && spotId && what === 'all' ? [{ id: spotId, series: this.readings.corrected(run, key) }] : [],
      ),
      room: of('room'),
      power: of('power'),
      duty: of('duty'),
      fans: FANS.flatMap((role) => {
        const series = of(role);
        return series ? [{ id: role, series }] : [];
      }),
    };
  }
}
