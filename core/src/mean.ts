/** Mean of values in one unit; NaN of none. */
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value / values.length, values.length === 0 ? NaN : 0);
