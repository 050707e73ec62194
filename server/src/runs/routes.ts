import { plainNumber } from '@red-ember/core';
import { unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import { USUAL_POINTS, type RunService } from './service.ts';

function queryNumber(value: string | undefined, fallback: number, name: string): number {
  if (value === undefined) return fallback;
  const number = plainNumber(value);
  if (!Number.isFinite(number) || number < 0) throw unprocessable(`${name} must be a number of 0 or more.`);
  return number;
}

/** Points a channel that somebody asks for, few enough to be drawn. @throws HttpProblem 422 */
export const pointsAsked = (value: string | undefined): number => Math.min(4000, Math.max(20, queryNumber(value, USUAL_POINTS, 'points')));

export const runHandlers = (runs: RunService) =>
  ({
    benchRuns: () => runs.ofBench(),
    listRuns: ({ params }) => runs.ofStudy(params.id),
    settledLoads: ({ params }) => runs.settledLoads(params.id),
    run: ({ params }) => runs.get(params.id),
    line: ({ params }) => runs.line(params.id),
    conditions: ({ params }) => runs.conditions(params.id),
    tagRun: ({ params, body }) => runs.tag(params.id, body),
    signOff: ({ params, body }) => runs.signOff(params.id, body),
    putRight: ({ params, body }) => runs.putRight(params.id, body),
    noteLater: ({ params, body }) => runs.noteLater(params.id, body),
    readLater: ({ params, body }) => runs.readLater(params.id, body),
    takeBackNote: ({ params }) => runs.takeBackNote(params.id, params.event),
    ownValues: ({ params, body }) => runs.ownValues(params.id, body.values),
    setWindow: ({ params, body }) => runs.setWindow(params.id, Number(params.phase), body),
    clearWindow: ({ params }) => runs.setWindow(params.id, Number(params.phase), null),
    samplesCsv: ({ params, query }) => ({
      content: runs.samplesCsv(params.id, queryNumber(query.from, 0, 'from'), queryNumber(query.to, Infinity, 'to')),
      name: `run-${runs.get(params.id).number}-samples.csv`,
    }),
    trace: ({ params, query }) => {
      const points = pointsAsked(query.points);
      return runs.trace(params.id, queryNumber(query.from, 0, 'from'), queryNumber(query.to, Infinity, 'to'), points);
    },
  }) satisfies Partial<Handlers>;
