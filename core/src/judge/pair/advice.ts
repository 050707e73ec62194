import { fixed } from '../../format/measured.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import type { Call } from '../types.ts';

/** A chance in words: never quite sure, never quite out of the question. */
function chanceWords(p: number): string {
  if (p > 0.99) return 'over 99 %';
  return p < 0.01 ? 'under 1 %' : `${fixed(100 * p, 0)} %`;
}

/** How likely one side is cooler by more than what matters, by the same model as the interval; empty without a comparison. */
export function likelyWords({ likely }: Pick<Call, 'likely'>, practicalK: number): string {
  if (!likely) return '';
  const { coolerByThreshold: cooler, warmerByThreshold: warmer } = likely;
  return cooler >= warmer
    ? `${chanceWords(cooler)} likely cooler by more than ${practicalK} K`
    : `${chanceWords(warmer)} likely warmer by more than ${practicalK} K`;
}

/** What more mounts would do for a comparison that is no call; empty where none would, or it is a call. */
export function adviceWords({ verdict, repeatsToCall, repeatsToShowAlike }: Comparison): string {
  if (verdict !== 'no-call') return '';
  const mounts = (n: number) => `${n} mounts a side`;
  if (repeatsToCall !== null && repeatsToShowAlike !== null)
    return repeatsToCall <= repeatsToShowAlike
      ? `About ${mounts(repeatsToCall)} would tell a difference of this size.`
      : `About ${mounts(repeatsToShowAlike)} would show that they are equivalent; ${repeatsToCall} would tell a difference of this size.`;
  if (repeatsToCall !== null) return `About ${mounts(repeatsToCall)} would tell a difference of this size.`;
  if (repeatsToShowAlike !== null) return `About ${mounts(repeatsToShowAlike)} would show that they are equivalent.`;
  return 'No number of mounts would tell it: what repeats do not average away is larger.';
}
