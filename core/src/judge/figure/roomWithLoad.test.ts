import { describe, expect, it } from 'vitest';
import { eachOutput, reviewRun } from '../../index.ts';
import { roomWithLoadK } from './roomWithLoad.ts';

const t = Float64Array.from({ length: 3000 }, (_, i) => i);
const IDLE_S = 600;

/** A run of which the probe of the room reads what `roomAt` says; the part is 40 K above 22 °C under load. */
function run(roomAt: (s: number) => number, idleS = IDLE_S) {
  const y = t.map((s) => 25 + (s < idleS ? 0 : 37 * (1 - Math.exp(-(s - idleS) / 120))));
  const rest = { kind: 'idle-soak' as const, name: 'Idle', startS: 0, endS: idleS, endedBy: 'time' };
  const load = { kind: 'load' as const, name: 'Load', startS: idleS, endS: 3000, endedBy: 'time' };
  return reviewRun({
    ...eachOutput(() => null),
    spots: [{ id: 'top', series: { t, y } }],
    room: { t, y: t.map(roomAt) },
    utilisation: null,
    intake: null,
    exhaust: null,
    phases: idleS > 0 ? [rest, load] : [load],
    throttle: null,
    locks: [],
  });
}
const warmed = (s: number) => 22 + (s < IDLE_S ? 0 : 4 * (1 - Math.exp(-(s - IDLE_S) / 200)));

describe('a room that was read warmer with the load', () => {
  it('stood there: the probe is warmed', () => {
    expect(roomWithLoadK(run(warmed))).toBeCloseTo(4, 1);
    expect(roomWithLoadK(run((s) => 44 - warmed(s)))).toBeCloseTo(-4, 1);
  });
  it('or went on as it went before: that is the room', () => {
    expect(roomWithLoadK(run((s) => 22 + s / 600))).toBe(0);
    expect(roomWithLoadK(run((s) => 22 - s / 600))).toBe(0);
  });
  it('stayed as it was', () => expect(Math.abs(roomWithLoadK(run(() => 22))!)).toBeLessThan(1e-6));
  it('is not known without rest before the load', () => expect(roomWithLoadK(run(warmed, 0))).toBeNull());
});
