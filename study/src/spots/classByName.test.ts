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
    ['Point chaud GPU', 'card', 'hot spot'],
    ['Température mémoire GPU', 'card', 'memory'],
    ['Laufwerktemperatur', 'card', 'drive sensor'],
    ['Motherboard', 'card', 'board'],
    ['PCH', 'card', 'hub chip'],
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
  it('by what most columns of a log speak of, where it holds the whole machine', () => {
    const card = ['GPU Temperature [°C]', 'Hot Spot [°C]', 'Memory Temperature [°C]', 'GPU Load [%]', 'Memory Controller Load [%]', 'Board Power Draw [W]', 'CPU Temperature [°C]']; // prettier-ignore
    expect(familyByNames(card)).toBe('card');
    const machine = ['Total CPU Usage [%]', 'CPU Package [°C]', 'CPU Package Power [W]', 'VRM MOS [°C]', 'Drive Temperature [°C]', 'Read Rate [MB/s]', 'Write Rate [MB/s]']; // prettier-ignore
    expect(familyByNames([...machine, ...card, 'GPU Fan1 [RPM]', 'GPU Power [W]', 'GPU Clock [MHz]'])).toBe('card');
    expect(familyByNames(['CPU Package [°C]', 'CPU Package Power [W]', 'VRM MOS [°C]', 'Chokes [°C]', 'Drive Temperature [°C]', 'GPU Temperature [°C]'])).toBe('regulator'); // prettier-ignore
    expect(familyByNames(['Drive Temperature [°C]', 'Drive Temperature 2 [°C]', 'Read Rate [MB/s]', 'Write Rate [MB/s]', 'CPU Package [°C]', 'GPU Temperature [°C]'])).toBe('drive'); // prettier-ignore
    // Whoever named the file knew.
    expect(familyByNames(machine, 'vrm heatsink, run 2.csv')).toBe('regulator');
    expect(familyByNames(machine, 'ssd with cover.csv')).toBe('drive');
    expect(familyByNames(card, 'render scene 2, stock.csv')).toBe('card');
  });
});
