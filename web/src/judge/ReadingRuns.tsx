import { useBeingReadQuery } from '../data/api.ts';
import { Waiting } from '../ui/Notice.tsx';
import { Progress, useWaited } from '../ui/Progress.tsx';

/** A study whose runs are read already is there sooner than a bar could be looked at. */
const PATIENCE_MS = 1000;

/** A study is waited for: its runs are read first, and after a new version all of them anew. */
export function ReadingRuns({ studyId }: { studyId: string }) {
  const waitedMs = useWaited();
  const late = waitedMs > PATIENCE_MS;
  const { data } = useBeingReadQuery(studyId, { pollingInterval: 1000, skip: !late });
  if (!late || !data || data.read >= data.runs) return <Waiting what="Reading the runs and weighing them" />;
  const { runs, read } = data;
  return (
    <div className="p-8">
      <Progress label="Reading the runs" share={read / runs} waitedMs={waitedMs} words={`${read} of ${runs} runs read`} />
      <p className="max-w-prose text-[0.93rem] text-soft">
        They are read beside everything else, and kept: the next time this page is there at once. The bench’s other studies of this kind
        lend their scatter, so their runs are among them.
      </p>
    </div>
  );
}
