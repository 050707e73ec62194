/** Sum of products. Four sums side by side: one alone waits for itself at every step. */
export function dot(a: Float64Array, b: Float64Array): number {
  const n = a.length;
  const whole = n - (n % 4);
  let [p, q, r, s] = [0, 0, 0, 0];
  for (let i = 0; i < whole; i += 4) {
    p += a[i]! * b[i]!;
    q += a[i + 1]! * b[i + 1]!;
    r += a[i + 2]! * b[i + 2]!;
    s += a[i + 3]! * b[i + 3]!;
  }
  for (let i = whole; i < n; i++) p += a[i]! * b[i]!;
  return p + q + (r + s);
}
