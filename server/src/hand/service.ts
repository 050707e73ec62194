import type { HandReadingsBody, Run } from '@red-ember/contract';
import { conflict, notFound } from '../http/problems.ts';
import type { Conductor } from '../rigs/conductor.ts';
import type { RunService } from '../runs/service.ts';
import type { StudyService } from '../studies/service.ts';
import type { HandStore } from '../runs/handStore.ts';
import { typedReadings } from '../runs/typedReadings.ts';

/** Readings that somebody types while a run goes on. */
export class HandService {
  constructor(
    private readonly store: HandStore,
    private readonly runs: RunService,
    private readonly studies: StudyService,
    private readonly conductor: Conductor,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /**
   * Writes down what was read at this moment, all of it or none.
   *
   * @throws HttpProblem 422 with the field of a reading that is no temperature; 409 once the run has ended
   */
  write(runId: string, body: HandReadingsBody): Run {
    const run = this.runs.get(runId);
    if (run.state !== 'recording') throw conflict('Readings are stamped with the clock of a run that goes on; this one does not.');
    const values = typedReadings(this.studies.get(run.studyId).spots, body);
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
