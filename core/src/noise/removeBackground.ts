import { requireFinite } from '../errors.ts';

/** Closer to the background than this, what is left after taking it away is mostly error, dB. */
const UNRELIABLE_UNDER_DB = 3;

/**
 * A source alone, from its level together with a background and from the background's own: 10·log₁₀(10^(T/10) − 10^(B/10)).
 *
 * @param totalDb,backgroundDb dB or dB(A), both of one kind
 * @returns `reliable` false where they lie less than 3 dB apart; `level` is then still the arithmetic difference
 * @throws RangeError total not above background, or a level that is not a number
 * @see ISO 3744:2010, background correction K1
 */
export function removeBackground(totalDb: number, backgroundDb: number): { level: number; reliable: boolean } {
  requireFinite(totalDb, 'totalDb');
  requireFinite(backgroundDb, 'backgroundDb');
  if (totalDb <= backgroundDb)
    throw new RangeError(`the total (${totalDb} dB) must lie above the background (${backgroundDb} dB), or there is no source to find`);
  const apart = totalDb - backgroundDb;
  // The form with the difference does not overflow for any level.
  return { level: totalDb + 10 * Math.log10(1 - 10 ** (-apart / 10)), reliable: apart >= UNRELIABLE_UNDER_DB };
}
