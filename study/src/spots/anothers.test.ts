import { describe, expect, it } from 'vitest';
import { asksOfNeighbour, namesAnother, namesItself, namesNeighbour } from './anothers.ts';

describe('what a name in a log of the whole machine speaks of', () => {
  it.each([
    ['GPU Power [W]', 'card', [true, false, false]],
    ['CPU Package Power [W]', 'card', [false, true, true]],
    ['CPU Package Power [W]', 'regulator', [true, false, false]],
    ['Leistung Grafikkarte', 'regulator', [false, true, true]],
    ['GPU Temperature', 'drive', [false, true, true]],
    ['Drive Temperature', 'card', [false, false, true]],
    ['Drive Temperature', 'drive', [true, false, false]],
    ['Board Power Draw [W]', 'card', [false, false, false]],
    ['Motherboard [°C]', 'regulator', [false, false, false]],
    ['PSU power', 'card', [false, false, true]],
    ['DIMM2 [°C]', 'card', [false, false, true]],
  ] as const)('%s, of a %s', (name, family, expected) => {
    expect([namesItself(name, family), namesNeighbour(name, family), namesAnother(name, family)]).toEqual(expected);
  });

  it('is asked of where variants or factors are called after it', () => {
    const of = (variants: string[], factors: string[] = []) =>
      asksOfNeighbour({ variants: variants.map((name) => ({ name })), factors: factors.map((name) => ({ name })), family: 'card' });
    expect(of(['stock', 'pad mod'])).toBe(false);
    expect(of(['CPU idle', 'CPU loaded'])).toBe(true);
    expect(of(['a', 'b'], ['Processor load'])).toBe(true);
  });
});
