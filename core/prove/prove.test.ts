import { describe, expect, it } from 'vitest';
import { proveAll } from './all.ts';

describe('the proof, in short', () => {
  it('finds every claim near its bound', () => {
    for (const { claim, figure, bound } of proveAll(2)) {
      const [least, most] = bound.split(' to ').map(Number);
      // A few draws only: loose bounds.
      expect(Number(figure), claim).toBeGreaterThanOrEqual(least! - 0.15);
      expect(Number(figure), claim).toBeLessThanOrEqual(most! + 0.3);
    }
  }, 120_000);
});
