import type { LogGlance, LogsStudyBody } from '@red-ember/contract';
import { HttpProblem } from '../http/problems.ts';
import type { ReadingService } from '../readings/service.ts';
import type { VerdictService } from '../verdicts/service.ts';
import type { LogStudyService } from './logStudies.ts';

/** A bench of its own, in memory, that is thrown away afterwards. */
export interface ScratchBench {
  logStudies: LogStudyService;
  readings: ReadingService;
  verdicts: VerdictService;
  close(): void;
}

/** What logs that were put down would say together, before anything is made of them. */
export class GlanceService {
  constructor(private readonly scratch: () => ScratchBench) {}

  /**
   * Makes the study on a bench in memory and judges it there: the verdict is the one that the study itself would give, but for what this
   * bench's other studies show of how it repeats. Nothing is stored, and no log is taken up.
   *
   * @throws HttpProblem 404 a log that is not there any more
   */
  async look(body: LogsStudyBody): Promise<LogGlance> {
    const bench = this.scratch();
    try {
      const { addTo: _there, ...alone } = body;
      const { study, runs, leftOut } = await bench.logStudies.make(alone, null, true);
      const made = { title: study.title, runs: runs.length, refused: null };
      if (study.variants.length < 2) return { ...made, leftOut, verdict: null };
      // Whoever else asks is not kept waiting for seconds.
      await bench.readings.readStudy(study.id, 'own');
      const verdict = bench.verdicts.pair(study.id);
      const aside = verdict.judgement.leftOut.flatMap(({ runId, reason }) => {
        const run = runs.find(({ id }) => id === runId);
        return run ? [{ fileName: run.sourceName, reason }] : [];
      });
      return { ...made, leftOut: [...leftOut, ...aside], verdict };
    } catch (error) {
      // What cannot be made yet is no error of the page: it says why when the study is made.
      if (error instanceof HttpProblem && error.status === 422)
        return { title: '', runs: 0, leftOut: [], verdict: null, refused: error.message };
      throw error;
    } finally {
      bench.close();
    }
  }
}
