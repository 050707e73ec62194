import { useCancelImportMutation, useImportJobQuery } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Progress, useWaited } from '../ui/Progress.tsx';

/** Shown once an import has taken this long: shorter ones need no bar. */
const PATIENCE_MS = 600;

/** How far a long import has come, with the time that is left, and a way to stop it. */
export function ImportProgress({ job }: { job: string }) {
  const waitedMs = useWaited();
  const late = waitedMs > PATIENCE_MS;
  const { data } = useImportJobQuery(job, { pollingInterval: 500, skip: !late });
  const [cancel, cancelling] = useCancelImportMutation();
  if (!late || !data) return null;
  return (
    <Progress label="Import" share={data.share} waitedMs={waitedMs} words={`${Math.round(100 * data.share)} % read`}>
      <Button onClick={() => void cancel(job)} disabled={cancelling.isLoading}>
        Cancel
      </Button>
    </Progress>
  );
}
