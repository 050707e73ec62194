import { randomInt } from 'node:crypto';
import { v7 as newId } from 'uuid';
import {
  goesOn,
  TRAPS,
  type BeginPracticeBody,
  type HandInBody,
  type PracticeAttempt,
  type PracticeSheet,
  type PracticeShelf,
  type Study,
  type StudyBody,
} from '@red-ember/contract';
import { draw, drawOf, exerciseOf, EXERCISES, isKnown, mark, plantedWords, TRAP_WORDS, truthOf, type Drawn } from '@red-ember/practice';
import { bodyOf } from '@red-ember/study';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import type { MountService } from '../mounts/service.ts';
import type { RunService } from '../runs/service.ts';
import { withIds } from '../studies/ids.ts';
import type { StudyService } from '../studies/service.ts';
import type { VerdictService } from '../verdicts/service.ts';
import type { PracticeStore, Try } from './store.ts';

const MOST_SEED = 1_000_000;

/** Level and hints of a try that was made of a study of the bench's own. */
const OF_ONES_OWN = {
  level: 2,
  hints: [
    'Something may be wrong with the bench, or nothing. What do two mounts of one variant say of each other?',
    'Look at what is recorded beside the temperatures.',
  ],
  lesson: 'One’s own bench, spoilt by a seed. Another seed spoils it otherwise, or leaves it alone.',
} as const;

/** Exercises with something wrong that nobody is told of; tries at them, and what came of them. Kept apart from everything that is measured in earnest. */
export class PracticeService {
  constructor(
    private readonly store: PracticeStore,
    private readonly of: { studies: StudyService; runs: RunService; mounts: MountService; verdicts: VerdictService },
    private readonly now: () => Date = () => new Date(),
  ) {}

  shelf(): PracticeShelf {
    return {
      exercises: EXERCISES.map(({ key, title, level, family, brief }) => ({ key, title, level, family, brief })),
      attempts: this.store.list().map((tried) => this.attempt(tried)),
    };
  }

  /** @throws HttpProblem 404 without the exercise or study, 422 for a study that the simulated benches do not know */
  begin({ exercise, studyId, seed = randomInt(1, MOST_SEED) }: BeginPracticeBody): PracticeSheet {
    const { body, drawn } = studyId ? this.ofStudy(studyId, seed) : this.ofExercise(exercise ?? '', seed);
    const ids = new Map([...body.spots, ...body.variants].map(({ id }) => [id, newId()]));
    const sides = sidesOf(body);
    return this.store.atomically(() => {
      const study = this.of.studies.create(withIds(body, ids));
      this.store.insert({
        studyId: study.id,
        exercise: studyId ? '' : exercise!,
        seed,
        drawn,
        sides: { a: ids.get(sides.a)!, b: ids.get(sides.b)! },
        begunAt: this.now().toISOString(),
      });
      return this.sheet(study.id);
    });
  }

  /** @throws HttpProblem 404 where the study is no try */
  sheet(studyId: string): PracticeSheet {
    const tried = this.tried(studyId);
    const study = this.of.studies.get(studyId);
    const { drawn, handedIn } = tried;
    const { hints, level } = this.about(tried);
    return {
      studyId,
      exercise: tried.exercise,
      title: study.title,
      level,
      seed: tried.seed,
      brief: study.question,
      question: {
        a: nameOf(study, tried.sides.a, drawn.a.name),
        b: nameOf(study, tried.sides.b, drawn.b.name),
        spot: study.spots.find(({ channel }) => channel === drawn.spot)?.name ?? drawn.spot,
        practicalK: drawn.practicalK,
      },
      traps: TRAPS.map((key) => ({ key, label: TRAP_WORDS[key].label })),
      hints: hints.slice(0, tried.hints),
      hintsLeft: Math.max(0, hints.length - tried.hints),
      runs: this.of.runs.ofStudy(studyId).length,
      answer: handedIn?.answer ?? null,
      marks: handedIn?.marks ?? null,
      truth: handedIn?.truth ?? null,
    };
  }

  /** @throws HttpProblem 409 where there is none left, or the truth is open */
  hint(studyId: string): PracticeSheet {
    const { hintsLeft, answer } = this.sheet(studyId);
    if (answer) throw conflict('The truth is open already.');
    if (hintsLeft === 0) throw conflict('There are no more hints.');
    this.store.takeHint(studyId);
    return this.sheet(studyId);
  }

  /**
   * Takes the answer and opens the truth; there is one answer.
   *
   * @throws HttpProblem 409 where one was handed in before, or a run goes on
   */
  handIn(studyId: string, answer: HandInBody): PracticeSheet {
    const tried = this.tried(studyId);
    if (tried.handedIn) throw conflict('An answer was handed in already. The exercise can be begun anew with another seed.');
    const study = this.of.studies.get(studyId);
    const runs = this.of.runs.ofStudy(studyId);
    if (runs.some(goesOn)) throw conflict('A run goes on. End it first, or wait for it.');
    const mounts = this.of.mounts.ofStudy(studyId);
    const family = study.family as 'drive' | 'card';
    const truth = truthOf(family, tried.drawn);
    const marks = mark(answer, tried.drawn, truth, {
      runsS: runs.map(({ lengthS }) => lengthS),
      handsMin: mounts.map(({ handsMin }) => handsMin ?? null),
      skippedSteps: mounts.reduce((sum, { skipped }) => sum + skipped.length, 0),
      hints: tried.hints,
    });
    const { trap } = tried.drawn;
    const verdict = this.of.verdicts.pair(studyId, tried.sides.a, tried.sides.b);
    this.store.handIn(studyId, {
      at: this.now().toISOString(),
      answer,
      marks,
      truth: {
        differenceK: truth.differenceK,
        calls: truth.calls,
        planted: plantedWords(tried.drawn),
        seen: trap ? [TRAP_WORDS[trap].seen] : [],
        lesson: this.about(tried).lesson,
        verdict: verdict.refusal ?? verdict.sentence.map(({ text }) => text).join(''),
      },
    });
    return this.sheet(studyId);
  }

  /** @throws HttpProblem 409 while a run of it goes on */
  putAway(studyId: string): void {
    this.tried(studyId);
    if (this.of.runs.ofStudy(studyId).some(goesOn)) throw conflict('A run of this exercise is going on; stop it first.');
    this.of.studies.trash(studyId);
  }

  private tried(studyId: string): Try {
    const tried = this.store.find(studyId);
    if (!tried) throw notFound('This exercise');
    return tried;
  }

  private about({ exercise }: Try) {
    return exerciseOf(exercise) ?? OF_ONES_OWN;
  }

  private attempt(tried: Try): PracticeAttempt {
    const { studyId, exercise, seed, begunAt, hints, handedIn } = tried;
    return {
      studyId,
      exercise,
      title: this.of.studies.get(studyId).title,
      level: this.about(tried).level,
      seed,
      begunAt,
      runs: this.of.runs.ofStudy(studyId).length,
      hints,
      handedInAt: handedIn?.at ?? null,
      marks: handedIn?.marks ?? null,
    };
  }

  private ofExercise(key: string, seed: number): { body: StudyBody; drawn: Drawn } {
    const exercise = exerciseOf(key);
    if (!exercise) throw notFound('This exercise');
    return draw(exercise, seed);
  }

  private ofStudy(studyId: string, seed: number): { body: StudyBody; drawn: Drawn } {
    const body = bodyOf(this.of.studies.get(studyId));
    const { family } = body;
    if (family === 'regulator') throw unprocessable('Exercises are made of studies of drives and cards.');
    const { a, b } = sidesOf(body);
    const thing = (id: string) => body.variants.find((variant) => variant.id === id);
    const [one, other] = [thing(a), thing(b)];
    const spot = body.spots.find(({ channel }) => isKnown(family, channel))?.channel;
    if (!one?.setup || !other?.setup || !spot)
      throw unprocessable(
        'An exercise is made of a study with two variants that are set up on a simulated bench, and a spot that it reads.',
      );
    const things = [one, other].map(({ name, setup }) => ({ name, setup }));
    const drawn = drawOf(family, [things[0]!, things[1]!], spot, body.rules.practicalK, seed);
    try {
      truthOf(family, drawn);
    } catch (error) {
      throw unprocessable(`The simulated bench cannot do that: ${(error as Error).message}.`);
    }
    // What was said of it in earnest stays there.
    return { drawn, body: { ...body, title: `${body.title}, practice`.slice(0, 120), claims: [], predictions: [], roomChannelId: null } };
  }
}

/** The reference, and the first other variant. */
function sidesOf({ variants }: StudyBody): { a: string; b: string } {
  const a = variants.find(({ isReference }) => isReference) ?? variants[0];
  return { a: a?.id ?? '', b: variants.find((variant) => variant !== a)?.id ?? '' };
}

const nameOf = (study: Study, id: string, drawn: string) => study.variants.find((variant) => variant.id === id)?.name ?? drawn;
