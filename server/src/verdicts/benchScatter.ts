import { figureOf, idledBeside, learnDrift, pooledRepeatability, runFindings, type JudgeRules } from '@red-ember/core';
import type { BenchScatter, Run, ScatterSource, Study } from '@red-ember/contract';
import { judgeRules, type ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { Remembered } from './remembered.ts';

/** One run's figure at one spot, with what makes it equal to others. */
interface BenchFigure {
  runId: string;
  studyId: string;
  variantId: string;
  componentClass: string;
  /** Variant, spot and what was set: runs that were meant to be equal. */
  key: string;
  /** On which fitting; null where nobody knows. */
  mount: string | null;
  value: number;
  /** null where nobody knows. */
  atMs: number | null;
  /** null where it was not recorded. */
  powerW: number | null;
  fanRpm: number | null;
  busyPercent: number | null;
}

/** Equal runs whose power, or fan, lies further from their middle than this share were not equal. */
const SAME_POWER = 0.02;
const SAME_FAN = 0.05;

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
    const own = this.runs.measured(studyId).filter((run) => run.state === 'finished');
    const figures = [...this.otherFigures(study), ...own.flatMap((run) => this.figuresOf(run, study))];
    return [...new Set(study.spots.map((spot) => spot.componentClass))].map((componentClass) => {
      const ofClass = figures.filter((figure) => figure.componentClass === componentClass);
      return {
        componentClass,
        untouched: pooledRepeatability(untouched(ofClass)),
        remounted: pooledRepeatability(equals(ofClass).map((group) => group.map(({ value }) => value))),
        from: this.sourcesOf(equals(ofClass).filter((group) => group.length > 1)),
      };
    });
  }

  /**
   * Scatter between mounts of equal runs, pooled over the bench's other studies of the same family, per class of component: a part's own
   * sensor in whole degrees scatters otherwise than a thermocouple. By id of this study's spots.
   *
   * Only clean runs tell of it: finished, not rejected, with nothing against them, without planted faults, at equal power, fan and
   * settings; recorded logs, rigs and simulated benches each for themselves.
   *
   * @param except a study whose runs stand in the comparison themselves, and must not count twice
   */
  of(study: Study, except?: string): Record<string, { sd: number; dof: number }> {
    const figures = this.otherFigures(study, except);
    return Object.fromEntries(
      study.spots.flatMap((spot) => {
        const scatter = remounted(figures.filter((figure) => figure.componentClass === spot.componentClass));
        return scatter ? [[spot.id, scatter]] : [];
      }),
    );
  }

  /** What the bench's other studies show of how it drifts, from the same runs that tell of its scatter; nothing where they show none. */
  drift(study: Study, except?: string): Pick<JudgeRules, 'drift'> {
    const classes = new Set<string>(study.spots.map((spot) => spot.componentClass));
    const figures = this.otherFigures(study, except).filter((figure) => classes.has(figure.componentClass));
    const timed = equals(figures).map((group) =>
      group.flatMap(({ atMs, value, studyId }) => (atMs === null ? [] : [{ atMs, value, studyId }])),
    );
    const told = timed.filter(({ length }) => length > 1);
    const drift = learnDrift(grouped(told, ([first]) => first!.studyId));
    return drift ? { drift } : {};
  }

  /** The studies that `of` pools, for the classes of component in a study. */
  sources(study: Study, except?: string): ScatterSource[] {
    const classes = new Set<string>(study.spots.map((spot) => spot.componentClass));
    const figures = this.otherFigures(study, except).filter((figure) => classes.has(figure.componentClass));
    return this.sourcesOf(equals(figures).filter((group) => byMount(group).length > 1));
  }

  private sourcesOf(groups: readonly BenchFigure[][]): ScatterSource[] {
    return grouped(groups.flat(), ({ studyId }) => studyId)
      .map((figures) => ({
        studyId: figures[0]!.studyId,
        title: this.studies.get(figures[0]!.studyId).title,
        runs: new Set(figures.map(({ runId }) => runId)).size,
        variants: new Set(figures.map(({ variantId }) => variantId)).size,
      }))
      .sort((p, q) => q.runs - p.runs || p.title.localeCompare(q.title));
  }

  private figuresOf(run: Run, owner: Study): BenchFigure[] {
    if (run.disposition === 'reject' || run.faults.length > 0 || run.figures !== null) return [];
    const judged = this.readings.judgedRun(run, owner);
    const rules = judgeRules(owner);
    if (runFindings(judged, this.readings.spotsOf(owner, [run]), rules).some((finding) => finding.severity === 'blocks')) return [];
    const set = JSON.stringify(Object.entries(run.settings).sort());
    return owner.spots.flatMap((spot) => {
      const figure = figureOf(judged, spot.id, rules);
      if (!figure) return [];
      return [
        {
          runId: run.id,
          studyId: owner.id,
          variantId: run.variantId,
          componentClass: spot.componentClass,
          key: `${run.variantId}/${spot.id}/${set}`,
          mount: run.mountId,
          value: figure.value,
          atMs: judged.startedAtMs,
          powerW: judged.review.power?.value ?? null,
          fanRpm: judged.review.fan?.value ?? null,
          busyPercent: judged.review.utilisationPercent,
        },
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

/** Figures of runs that were meant to be equal and were, a group a variant and spot. */
function equals(figures: readonly BenchFigure[]): BenchFigure[][] {
  return grouped(figures, ({ key }) => key).map((group) => alike(alike(keptBusy(group), 'powerW', SAME_POWER), 'fanRpm', SAME_FAN));
}

/** Without those that were less busy than the busiest. */
function keptBusy(group: readonly BenchFigure[]): BenchFigure[] {
  const best = Math.max(...group.map(({ busyPercent }) => busyPercent ?? -Infinity));
  return group.filter(({ busyPercent }) => !idledBeside(busyPercent, best));
}

/** Those whose power, or fan, lies about the middle of all; those that did not record it stay among themselves. */
function alike(group: readonly BenchFigure[], of: 'powerW' | 'fanRpm', share: number): BenchFigure[] {
  const known = group.flatMap((figure) => figure[of] ?? []).sort((p, q) => p - q);
  if (known.length === 0) return [...group];
  const middle = known[Math.floor(known.length / 2)]!;
  return group.filter((figure) => figure[of] !== null && Math.abs(figure[of] - middle) <= share * Math.abs(middle));
}

/** Values of runs on one mount, a list a mount; of a mount that nobody wrote down it is not known that nobody touched it. */
const untouched = (figures: readonly BenchFigure[]): number[][] =>
  equals(figures.filter(({ mount }) => mount !== null)).flatMap((group) => byMount(group).map((mount) => mount.map(({ value }) => value)));

const byMount = (group: readonly BenchFigure[]) => grouped(group, ({ mount }) => mount ?? '');

/** Scatter of mounts about their variant: the mean of each mount's runs is one figure. */
function remounted(figures: readonly BenchFigure[]): { sd: number; dof: number } | null {
  return pooledRepeatability(
    equals(figures).map((group) => byMount(group).map((mount) => mount.reduce((sum, { value }) => sum + value / mount.length, 0))),
  );
}

function grouped<T>(figures: readonly T[], keyOf: (figure: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const figure of figures) groups.set(keyOf(figure), [...(groups.get(keyOf(figure)) ?? []), figure]);
  return [...groups.values()];
}
