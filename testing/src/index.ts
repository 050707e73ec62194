// Builders of what the product speaks of, for the tests of every workspace: whole and plain by default, each with its change.
// Beside them: `judged` (runs and pairs as the core judges them), `signals` (traces), `strangerLogs` (files of another bench).
export * from './benches.ts';
export * from './live.ts';
export * from './reviews.ts';
export * from './runs.ts';
export * from './stagedLogs.ts';
export * from './studies.ts';
export * from './verdicts.ts';
export * from './heldBack.ts';
