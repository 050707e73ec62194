import type { QueryOf } from '@red-ember/contract';
import { parseEvidence, parseRestatement } from '@red-ember/study';
import { unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import type { JudgeChange, VerdictService } from './service.ts';

/**
 * How a verdict is asked for otherwise than the house rules have it, as the query of an address says; the report asks alike.
 *
 * @throws HttpProblem 422 with a sentence where a restatement cannot be, or evidence is weighed by no word
 */
export function changeOf(query: Pick<QueryOf<'verdict'>, 'load' | 'restate' | 'signedOff' | 'evidence'>): JudgeChange {
  const { load, restate, signedOff, evidence } = query;
  try {
    return {
      signedOffOnly: signedOff === '1',
      evidence: parseEvidence(evidence),
      ...(load ? { load } : {}),
      ...(restate === undefined ? {} : { restate: parseRestatement(restate) }),
    };
  } catch (error) {
    if (error instanceof RangeError) throw unprocessable(error.message);
    throw error;
  }
}

export const verdictHandlers = (verdicts: VerdictService) =>
  ({
    verdict: ({ params, query }) => verdicts.pair(params.id, query.a, query.b, changeOf(query)),
    next: ({ params, query }) => verdicts.next(params.id, query.a, query.b, changeOf(query)),
    lineUp: ({ params, query }) => verdicts.lineUp(params.id, changeOf(query), query.loadsOf),
    scatter: ({ params }) => verdicts.scatter(params.id),
    testerRecord: () => verdicts.record(),
  }) satisfies Partial<Handlers>;
