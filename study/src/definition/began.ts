/** What stands where nobody said when a run was made. */
export const START_UNKNOWN = 'not known when';

/**
 * When a run began, in words.
 *
 * @param show how a moment is written where it is read
 */
export const beganWords = ({ startedAt, startKnown }: { startedAt: string; startKnown: boolean }, show: (iso: string) => string): string =>
  startKnown ? show(startedAt) : START_UNKNOWN;
