import { describe, expect, it } from 'vitest';
import { runHeldBack as run } from '@red-ember/testing';
import { heldByVariant } from './heldByVariant.ts';

const study = { variants: [{ id: 'a', name: 'bare' }, { id: 'b', name: 'lid' }, { id: 'c', name: 'never run' }] } as never; // prettier-ignore

describe('what held each variant back', () => {
  it('is the mean over its runs, the largest first, and nothing of one that never ran', () => {
    const [bare, lid, ...others] = heldByVariant(study, {
      best: { value: 110, runNumber: 3, atLimit: false },
      runs: [
        run('a', { by: [{ limiter: 'power', share: 0.2 }], free: 0.8, workMean: 99 }),
        run('a', { by: [{ limiter: 'thermal', share: 0.6 }], free: 0.4, workMean: 77 }),
        run('b', { workMean: 110, powerW: 240, wallW: 300 }),
      ],
    });
    expect(others).toEqual([]);
    expect(bare).toMatchObject({
      by: [
        { limiter: 'thermal', share: 0.3 },
        { limiter: 'power', share: 0.1 },
      ],
      free: expect.closeTo(0.6, 9),
      leftBehind: expect.closeTo(0.2, 9),
      power: null,
    });
    expect(lid).toMatchObject({ by: [], leftBehind: 0, power: { wallW: 300, partW: 240 } });
  });

  it('says nothing of what was left behind where nothing ran free', () => {
    expect(heldByVariant(study, { best: null, runs: [run('a', { free: 0 })] })[0]!.leftBehind).toBeNull();
    expect(heldByVariant(study, { best: null, runs: [] })).toEqual([]);
  });
});
