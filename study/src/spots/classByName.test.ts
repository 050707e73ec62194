import { describe, expect, it } from 'vitest';
import { classByName, familyByNames, readsItself } from './classByName.ts';

describe('the class of a component by its name', () => {
  it.each([
    ['Chip', 'card', 'graphics core'],
    ['Chip', 'regulator', 'processor'],
    ['Chip', 'drive', 'drive controller'],
    ['hot_spot', 'card', 'hot spot'],
    ['GPU hottest', 'card', 'hot spot'],
    ['GPU hot', 'card', 'hot spot'],
    ['Memory junction temperature', 'card', 'memory'],
    ['sink base', 'card', 'heatsink'],
    ['VRM stages', 'card', 'power stage'],
    ['MOS 3', 'regulator', 'power stage'],
    ['Choke', 'regulator', 'inductor'],
    ['core 0', 'regulator', 'processor'],
    ['Flash underside', 'drive', 'flash'],
    ['Drive says', 'drive', 'drive sensor'],
    ['mem', 'card', 'memory'],
    ['Kühlkörper', 'regulator', 'heatsink'],
    ['Kondensator 2', 'regulator', 'capacitor'],
    ['Speicherbaustein neben dem Spannungswandler', 'card', 'memory'],
    ['Thermocouple near the VRM', 'card', 'power stage'],
    ['Drosselspulen Oberseite', 'card', 'inductor'],
    ['Backplate', 'card', null],
    ['Caption', 'card', null],
  ] as const)('%s of a %s: %s', (name, family, expected) => {
    expect(classByName(name, family)).toBe(expected);
  });
  it('tells what reads itself', () => {
    expect(['Drive says', 'own sensor', 'composite'].map(readsItself)).toEqual([true, true, true]);
    expect(readsItself('Thermocouple, flash')).toBe(false);
  });
  it('and the family by what only it has', () => {
    expect(familyByNames(['Room', 'Flash top', 'MB/s'])).toBe('drive');
    expect(familyByNames(['GPU chip', 'VRM stages'])).toBe('card');
    expect(familyByNames(['CPU', 'VRM stages'])).toBe('regulator');
    expect(familyByNames(['A', 'B'])).toBeNull();
  });
});
