import { assert, constantFrom, double, option, property, record, type Arbitrary } from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NOTHING_ASKED, printAsked, readAsked, whatIfOf, type Asked } from './address.ts';

const some = <T>(of: Arbitrary<T>) => option(of, { nil: null });
// An address knows no nought below nought.
const number = (min: number, max: number) => double({ min, max, noNaN: true }).map((value) => value || 0);
const layer = record({ mm: number(0.01, 5), conductivityWPerMK: number(0.1, 80) });
const asked: Arbitrary<Asked> = record({
  airC: some(number(-40, 90)),
  powerW: some(number(0, 900)),
  neighbourW: some(number(0, 400)),
  fanShare: some(number(0.1, 4)),
  at: constantFrom('top', 'a spot & more'),
  layer: some(record({ areaMm2: number(1, 9000), share: number(0.01, 1), now: layer, instead: layer })),
  cooler: some(record({ kPerW: number(0.01, 20), plusMinus: number(0, 2) })),
});

describe('what is asked, in the address', () => {
  it('is read back as it was printed', () => {
    assert(
      property(asked, (one) => {
        // Without a layer or a cooler there is nothing that a place is asked for.
        const at = one.layer || one.cooler ? one.at : '';
        expect(readAsked(new URLSearchParams(printAsked(one)))).toEqual({ ...one, at });
      }),
    );
  });

  it('is nothing where the address makes no sense', () => {
    for (const odd of ['air=x&power=-1&fan=0', 'layer=1,2&cooler=0,1', 'layer=10,7,1,1,1,1', 'air=1e9&power=NaN&beside=-3&fan=1e9', ''])
      expect(readAsked(new URLSearchParams(odd)), odd).toEqual(NOTHING_ASKED);
  });

  it('takes what is typed as ± for half of a 95 % interval', () => {
    const one = { ...NOTHING_ASKED, at: 'top', cooler: { kPerW: 0.3, plusMinus: 0.04 } };
    expect(whatIfOf(one, 'top').cooler).toEqual({ kPerW: 0.3, u: 0.02 });
    expect(whatIfOf(one, 'under').cooler).toBeNull();
  });
});
