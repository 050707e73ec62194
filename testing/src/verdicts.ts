import { judgeClaim, judgePair, judgePrediction, runFindings, verdictSentence, type RunReview } from '@red-ember/core';
import type { PairVerdict, Run, RunReadings, Study } from '@red-ember/contract';
import { judgedSpots } from '@red-ember/study';
import { run as judgedRun } from './judged.ts';
import { review } from './reviews.ts';
import { run } from './runs.ts';
import { study } from './studies.ts';

const FIGURES: [string, string, number, number][] = [
  ['r1', 'bare', 43.4, 44.5],
  ['r2', 'lid', 40.1, 49.2],
  ['r3', 'lid', 40.3, 49.0],
  ['r4', 'bare', 43.6, 44.7],
];

export const runs: Run[] = FIGURES.map(([id, variantId], i) => run(id, i + 1, variantId));

/** A verdict as the server makes it, by the same core. */
export function verdict(of: Study = study(), drifting = false): PairVerdict {
  const spots = judgedSpots(of);
  const rules = {
    basis: of.rules.basis,
    figure: of.rules.figure,
    practicalK: of.rules.practicalK,
    coverage: of.rules.coverage,
    roomBand: { minC: 20, maxC: 25 },
  };
  const judged = FIGURES.map(([id, variantId, top, under], i) => ({
    variantId,
    ...judgedRun(top, under, {
      id,
      label: `run ${i + 1}`,
      mountNo: i % 2,
      startedAtMs: i,
      sensors: {},
      settings: { Case: 'open bench' },
      review: drifting && i === 2 ? { room: { meanC: 27, minC: 25, maxC: 28.2, driftK: 2.3 } } : {},
    }),
  }));
  const side = (variantId: string, name: string) => ({ variantId, name, runs: judged.filter((entry) => entry.variantId === variantId) });
  const judgement = judgePair({
    a: side('bare', 'bare'),
    b: side('lid', 'slot lid'),
    spots,
    rules,
    history: { top: { sd: 0.2, dof: 12 }, under: { sd: 0.2, dof: 12 } },
  });
  const claims = of.claims.map((claim) => ({ ...judgeClaim(claim, judgement, spots, rules.practicalK), of: null }));
  return {
    judgement,
    spots,
    claims,
    sentence: verdictSentence(judgement, spots, claims[0] ? { outcome: claims[0].outcome, text: of.claims[0]!.text } : null),
    predictions: of.predictions.map((prediction) => ({ ...judgePrediction(prediction, judgement, spots), of: null })),
    elsewhere: null,
    refusal: null,
    commonNoise: null,
    lentBy: [],
    loads: [],
  };
}

export function readings(runId: string, change: Partial<RunReview> = {}): RunReadings {
  const figures = FIGURES.find(([id]) => id === runId) ?? FIGURES[0]!;
  const made = review(figures[2], figures[3], change);
  const judged = judgedRun(figures[2], figures[3], { id: runId, label: 'run 1', mountNo: 1, sensors: {}, settings: {}, review: made });
  const spots = judgedSpots(study());
  return {
    runId,
    review: made,
    own: [],
    findings: runFindings(judged, spots, {
      basis: 'rise',
      figure: 'settled-mean',
      practicalK: 1,
      coverage: 0.95,
      roomBand: { minC: 20, maxC: 25 },
    }),
  };
}
