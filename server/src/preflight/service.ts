import { randomInt, randomUUID } from 'node:crypto';
import { preflight, type PreflightCheck, type PreflightInput, type Series } from '@red-ember/core';
import {
  type LookMessage,
  type PreflightBody,
  type PreflightReport,
  type RehearsalKey,
  type RigStatus,
  type StartRunBody,
  type Study,
} from '@red-ember/contract';
import { lockValue } from '@red-ember/study';
import { conflict } from '../http/problems.ts';
import type { Planted } from '../practice/planted.ts';
import type { RehearsalService } from '../rehearsals/service.ts';
import type { RigHub } from '../rigs/rigHub.ts';
import { mayBePlanted, type FreeRig } from '../rigs/freeRig.ts';
import { handHeld } from '../runs/service.ts';
import type { KnowsMounts, MountKnowledge } from './knowledge.ts';

/** A list that was looked at longer ago than this says nothing of the bench as it is. */
const KEEP_MS = 15 * 60_000;

/** What was looked at before a run is started. */
export interface Looked {
  rigId: string;
  checks: PreflightCheck[];
  clear: boolean;
  seed: number;
  faults: string[];
}

interface Kept extends Looked {
  mountId: string;
  atMs: number;
}

const REHEARSED: Record<RehearsalKey, string> = { stop: 'Stop', 'lost-server': 'lost server', 'cut-out': 'cut-out' };

const seriesOf = (look: LookMessage | null, key: string): Series | null => {
  const values = look?.values[key];
  return values ? { t: Float64Array.from(look!.tMs, (ms) => ms / 1000), y: Float64Array.from(values, (value) => value ?? NaN) } : null;
};

/** Looks at the bench before a run: what is held, what the sensors show, whether the part is cold. */
export class PreflightService {
  private readonly kept = new Map<string, Kept>();

  constructor(
    private readonly knowledge: KnowsMounts,
    private readonly rigs: RigHub,
    private readonly free: FreeRig,
    private readonly rehearsals: Pick<RehearsalService, 'ofRig'>,
    private readonly planted: Pick<Planted, 'in'>,
    private readonly nowMs: () => number = Date.now,
  ) {}

  async look(studyId: string, body: PreflightBody): Promise<PreflightReport> {
    const { study, mount, variant } = this.free.mounted(studyId, body.mountId);
    const rig = this.free.rigFor(study, variant, body.rigId);
    const faults = body.faults ?? [];
    mayBePlanted(rig, faults);
    const seed = randomInt(2 ** 31 - 1);
    const known = await this.knowledge.ofMount(mount.id);
    const look = await this.rigs.look(rig.id, {
      setup: variant.setup,
      seed,
      mountSeed: mount.seed,
      faults: [...faults, ...this.planted.in(studyId, variant.id, mount.number)],
    });
    const checks = preflight(this.input(study, variant.subjectId, known, rig, look, body.confirmedLocks ?? []));
    const clear = checks.every((check) => check.ok !== false);
    const id = randomUUID();
    for (const [key, { atMs }] of this.kept) if (this.nowMs() - atMs > KEEP_MS) this.kept.delete(key);
    this.kept.set(id, { rigId: rig.id, checks, clear, seed, faults, mountId: mount.id, atMs: this.nowMs() });
    return { id, rigId: rig.id, checks, clear };
  }

  /**
   * What was looked at, for the run that is started now.
   *
   * @throws HttpProblem 409 where it is too old, or was of another mount
   */
  take(id: string, start: StartRunBody): Looked {
    const kept = this.kept.get(id);
    if (!kept || kept.mountId !== start.mountId || this.nowMs() - kept.atMs > KEEP_MS)
      throw conflict('The pre-flight list is too old, or of another mount: look again.');
    return kept;
  }

  /** The newest rehearsal of a rig that was brought to its end. */
  private rehearsal({ id, simulated }: RigStatus): PreflightInput['rehearsal'] {
    const newest = this.rehearsals.ofRig(id).find(({ trying, brokenOff }) => trying === null && brokenOff === '');
    return {
      simulated,
      newest: newest
        ? {
            ageDays: (this.nowMs() - Date.parse(newest.at)) / 86_400_000,
            steps: newest.steps.map(({ key, ok, offAfterS, sentence }) => ({ name: REHEARSED[key], ok, offAfterS, sentence })),
          }
        : null,
    };
  }

  private input(
    study: Study,
    subjectId: string,
    known: MountKnowledge,
    rig: RigStatus,
    look: LookMessage | null,
    confirmed: string[],
  ): PreflightInput {
    const ofQuantity = (quantity: string) => rig.channels.filter((channel) => channel.quantity === quantity);
    const duty = seriesOf(look, ofQuantity('duty')[0]?.key ?? '')?.y.at(-1) ?? NaN;
    return {
      confirmed: handHeld(study).map((name) => ({ name, done: confirmed.includes(name) })),
      watched: study.locks.flatMap((lock) => {
        const value = Number.parseFloat(lockValue(lock, subjectId));
        // Power and clock are held under load; at idle they say nothing.
        const atIdle = ofQuantity('duty').some((channel) => channel.key === lock.channel);
        if (!atIdle || lock.tolerance === null || !Number.isFinite(value)) return [];
        return [{ name: lock.name, unit: lock.unit, value, tolerance: lock.tolerance, series: seriesOf(look, lock.channel) }];
      }),
      needsRoom: study.rules.basis !== 'as-found',
      room: seriesOf(look, 'room'),
      roomBand: study.rules.basis === 'as-found' ? null : { minC: study.rules.roomMinC, maxC: study.rules.roomMaxC },
      spots: study.spots
        .filter((spot) => !spot.byHand)
        .map((spot) => ({
          name: spot.name,
          series: seriesOf(look, spot.channel),
          limitC: spot.limitC,
          cutOutC: spot.cutOutC,
          usualIdleRiseK: known.idleRiseK[spot.id] ?? null,
        })),
      fans: ofQuantity('rotation').flatMap((channel) => {
        const rpm = seriesOf(look, channel.key);
        return rpm && rpm.y.some(Number.isFinite)
          ? [{ name: channel.label, rpm, dutyPercent: duty, usual: known.speeds[channel.key] ?? null }]
          : [];
      }),
      seat: known.seat,
      rehearsal: this.rehearsal(rig),
    };
  }
}
