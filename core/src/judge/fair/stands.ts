import type { Finding } from '../types.ts';

/** What stands against calling two sides, worst first and then cheapest to mend. */
export const standsInOrder = (findings: readonly Finding[]): Finding[] => {
  const rank = ({ severity }: Finding) => (severity === 'blocks' ? 0 : 1);
  const minutes = ({ withheld }: Finding) => withheld?.earnBy.minutes ?? 0;
  return findings
    .filter(({ severity }) => severity === 'blocks' || severity === 'withholds')
    .sort((p, q) => rank(p) - rank(q) || minutes(p) - minutes(q));
};
