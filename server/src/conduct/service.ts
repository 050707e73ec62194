import { randomInt } from 'node:crypto';
import { phasesOf, SEAT_LATE_S, type RecipePhase } from '@red-ember/core';
import { goesOn, type InterventionBody, type MarkBody, type Run, type RunLoad, type StartRunBody, type Study } from '@red-ember/contract';
import { conflict, unprocessable } from '../http/problems.ts';
import type { Looked } from '../preflight/service.ts';
import { armedLimits, rigChannels } from '../rigs/channels.ts';
import type { Conductor } from '../rigs/conductor.ts';
import { mayBePlanted, type FreeRig } from '../rigs/freeRig.ts';
import type { RigHub } from '../rigs/rigHub.ts';
import { handHeld, frozenAt, type RunService } from '../runs/service.ts';
import type { RunStore } from '../runs/store.ts';

/** Two minutes of idle and a short load: enough to see a film that was left on. */
function seatRecipe(study: Study): RecipePhase[] {
  const load = study.recipe.find((phase) => phase.kind === 'load' || phase.kind === 'sweep');
  const fixed = (kind: RecipePhase['kind'], name: string, durationS: number, loadPercent: number): RecipePhase => ({
    kind,
    name,
    mode: 'fixed',
    durationS,
    capS: durationS,
    loadPercent,
  });
  return [fixed('idle-soak', 'Seat check, idle', 120, 0), fixed('load', 'Seat check, load', SEAT_LATE_S + 30, load?.loadPercent ?? 100)];
}

/** Starts runs on a rig, and lets somebody's hand into them while they go on. */
export class ConductService {
  constructor(
    private readonly store: RunStore,
    private readonly runs: RunService,
    private readonly free: FreeRig,
    private readonly rigs: RigHub,
    private readonly conductor: Conductor,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /**
   * Starts a run of a mounted variant.
   *
   * @param looked the pre-flight list that was looked at before, with the seed and the faults it was looked at with
   * @throws HttpProblem 409 without a free rig, 422 where the study lacks what a run needs, or the list is not clear and no reason is given
   */
  start(studyId: string, body: StartRunBody, looked: Looked | null = null): Run {
    const { study, mount, variant } = this.free.mounted(studyId, body.mountId);
    const rig = this.free.rigFor(study, variant, looked?.rigId ?? body.rigId);
    if (body.timeScale !== 1 && !rig.simulated) throw unprocessable('Only a simulated bench can run faster than the clock.');
    const faults = body.faults ?? [];
    if (faults.length > 0 && body.purpose !== 'seat-check')
      throw unprocessable('Faults of a run are planted where the bench is looked at before it.');
    mayBePlanted(rig, faults);
    const overrideReason = body.overrideReason?.trim() ?? '';
    if (looked && !looked.clear && overrideReason === '')
      throw unprocessable('The pre-flight list is not clear: put it right, or say why the run is started all the same.');
    const id = this.store.insert({
      studyId,
      variantId: variant.id,
      mountId: mount.id,
      source: 'rig',
      sourceName: rig.id,
      simulated: rig.simulated,
      state: 'waiting',
      startedAt: this.now().toISOString(),
      timeScale: body.timeScale,
      ...frozenAt(study, variant.id),
      confirmedLocks: (body.confirmedLocks ?? []).filter((name) => handHeld(study).includes(name)),
      purpose: body.purpose ?? 'measure',
      recipe: body.purpose === 'seat-check' ? seatRecipe(study) : phasesOf(study.recipe),
      armed: armedLimits(study, body.onVanish),
      seed: body.seed ?? looked?.seed ?? randomInt(2 ** 31 - 1),
      channels: rigChannels(study, rig.channels),
      faults: looked?.faults ?? faults,
      onVanish: body.onVanish ?? 'cut-out',
      preflight: looked && { checks: looked.checks, overrideReason: looked.clear ? '' : overrideReason },
    });
    this.runs.correct(id);
    this.conductor.begin(id);
    return this.runs.get(id);
  }

  stop(id: string, reason: string): Run {
    const run = this.runs.get(id);
    if (!goesOn(run)) throw conflict('This run has ended already.');
    this.conductor.stop(id, 'stopped', 'stopped', reason.trim() || 'Stopped by hand.');
    return this.runs.get(id);
  }

  /** What is known of the load of a run on a rig. @throws HttpProblem 409 for a run that came from a file */
  load(id: string): RunLoad {
    const run = this.runs.get(id);
    if (run.source !== 'rig') throw conflict('This run came from a file: there is no rig behind it.');
    return this.conductor.loadOf(run);
  }

  mark(id: string, body: MarkBody): Run {
    const run = this.runs.get(id);
    if (!goesOn(run)) throw conflict('This run has ended; a mark now would stand at the wrong time.');
    this.conductor.mark(id, body.kind, body.text);
    return this.runs.get(id);
  }

  /** @throws HttpProblem 409 once the run has ended */
  private going(id: string, what: string): Run {
    const run = this.runs.get(id);
    if (run.state !== 'recording') throw conflict(`This run does not go on, so ${what}.`);
    return run;
  }

  intervene(id: string, body: InterventionBody): Run {
    const run = this.going(id, 'nothing can be changed in it');
    const rig = this.rigs.list(() => null).find((candidate) => candidate.id === run.sourceName);
    const unknown = body.set.find(({ control }) => !rig?.controls.some((candidate) => candidate.key === control));
    if (unknown) throw unprocessable(`${rig?.name ?? 'The rig'} has no control ${unknown.control}.`);
    this.conductor.intervene(id, body);
    return this.runs.get(id);
  }

  pause(id: string): Run {
    const run = this.going(id, 'it cannot be paused');
    if (run.phases.at(-1)?.kind === 'pause') throw conflict('This run is paused already.');
    this.conductor.pause(id);
    return this.runs.get(id);
  }

  goOn(id: string, reason = ''): Run {
    this.going(id, 'there is no phase to end');
    this.conductor.goOnNow(id, reason.trim());
    return this.runs.get(id);
  }

  moreTime(id: string, minutes: number): Run {
    this.going(id, 'there is no phase to extend');
    this.conductor.moreTime(id, minutes);
    return this.runs.get(id);
  }
}
