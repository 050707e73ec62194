import { createSelector } from '@reduxjs/toolkit';
import { namesWithDegrees } from '@red-ember/core';
import type { RootState } from './store.ts';

/** What holds words that a tester typed, and no sentence that was written about them. */
const TYPED_IN = new Set(['shelf', 'study', 'mounts', 'runs', 'run', 'instruments', 'limits']);

function* textsOf(value: unknown): Generator<string> {
  if (typeof value === 'string') yield value;
  else if (typeof value === 'object' && value !== null) for (const inner of Object.values(value)) yield* textsOf(inner);
}

/** Names in which a temperature would be seen, of all that is open: the other degrees must leave them alone. */
export const typedNames = createSelector([(state: RootState) => state.api.queries], (queries) =>
  namesWithDegrees(
    Object.values(queries).flatMap((query) => (query?.endpointName && TYPED_IN.has(query.endpointName) ? [...textsOf(query.data)] : [])),
  ),
);
