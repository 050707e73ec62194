/** Inverse of a small symmetric matrix by elimination; null where it has none. */
export function inverse(matrix: readonly (readonly number[])[]): number[][] | null {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
  for (let k = 0; k < n; k++) {
    const pivot = rows[k]![k]!;
    if (!(Math.abs(pivot) > 1e-12 * Math.abs(matrix[k]![k]!))) return null;
    for (let j = 0; j < 2 * n; j++) rows[k]![j] = rows[k]![j]! / pivot;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const share = rows[i]![k]!;
      for (let j = 0; j < 2 * n; j++) rows[i]![j] = rows[i]![j]! - share * rows[k]![j]!;
    }
  }
  return rows.map((row) => row.slice(n));
}
