import { describe, expect, it } from 'vitest';
import { proveReadings } from './all.ts';
import { campaign } from './campaign/campaign.ts';

describe('the proof, in short', () => {
  it('finds every claim near its bound', () => {
    for (const { claim, figure, bound } of proveReadings(2)) {
      const [least, most] = bound.split(' to ').map(Number);
      // A few draws only: loose bounds.
      expect(Number(figure), claim).toBeGreaterThanOrEqual(least! - 0.15);
      expect(Number(figure), claim).toBeLessThanOrEqual(most! + 0.3);
    }
  }, 120_000);

  it('calls nothing that is not earned over 65 studies with planted confounds', () => {
    const all = campaign(5, 40_001).at(-1)!;
    expect(all.studies).toBe(65);
    expect(all.unearned).toBe(0);
    expect(all.wrong).toBeLessThanOrEqual(2);
    expect(all.holding / all.intervals).toBeGreaterThan(0.88);
    expect(all.calledOfDecidable / Math.max(1, all.decidable)).toBeGreaterThan(0.8);
  }, 240_000);
});
