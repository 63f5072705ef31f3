/** What learning needs of linear algebra: matrices of seven or eight rows. */

export const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, x, i) => s + x * (b[i] as number), 0);

/** Inverse of a symmetric, positive definite matrix by Gauss and Jordan's elimination, which then needs no pivoting. */
export function inverse(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const a = matrix.map((row, i) => [...row, ...Array.from({ length: n }, (_, j) => (i === j ? 1 : 0))]);
  for (let c = 0; c < n; c++) {
    const pivot = a[c] as number[];
    const by = pivot[c] as number;
    for (let k = 0; k < 2 * n; k++) pivot[k] = (pivot[k] as number) / by;
    for (const [r, row] of a.entries()) {
      if (r === c) continue;
      const f = row[c] as number;
      for (let k = 0; k < 2 * n; k++) row[k] = (row[k] as number) - f * (pivot[k] as number);
    }
  }
  return a.map((row) => row.slice(n));
}
