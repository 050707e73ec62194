import type { LogStudy, OperationKey, ParamsOf, Run } from '@red-ember/contract';
import type { Handlers } from '../../http/serve.ts';
import { pointsAsked } from '../../runs/routes.ts';
import type { ReadingService } from '../service.ts';

type Query = Readonly<Record<string, string | undefined>>;

/** Which runs an operation reads before it can answer. */
type Reads<K extends OperationKey> = (readings: ReadingService, params: ParamsOf<K>, query: Query) => Promise<void>;

type OfOne = (readings: ReadingService, params: { id: string }) => Promise<void>;

const ofStudy: OfOne = (readings, { id }) => readings.readStudy(id);
const ofStudyAlone: OfOne = (readings, { id }) => readings.readStudy(id, 'own');

/**
 * Operations that judge, with the runs that they rest on: a study's own and, where the bench lends its scatter, those of the bench's other
 * studies of its kind. They are read beside the server's own work before the operation is answered.
 */
const READS: { [K in OperationKey]?: Reads<K> } = {
  readings: (readings, { id }) => readings.readRun(id),
  signature: (readings, { id }) => readings.readStudyOfRun(id),
  verdict: ofStudy,
  next: ofStudy,
  lineUp: ofStudy,
  scatter: ofStudy,
  responses: ofStudy,
  heldBack: ofStudyAlone,
  normal: ofStudyAlone,
  agreements: ofStudyAlone,
  report: ofStudy,
  readingsCsv: ofStudy,
  studyFile: ofStudy,
  testerRecord: (readings) => readings.readAll(),
  // A stretch of a trace is thinned where it is asked for: there is less of it.
  trace: (readings, { id }, { from, to, points }) =>
    from === undefined && to === undefined ? readings.drawRun(id, pointsAsked(points)) : Promise.resolve(),
};

/** A log that takes seconds to read, bytes. */
const LARGE_LOG = 5_000_000;
/** Operations that bring one: while somebody looks at its columns, threads can start. */
const BRINGS = ['stageLog', 'putLogDown'] as const satisfies readonly OperationKey[];
/** Operations that store runs, with those that an answer tells of: they are read before anybody asks. */
const STORES = {
  makeRunOfLog: ({ id }: Run) => [id],
  joinLog: ({ id }: Run) => [id],
  studyOfLogs: ({ runs }: LogStudy) => runs.map(({ id }) => id),
} satisfies { [K in OperationKey]?: (answer: never) => string[] };

/** The same handlers, each with what it reads read first, such as bring a long log with threads started for it, and such as store runs with those read at once. */
export function readFirst<H extends Partial<Handlers>>(handlers: H, readings: ReadingService): H {
  const first: Record<string, unknown> = { ...handlers };
  for (const [key, reads] of Object.entries(READS)) {
    const handler = handlers[key as OperationKey] as ((asked: { params: object; query: Query }) => unknown) | undefined;
    if (!handler) continue;
    first[key] = async (asked: { params: object; query: Query }) => {
      await (reads as Reads<never>)(readings, asked.params as never, asked.query);
      return handler(asked);
    };
  }
  for (const [key, stored] of Object.entries(STORES)) {
    const handler = handlers[key as OperationKey] as ((asked: object) => unknown) | undefined;
    if (!handler) continue;
    first[key] = async (asked: object) => {
      const answer = await handler(asked);
      readings.readSoon(stored(answer as never));
      return answer;
    };
  }
  for (const key of BRINGS) {
    const handler = handlers[key] as ((asked: { file?: { size: number } }) => unknown) | undefined;
    if (!handler) continue;
    first[key] = async (asked: { file?: { size: number } }) => {
      const answer = await handler(asked);
      if (asked.file && asked.file.size > LARGE_LOG) readings.getReady(true);
      return answer;
    };
  }
  // A study is about to be made, or looked at once more: from now on somebody is there to read it beside.
  const glance = handlers.glanceAtLogs as ((asked: object) => unknown) | undefined;
  if (glance)
    first['glanceAtLogs'] = async (asked: object) => {
      const answer = await glance(asked);
      readings.getReady(false);
      return answer;
    };
  return first as H;
}
