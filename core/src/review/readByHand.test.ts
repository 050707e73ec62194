import { describe, expect, it } from 'vitest';
import { eachOutput, reviewRun, type RunRecord } from '../index.ts';
import { readByHand } from './readByHand.ts';

const points = (pairs: [number, number][]) => ({ t: Float64Array.from(pairs, ([t]) => t), y: Float64Array.from(pairs, ([, y]) => y) });
const room = { t: Float64Array.from({ length: 400 }, (_, i) => 10 * i), y: Float64Array.from({ length: 400 }, (_, i) => 22 + i / 400) };
const rule = { toleranceK: 0.5, windowS: 300 };
const stretch = { startS: 600, endS: 3001 };

describe('readByHand', () => {
  it('takes the mean of the last three, with their scatter', () => {
    const read = readByHand(points([[900, 40], [1500, 60], [2400, 70.1], [2700, 70.4], [3000, 70.1]]), room, stretch, rule, 0.1)!; // prettier-ignore
    expect(read.absolute).toMatchObject({ n: 3, min: 70.1, max: 70.4 });
    expect(read.absolute.mean.value).toBeCloseTo(70.2, 10);
    expect(read.absolute.mean.u).toBeCloseTo(0.1, 10); // s = 0.1732, over √3
    expect(read.absolute.mean.dof).toBe(2);
    expect(read.rise!.mean.value).toBeCloseTo(70.2 - (22 + 0.6756), 2); // room at 2700 s on average
    expect(read.settling.settled).toBe(true);
    expect(read.peakC).toBe(70.4);
  });

  it('a single reading has the resolution for its doubt, and is not called settled', () => {
    const read = readByHand(points([[2900, 71]]), null, stretch, rule, 0.1)!;
    expect(read.absolute.mean).toEqual({ value: 71, u: 0.1 / Math.sqrt(12), dof: Infinity });
    expect(read.rise).toBeNull();
    expect(read.settling.settled).toBe(false);
  });

  it('says that a creeping climb is not settled, by three readings and not by two', () => {
    const climb = points([[2400, 80], [2700, 82], [3000, 84]]); // prettier-ignore
    const read = readByHand(climb, null, stretch, rule, 0.1)!;
    expect(read.settling.settled).toBe(false);
    expect(read.settling.slopeKPerMin.value).toBeCloseTo(0.4, 10);
    expect(readByHand(points([[2700, 70], [3000, 70]]), null, stretch, rule, 0.1)!.settling.settled).toBe(false); // prettier-ignore
  });

  it('leaves out what is too old to belong to the end, and what lies outside the stretch', () => {
    const read = readByHand(points([[700, 50], [2900, 70], [2960, 70.2], [3500, 99]]), null, stretch, rule, 0.1)!; // prettier-ignore
    expect(read.absolute.n).toBe(2);
    expect(readByHand(points([[100, 30]]), null, stretch, rule, 0.1)).toBeNull();
  });
});

describe('a run that was read by hand', () => {
  it('is read like any other, its single idle reading called unsteady', () => {
    const record: RunRecord = {
      spots: [{ id: 'base', byHand: { resolutionK: 0.1 }, series: points([[590, 30], [2400, 70], [2700, 70.3], [3000, 70.2]]) }], // prettier-ignore
      room,
      ...eachOutput(() => null),
      intake: null,
      exhaust: null,
      utilisation: null,
      phases: [
        { kind: 'idle-soak', name: 'Idle', startS: 0, endS: 600, endedBy: 'time' },
        { kind: 'load', name: 'Load', startS: 600, endS: 3000, endedBy: 'time' },
      ],
      throttle: null,
      locks: [],
    };
    const [spot] = reviewRun(record).spots;
    expect(spot!.idle).toMatchObject({ bound: 'unsteady', spikes: 0 });
    expect(spot!.load!.bound).toBe('settled');
    expect(spot!.load!.absolute.n).toBe(3);
  });
});
