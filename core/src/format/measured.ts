/** Minus sign as typeset, so that figures line up and a hyphen is never read as a range. */
const MINUS = '−';

/**
 * Decimals that a value with this doubt deserves: the doubt to one digit, or to two where it starts with a 1.
 * At most 3, at least 0; 1 where the doubt is zero or unknown.
 */
export function decimalsFor(doubt: number): number {
  if (!(doubt > 0) || !Number.isFinite(doubt)) return 1;
  const exponent = Math.floor(Math.log10(doubt));
  const leading = doubt / 10 ** exponent;
  return Math.min(3, Math.max(0, -exponent + (leading < 1.95 ? 1 : 0)));
}

/** A number with fixed decimals and a typeset minus; never "−0.0". */
export function fixed(value: number, decimals: number): string {
  const text = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? MINUS + text : text;
}

/** As `fixed`, with a plus sign for positive numbers: for differences. */
export function signed(value: number, decimals: number): string {
  const text = fixed(value, decimals);
  return value > 0 && Number(text) !== 0 ? `+${text}` : text;
}

/** "61.3 ± 0.8 K": value and expanded doubt, rounded to the doubt. Temperatures get one decimal at least where the doubt is small, and two at `most` where nothing else is said. */
export function measured(value: number, doubt: number, unit: string, opts: { sign?: boolean; most?: number } = {}): string {
  const decimals = Math.min(opts.most ?? 2, Math.max(doubt >= 9.5 ? 0 : 1, decimalsFor(doubt)));
  const shown = opts.sign ? signed(value, decimals) : fixed(value, decimals);
  const doubtText =
    doubt > 0 && Number(doubt.toFixed(decimals)) === 0 ? `under ${(10 ** -decimals).toFixed(decimals)}` : doubt.toFixed(decimals);
  return `${shown} ± ${doubtText} ${unit}`;
}

/** "47 min", "1 h 05 min", "40 s". */
export function duration(seconds: number): string {
  const s = Math.round(seconds);
  if (s < 90) return `${s} s`;
  const minutes = Math.round(s / 60);
  if (minutes < 90) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}

/** Run clock "23:05" or "1:04:30". */
export function clock(seconds: number): string {
  const s = Math.max(0, Math.floor(seconds));
  const [h, m, rest] = [Math.floor(s / 3600), Math.floor((s % 3600) / 60), String(s % 60).padStart(2, '0')];
  return h > 0 ? `${h}:${String(m).padStart(2, '0')}:${rest}` : `${m}:${rest}`;
}
