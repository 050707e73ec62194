import { describe, expect, it } from 'vitest';
import { ClockWatch } from '@red-ember/core';
import { lookAtClock, type Active } from './active.ts';

/** A run of so many minutes on a rig whose clock goes at a rate. */
function ran(rate: number, minutes: number): Active {
  const watch = new ClockWatch(1);
  for (let s = 1; s <= 60 * minutes; s++) watch.heard(1000 * s * rate, 1000 * s + (s % 7) * 10);
  return { clock: watch, clockSaid: null } as unknown as Active;
}

describe('the clock of a rig', () => {
  it('is spoken of once, with how far it is off', () => {
    const active = ran(1.008, 10);
    expect(lookAtClock(active)).toMatch(/^The rig’s clock goes 0\.8 % fast by this machine’s: 4\.\d s in (9|10) min/);
    expect(lookAtClock(active)).toBeNull();
    expect(lookAtClock(ran(0.98, 10))).toContain('2.0 % slow');
  });
  it('is not spoken of while it goes as this machine’s does, or too little is known', () => {
    expect(lookAtClock(ran(1, 30))).toBeNull();
    expect(lookAtClock(ran(1.02, 3))).toBeNull();
  });
});
