import {
  agreement,
  agreementFinding,
  biasAtLimit,
  InsufficientDataError,
  mean,
  meanWithin,
  pairedDifferences,
  rejectSpikes,
  type Finding,
  type Series,
  type TwinAgreement,
} from '@red-ember/core';
import { goesOn, type Run, type Study, type TwinReading } from '@red-ember/contract';
import { heldAgainst } from '@red-ember/study';
import type { ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';

/** Points of a difference plot that still show its shape. */
const MOST_POINTS = 240;

/** Holds spots that read one place, and a part's own sensors, against each other, in every run that has both. */
export class AgreementService {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
  ) {}

  ofStudy(studyId: string): TwinReading[] {
    const study = this.studies.get(studyId);
    const runs = this.runs.measured(studyId).filter((run) => !goesOn(run));
    return this.read(study, runs).map(({ twin, run, points }) => ({
      runId: run.id,
      runNumber: run.number,
      aId: twin.a.id,
      bId: twin.b.id,
      agreement: twin.agreement,
      levelC: twin.levelC,
      biasAtLimitK: biasAtLimit(twin),
      flag: agreementFinding(twin)?.evidence ?? null,
      points,
    }));
  }

  /** One finding for each pair of spots that disagree: that of the newest run, since sensors drift. */
  findings(study: Study, runs: Run[]): Finding[] {
    const newest = new Map<string, TwinAgreement>();
    for (const { twin } of this.read(study, runs)) newest.set(twin.b.id, twin);
    return [...newest.values()].flatMap((twin) => agreementFinding(twin) ?? []);
  }

  /** What was read at a spot, spikes left out; null where the run has no such channel. */
  private clean(run: Run, spotId: string): Series | null {
    const key = run.channels.find((channel) => channel.spotId === spotId)?.key;
    return key === undefined ? null : rejectSpikes(this.readings.corrected(run, key)).clean;
  }

  private read(study: Study, runs: Run[]): { twin: TwinAgreement; run: Run; points: TwinReading['points'] }[] {
    return study.spots.flatMap((b) => {
      const against = heldAgainst(b, study.spots);
      if (!against) return [];
      return runs.flatMap((run) => {
        const seriesB = this.clean(run, b.id);
        const [hottest] = against.ids
          .flatMap((id) => {
            const series = this.clean(run, id);
            return series ? [{ a: study.spots.find((spot) => spot.id === id)!, series }] : [];
          })
          .sort((p, q) => (meanWithin(q.series) ?? -Infinity) - (meanWithin(p.series) ?? -Infinity));
        if (!hottest || !seriesB) return [];
        const { a, series: seriesA } = hottest;
        try {
          const found = agreement(seriesA, seriesB);
          const { mean: levels, difference } = pairedDifferences(seriesA, seriesB);
          const step = Math.max(1, Math.floor(levels.length / MOST_POINTS));
          return [
            {
              run,
              twin: {
                a: { id: a.id, name: a.name },
                b: { id: b.id, name: b.name, limitC: b.limitC },
                samePlace: against.samePlace,
                runLabel: `run ${run.number}`,
                agreement: found,
                levelC: mean(levels),
              },
              points: levels.filter((_, i) => i % step === 0).map((meanC, i) => ({ meanC, differenceK: difference[i * step]! })),
            },
          ];
        } catch (error) {
          if (error instanceof InsufficientDataError) return [];
          throw error;
        }
      });
    });
  }
}
