import type { Finding, RunReview } from '@red-ember/core';

/** Everything read off one run, with what speaks against it. */
export interface RunReadings {
  runId: string;
  review: RunReview;
  findings: Finding[];
}
