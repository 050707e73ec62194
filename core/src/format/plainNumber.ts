const PLAIN = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d{1,3})?$/i;

/** A number as people type it, with a point or a comma; NaN for anything else: `0x10`, `1_000`, `Infinity` and blanks are none. */
export function plainNumber(text: string): number {
  const typed = text.trim().replace('−', '-');
  return PLAIN.test(typed) ? Number(typed.replace(',', '.')) : NaN;
}
