/**
 * The bench's own run-to-run scatter, pooled over groups of equal runs: s_p² = Σν_i s_i²/Σν_i (methods §5).
 *
 * @param groups settled readings, K; one list per group of runs that were meant to be equal
 * @returns null where no group has two runs
 */
export function pooledRepeatability(groups: readonly (readonly number[])[]): { sd: number; dof: number } | null {
  let squares = 0;
  let dof = 0;
  for (const group of groups) {
    if (group.length < 2) continue;
    const mean = group.reduce((sum, value) => sum + value / group.length, 0);
    squares += group.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    dof += group.length - 1;
  }
  return dof === 0 ? null : { sd: Math.sqrt(squares / dof), dof };
}
