import { partsBring, partsList } from '@red-ember/core';
import { listed, type FittedPartEntry } from '../definition/fitting.ts';

/** What one mount of these parts costs, nothing in reserve; what is half typed counts as none. */
export function costOf(parts: readonly FittedPartEntry[]): number {
  const known = ({ paste }: FittedPartEntry) => !paste || (paste.areaMm2 > 0 && paste.bondLineMm > 0 && paste.densityGPerCm3 > 0);
  const priced = parts.filter((part) => part.price >= 0 && part.quantity > 0 && known(part));
  return partsList(
    priced.map((part) => listed(part, 1)),
    0,
  ).cost;
}

/** Weight and sound of these parts together; what is half typed counts as none. */
export const broughtBy = (parts: readonly FittedPartEntry[]) => partsBring(parts.filter((part) => part.quantity > 0 && part.weightG >= 0));
