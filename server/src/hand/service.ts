import { handValue } from '@red-ember/core';
import { goesOn, type HandReadingsBody, type Run } from '@red-ember/contract';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import type { Conductor } from '../rigs/conductor.ts';
import type { RunService } from '../runs/service.ts';
import type { StudyService } from '../studies/service.ts';
import type { HandStore } from '../runs/handStore.ts';

const wrong = (i: number, field: string, sentence: string) => unprocessable(sentence, [{ pointer: `/readings/${i}/${field}`, sentence }]);

/** Readings that somebody types, while a run goes on or from paper afterwards. */
export class HandService {
  constructor(
    private readonly store: HandStore,
    private readonly runs: RunService,
    private readonly studies: StudyService,
    private readonly conductor: Conductor,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /**
   * Writes down what was read, all of it or none: at this moment while the run goes on, at the moment that is said once it has ended.
   *
   * @throws HttpProblem 422 with the field of a reading that is no temperature, or a moment outside the run; 409 once it is signed off
   */
  write(runId: string, body: HandReadingsBody): Run {
    const run = this.runs.get(runId);
    const going = goesOn(run);
    if (run.state === 'waiting') throw conflict('The run has not begun.');
    if (going && body.atS !== undefined) throw conflict('Readings of a run that goes on are stamped with its own clock.');
    const spots = this.studies.get(run.studyId).spots;
    const values = body.readings.map(({ spotId, typed }, i) => {
      if (!spots.some((spot) => spot.id === spotId && spot.byHand)) throw wrong(i, 'spotId', 'This spot is not read by hand.');
      const value = handValue(typed, body.usual);
      if (value.kind === 'unclear') throw wrong(i, 'typed', value.why);
      return { spotId, typed, valueC: value.valueC };
    });
    if (!going) return this.runs.readLater(runId, values, body.atS);
    const atS = this.conductor.clockS(runId) ?? run.lengthS;
    const at = this.now().toISOString();
    this.store.add(
      runId,
      values.map((value) => ({ ...value, atS, at })),
    );
    this.conductor.handRead(runId);
    return this.runs.get(runId);
  }

  takeBack(runId: string, id: string): Run {
    const { disposition } = this.runs.get(runId);
    // What was signed off rests on its readings.
    if (disposition !== 'undecided') throw conflict('This run is signed off with its readings; take the sign-off back first.');
    if (!this.store.remove(runId, id, this.now().toISOString())) throw notFound('This reading');
    this.conductor.handRead(runId);
    return this.runs.get(runId);
  }
}
