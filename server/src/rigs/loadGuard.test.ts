import { describe, expect, it } from 'vitest';
import { LoadGuard } from './loadGuard.ts';

const taken = { loadPercent: 0, latched: { kind: 'load-removed' as const, text: 'Nobody said the load again for 5 s' } };

/** A guard that has asked for a load at 0 ms, of a run whose samples come. */
function asked(percent: number): LoadGuard {
  const guard = new LoadGuard([]);
  guard.said(percent, 0, 0);
  return guard;
}

describe('a load that was asked', () => {
  it.each([
    ['more, for longer than a rig needs to obey', 50, { loadPercent: 100 }, 2100, 'The rig reports a load of 100 % where 50 % were asked'],
    ['more, but just told', 50, { loadPercent: 100 }, 1900, null],
    ['less, on a machine that stood still', 100, { loadPercent: 0 }, 4900, null],
    ['less, for longer than a lease', 100, { loadPercent: 0 }, 5100, 'The rig reports a load of 0 % where 100 % were asked'],
    ['that it keeps it off, from before somebody went on', 100, taken, 4900, null],
    ['that it keeps it off, for longer than a lease', 100, taken, 5100, taken.latched.text],
    ['what was asked', 100, { loadPercent: 100 }, 5100, null],
  ])('while the rig says %s', (_, percent, state, atMs, why) => {
    const guard = asked(percent);
    guard.heardState(state, atMs);
    guard.heardSamples(true, atMs);
    expect(guard.whyNot(atMs, 0)).toBe(why);
  });

  it('is not what an older state says of it', () => {
    const guard = new LoadGuard([]);
    guard.heardState(taken, 0);
    guard.said(100, 10_000, 0);
    expect(guard.whyNot(16_000, 0)).toBeNull();
  });
});
