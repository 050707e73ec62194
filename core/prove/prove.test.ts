import { describe, expect, it } from 'vitest';
import { proveSettling } from './settling.ts';

describe('the proof, in short', () => {
  it('finds every claim about settling near its bound', () => {
    for (const { claim, figure, bound } of proveSettling(2)) {
      const [least, most] = bound.split(' to ').map(Number);
      // A few draws only: loose bounds.
      expect(Number(figure), claim).toBeGreaterThanOrEqual(least! - 0.15);
      expect(Number(figure), claim).toBeLessThanOrEqual(most! + 0.3);
    }
  }, 120_000);
});
