import { useEffect, useState } from 'react';
import { duration } from '@red-ember/core';
import { useCancelImportMutation, useImportJobQuery } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';

/** Shown once an import has taken this long: shorter ones need no bar. */
const PATIENCE_MS = 600;

/** How far a long import has come, with the time that is left, and a way to stop it. */
export function ImportProgress({ job }: { job: string }) {
  const [startedAt] = useState(() => Date.now());
  const [now, setNow] = useState(startedAt);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 400);
    return () => clearInterval(timer);
  }, []);
  const waited = now - startedAt > PATIENCE_MS;
  const { data } = useImportJobQuery(job, { pollingInterval: 500, skip: !waited });
  const [cancel, cancelling] = useCancelImportMutation();
  if (!waited || !data) return null;
  const leftS = data.share > 0.05 ? (((now - startedAt) / 1000) * (1 - data.share)) / data.share : null;
  return (
    <div className="my-4 flex items-center gap-4" role="status">
      <progress className="h-2 w-64 accent-ember" max={1} value={data.share} aria-label="Import" />
      <span className="text-[0.93rem]">
        {Math.round(100 * data.share)} % read{leftS === null ? '' : `, about ${duration(leftS)} left`}
      </span>
      <Button onClick={() => void cancel(job)} disabled={cancelling.isLoading}>
        Cancel
      </Button>
    </div>
  );
}
