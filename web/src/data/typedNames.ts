import { createSelector } from '@reduxjs/toolkit';
import { namesWithDegrees, textsIn } from '@red-ember/core';
import type { RootState } from './store.ts';

/** What holds words that a tester typed, and no sentence that was written about them. */
const TYPED_IN = new Set(['shelf', 'study', 'mounts', 'runs', 'run', 'instruments', 'limits', 'benchRuns', 'benchMounts', 'benchParts']);

/** Names in which a temperature would be seen, of all that is open: the other degrees must leave them alone. */
export const typedNames = createSelector([(state: RootState) => state.api.queries], (queries) =>
  namesWithDegrees(
    Object.values(queries).flatMap((query) => (query?.endpointName && TYPED_IN.has(query.endpointName) ? [...textsIn(query.data)] : [])),
  ),
);
