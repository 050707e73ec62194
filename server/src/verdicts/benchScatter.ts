import { figureOf, pooledRepeatability } from '@red-ember/core';
import type { BenchScatter, Run, Study } from '@red-ember/contract';
import { judgeRules, type ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { Remembered } from './remembered.ts';

/** One run's figure at one spot, with what makes it equal to others. */
interface BenchFigure {
  componentClass: string;
  key: string;
  mount: string;
  value: number;
}

/** How well the bench repeats, learnt from all its studies. */
export class BenchRepeats {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
    private readonly remembered: Remembered,
  ) {}

  /** How well the bench repeats for the classes of component in a study, this study's own runs among the rest. */
  scatter(studyId: string): BenchScatter[] {
    const study = this.studies.get(studyId);
    const own = this.runs.measured(studyId).filter((run) => run.state === 'finished' && run.disposition !== 'reject');
    const figures = [...this.otherFigures(study), ...own.flatMap((run) => this.figuresOf(run, study))];
    return [...new Set(study.spots.map((spot) => spot.componentClass))].map((componentClass) => {
      const ofClass = figures.filter((figure) => figure.componentClass === componentClass);
      return {
        componentClass,
        untouched: pooledRepeatability(grouped(ofClass, (figure) => `${figure.key}/${figure.mount}`)),
        remounted: pooledRepeatability(grouped(ofClass, (figure) => figure.key)),
      };
    });
  }

  /**
   * Scatter between equal runs, pooled over the bench's other studies of the same family, per class of component: a part's own
   * sensor in whole degrees scatters otherwise than a thermocouple. By id of this study's spots.
   *
   * @param except a study whose runs stand in the comparison themselves, and must not count twice
   */
  of(study: Study, except?: string): Record<string, { sd: number; dof: number }> {
    const figures = this.otherFigures(study, except);
    return Object.fromEntries(
      study.spots.flatMap((spot) => {
        const ofClass = figures.filter((figure) => figure.componentClass === spot.componentClass);
        const scatter = pooledRepeatability(grouped(ofClass, (figure) => figure.key));
        return scatter ? [[spot.id, scatter]] : [];
      }),
    );
  }

  private figuresOf(run: Run, owner: Study): BenchFigure[] {
    const judged = this.readings.judgedRun(run, owner);
    return owner.spots.flatMap((spot) => {
      const figure = figureOf(judged, spot.id, judgeRules(owner));
      if (!figure) return [];
      return [
        { componentClass: spot.componentClass, key: `${run.variantId}/${spot.id}`, mount: run.mountId ?? run.id, value: figure.value },
      ];
    });
  }

  /** Figures of the bench's other studies of the same family. Figures under other rules are another quantity and stay out. */
  private otherFigures(study: Study, except?: string): BenchFigure[] {
    const owners = new Map<string, Study>();
    return this.runs.otherStudies(study.id).flatMap((other) => {
      if (other.studyId === except) return [];
      const owner = owners.get(other.studyId) ?? this.studies.get(other.studyId);
      owners.set(other.studyId, owner);
      if (owner.rules.basis !== study.rules.basis || owner.rules.figure !== study.rules.figure) return [];
      return this.remembered.get(`figures ${other.runId}`, () => this.figuresOf(this.runs.find(other.runId)!, owner));
    });
  }
}

function grouped(figures: readonly BenchFigure[], keyOf: (figure: BenchFigure) => string): number[][] {
  const groups = new Map<string, number[]>();
  for (const figure of figures) groups.set(keyOf(figure), [...(groups.get(keyOf(figure)) ?? []), figure.value]);
  return [...groups.values()];
}
