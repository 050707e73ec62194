import { describe, expect, it } from 'vitest';
import { powerLimitOf, type WatchedLock } from './watchedLocks.ts';

const channel = (key: string, role: string) => ({ key, role }) as Parameters<typeof powerLimitOf>[1][number];
const lock = (name: string, key: string, value: number): WatchedLock => ({ name, unit: 'W', value, tolerance: 5, key });
const CHANNELS = [channel('hot', 'spot'), channel('board-w', 'power')];

describe('the power limit of a part', () => {
  it('is a lock on its power that says so in its name', () => {
    for (const name of ['Power cap', 'Board power limit', 'CEILING of the supply']) {
      expect(powerLimitOf([lock(name, 'board-w', 190)], CHANNELS)).toBe(190);
    }
  });

  it('is no power that the load was set to, which a part meets without being held back', () => {
    expect(powerLimitOf([lock('Board power', 'board-w', 190)], CHANNELS)).toBeNull();
    expect(powerLimitOf([lock('Load', 'board-w', 190), lock('Power limit', 'board-w', 235)], CHANNELS)).toBe(235);
  });

  it('is no limit on another channel, nor anything where power is not read', () => {
    expect(powerLimitOf([lock('Temperature limit', 'hot', 90)], CHANNELS)).toBeNull();
    expect(powerLimitOf([lock('Power cap', 'board-w', 190)], [channel('hot', 'spot')])).toBeNull();
  });
});
