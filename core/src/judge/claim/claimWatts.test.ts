import { describe, expect, it } from 'vitest';
import { judgeWattsClaim, type CarriedWatts, type Claim, type ClaimOutcome } from '../../index.ts';

const claim = (direction: Claim['direction'], leastEffect: number): Claim => ({
  text: 'It carries the render',
  outcome: 'watts-carried',
  spotId: null,
  direction,
  leastEffect,
});
/** 95 % of ±4 W where nothing else is said. */
const carried = (watts: number, change: Partial<CarriedWatts> = {}): CarriedWatts => ({
  side: 'with fan',
  component: 'Stage',
  maxW: { value: watts, u: 4 / 1.959964, dof: Infinity },
  far: false,
  measuredW: 90,
  rising: false,
  ...change,
});
const judge = (asked: Claim, a: CarriedWatts | null, b: CarriedWatts | null) =>
  judgeWattsClaim(asked, { a, b }, 'gallery at 31.5 °C', 0.95);

describe('claims about watts carried', () => {
  it.each<[string, Claim, CarriedWatts | null, CarriedWatts | null, ClaimOutcome]>([
    ['the whole interval above what is asked', claim('at-least', 118), null, carried(123), 'supported'],
    ['the interval holds what is asked', claim('at-least', 118), null, carried(120), 'not-shown'],
    ['the whole interval below what is asked', claim('at-least', 118), null, carried(112), 'contradicted'],
    ['nothing could be worked out', claim('at-least', 118), carried(130), null, 'not-shown'],
    ['far beyond what was measured', claim('at-least', 118), null, carried(300, { far: true }), 'not-shown'],
    ['an upper bound bears nothing out', claim('at-least', 118), null, carried(130, { rising: true }), 'not-shown'],
    ['an upper bound may refute', claim('at-least', 118), null, carried(100, { rising: true }), 'contradicted'],
    ['more than the first by its doubt and more', claim('more', 10), carried(80), carried(97), 'supported'],
    // Both doubts: 4·√2 = 5.7 W about a difference of 13 W.
    ['more, but not by so many', claim('more', 10), carried(80), carried(93), 'not-shown'],
    ['less than so many more', claim('more', 10), carried(80), carried(82), 'contradicted'],
    ['fewer', claim('less', 10), carried(97), carried(80), 'supported'],
    ['no difference within so many', claim('no-difference', 10), carried(80), carried(82), 'supported'],
    ['no difference within nothing: what does not matter of a power', claim('no-difference', 0), carried(800), carried(801), 'supported'],
    ['a difference beyond so many', claim('no-difference', 10), carried(80), carried(97), 'contradicted'],
    ['a side without watts', claim('more', 10), null, carried(97), 'not-shown'],
  ])('%s', (_, asked, a, b, outcome) => {
    expect(judge(asked, a, b).outcome).toBe(outcome);
  });

  it('says in which air, by which component, and what speaks against the figure', () => {
    expect(judge(claim('at-least', 165), null, carried(112)).sentence).toBe(
      '“It carries the render” is contradicted: it asks for at least 165 W, and in the gallery at 31.5 °C with fan carries 112 ± 4 W by stage.',
    );
    expect(judge(claim('at-least', 165), null, carried(250, { far: true, rising: true })).sentence).toContain(
      '(measured up to 90 W only; still rising when it was read, so the true watts are fewer)',
    );
    expect(judge(claim('more', 10), null, carried(97)).sentence).toContain('are needed on both sides');
  });
});
