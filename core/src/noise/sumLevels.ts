import { InsufficientDataError, requireFinite } from '../errors.ts';

/**
 * Sound levels together: 10·log₁₀ Σ10^(L/10), as powers of sources that do not beat with each other (methods §9).
 *
 * @param levelsDb dB or dB(A), one kind throughout
 * @throws InsufficientDataError no level; RangeError one that is not a number
 */
export function sumLevels(levelsDb: readonly number[]): number {
  if (levelsDb.length === 0) throw new InsufficientDataError('there is no level to add');
  for (const level of levelsDb) requireFinite(level, 'level');
  return 10 * Math.log10(levelsDb.reduce((sum, level) => sum + 10 ** (level / 10), 0));
}
