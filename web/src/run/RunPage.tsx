import { useParams } from 'react-router';
import { sentenceOf, useRunQuery } from '../data/api.ts';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { LiveRun } from './live/LiveRun.tsx';
import { useEndNotice } from './useEndNotice.ts';
import { RunRecord } from './record/RunRecord.tsx';

/** One run: live while it goes on, its record afterwards. */
export function RunPage() {
  const study = useStudy();
  const { runId = '' } = useParams();
  const { data: run, error, isLoading } = useRunQuery(runId);
  useEndNotice(study, run);
  if (isLoading) return <Waiting what="Opening the run" />;
  if (!run)
    return (
      <main id="sheet" className="p-8">
        <Notice tone="error">{sentenceOf(error)}</Notice>
      </main>
    );
  return run.state === 'waiting' || run.state === 'recording' ? <LiveRun study={study} run={run} /> : <RunRecord study={study} run={run} />;
}
