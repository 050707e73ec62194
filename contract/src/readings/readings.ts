import type { Finding, Reaction, RunReview, OwnValue } from '@red-ember/core';

/** When each spot of a run began to move after each change; spots that were read by hand, minutes apart, are not among them. */
export interface RunReactions {
  runId: string;
  reactions: Reaction[];
  /** Changes, and spots of each, beyond so many are left out. */
  leftOut: { changes: number; spots: number };
}

/** How far the runs have been read that a study's pages wait for; none where nothing is being read. */
export interface BeingRead {
  runs: number;
  read: number;
}

/** Everything read off one run, with what speaks against it. */
export interface RunReadings {
  runId: string;
  review: RunReview;
  findings: Finding[];
  /** What the study's own figures came to, typed or recorded. */
  own: OwnValue[];
}
