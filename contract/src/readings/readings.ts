import type { Finding, RunReview, OwnValue } from '@red-ember/core';

/** Everything read off one run, with what speaks against it. */
export interface RunReadings {
  runId: string;
  review: RunReview;
  findings: Finding[];
  /** What the study's own figures came to, typed or recorded. */
  own: OwnValue[];
}
