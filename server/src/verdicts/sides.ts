import { matchSpots, renamedSide, unreachable, type HouseRule, type HouseRuleKey, type JudgedSide, type Origin } from '@red-ember/core';
import { goesOn, type PairVerdict, type Run, type Study, type VariantBody } from '@red-ember/contract';
import { levelsOf, ruleInWords, otherStudyOf, parseSide } from '@red-ember/study';
import { notFound, unprocessable } from '../http/problems.ts';
import type { ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';

const RULES: HouseRuleKey[] = ['basis', 'figure', 'fans', 'load', 'duration', 'place', 'sensorOfRecord', 'stress', 'paste'];

/** Puts together what stands on one side of a comparison. */
export class Sides {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
  ) {}

  /** Runs of a study that have ended and were made to be measured. */
  ended(studyId: string): Run[] {
    return this.runs.measured(studyId).filter((run) => !goesOn(run) && run.state !== 'failed');
  }

  /** A variant with those of the runs that are its own. */
  of(study: Study, variant: VariantBody | undefined, runs: readonly Run[]): JudgedSide {
    const subject = study.subjects.find((candidate) => candidate.id === variant?.subjectId);
    // Every piece has sensors of its own inside: two of them are two sensors, whatever both are called.
    const own = study.subjects.length > 1 ? study.spots.filter((spot) => spot.method === 'own').map((spot) => spot.id) : [];
    return {
      variantId: variant?.id ?? '',
      name: variant?.name ?? '',
      subject: subject?.name ?? '',
      levels: variant ? levelsOf(variant) : {},
      origin: originOf(study, variant),
      runs: runs
        .filter((run) => run.variantId === variant?.id)
        .map((run) => this.readings.judgedRun(run, study))
        .map((run) => ({ ...run, sensors: renamedSensors(run.sensors, own, (sensor) => `${sensor} of ${subject?.name ?? ''}`) })),
    };
  }

  /**
   * What stands on one side: a variant by its id, a single run as "run:" and its id, every run at a level as "level:factor=level",
   * or a variant of another study as "study:" and both ids.
   *
   * @throws HttpProblem 404 where nothing is called that, 422 where the other study is about another kind of part
   */
  named(study: Study, asked: string, runs: readonly Run[]): JudgedSide {
    const side = parseSide(asked);
    switch (side.kind) {
      case 'elsewhere':
        return this.elsewhere(study, asked, side);
      case 'run': {
        const run = runs.find((candidate) => candidate.id === side.id);
        const variant = study.variants.find((candidate) => candidate.id === run?.variantId);
        if (!run || !variant) throw notFound('This run');
        return { ...this.of(study, variant, [run]), variantId: asked, name: `${variant.name}, run ${run.number}` };
      }
      case 'level':
        return this.atLevel(study, asked, side, runs);
      case 'variant': {
        const variant = study.variants.find((candidate) => candidate.id === side.id);
        if (!variant) throw notFound('This variant');
        return this.of(study, variant, runs);
      }
      default:
        return unreachable(side);
    }
  }

  private atLevel(study: Study, asked: string, { factor, level }: { factor: string; level: string }, runs: readonly Run[]): JudgedSide {
    const variants = study.variants.filter((variant) => levelsOf(variant)[factor] === level);
    if (variants.length === 0) throw notFound('This level');
    const sides = variants.map((variant) => this.of(study, variant, runs));
    const pieces = [...new Set(sides.flatMap((side) => side.origin?.part ?? []))];
    return {
      variantId: asked,
      name: `${factor} ${level}`,
      levels: { [factor]: level },
      // A level is of the same study and the same rules as its variants, and of every piece that they were put on.
      origin: { ...originOf(study, variants[0]), part: pieces.join(' and ') },
      runs: sides.flatMap((side) => side.runs),
    };
  }

  /** Which study a side of the address comes from, and what its spots are called there, by this study's spot id. */
  describeElsewhere(study: Study, asked: string | undefined): PairVerdict['elsewhere'] {
    const otherId = otherStudyOf(asked);
    if (!otherId || otherId === study.id) return null;
    const other = this.studies.get(otherId);
    const names = matchSpots(study.spots, other.spots);
    return { studyId: otherId, title: other.title, spots: Object.fromEntries(Object.entries(names).map(([there, here]) => [here, there])) };
  }

  private elsewhere(study: Study, asked: string, { studyId: otherId, variantId }: { studyId: string; variantId: string }): JudgedSide {
    if (otherId === study.id) return this.named(study, variantId, this.ended(study.id));
    const other = this.studies.get(otherId);
    if (other.family !== study.family)
      throw unprocessable(`“${other.title}” is about another kind of part: what was measured there is not what was measured here.`);
    const variant = other.variants.find((candidate) => candidate.id === variantId);
    if (!variant) throw notFound('This variant');
    const side = this.of(other, variant, this.ended(other.id));
    const names = matchSpots(study.spots, other.spots);
    if (Object.keys(names).length === 0)
      throw unprocessable(`No spot of “${other.title}” has a counterpart here: nothing can be held against anything.`);
    // One instrument that reads both cancels; anything else is another sensor, even under the same name.
    const apart = study.spots.flatMap((spot) => {
      const there = other.spots.find((candidate) => names[candidate.id] === spot.id);
      const one = there?.instrumentChannelId != null && there.instrumentChannelId === spot.instrumentChannelId;
      return there && !one ? [there.id] : [];
    });
    const told = side.runs.map((run) => ({
      ...run,
      label: `${run.label} of “${other.title}”`,
      sensors: renamedSensors(run.sensors, apart, (sensor) => `${sensor} of the other study`),
    }));
    return renamedSide({ ...side, variantId: asked, name: `${variant.name} of the other study`, runs: told }, names);
  }
}

function renamedSensors(sensors: Record<string, string>, spotIds: readonly string[], name: (sensor: string) => string) {
  return Object.fromEntries(Object.entries(sensors).map(([id, sensor]) => [id, spotIds.includes(id) ? name(sensor) : sensor]));
}

function originOf(study: Study, variant: VariantBody | undefined): Origin {
  const subject = study.subjects.find((candidate) => candidate.id === variant?.subjectId);
  const rules = Object.fromEntries(
    RULES.map((key): [HouseRuleKey, HouseRule] => [key, { value: study.rules[key], words: ruleInWords(study.rules, key) }]),
  ) as Origin['rules'];
  return { studyId: study.id, title: study.title, part: [subject?.name, subject?.details].filter(Boolean).join(', '), rules };
}
