import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { THERMOCOUPLE_TYPES, thermocoupleRange, thermocoupleTemperature, thermocoupleVoltage, type ThermocoupleType } from '../index.ts';

/** Published reference tables, mV to the microvolt (NIST Monograph 175, IEC 60584-1). */
const TABLE: Record<ThermocoupleType, [number, number][]> = {
  K: [
    [-200, -5.891],
    [-100, -3.554],
    [-50, -1.889],
    [0, 0],
    [25, 1],
    [100, 4.096],
    [250, 10.153],
    [500, 20.644],
    [1000, 41.276],
    [1372, 54.886],
  ],
  T: [
    [-200, -5.603],
    [-100, -3.379],
    [0, 0],
    [25, 0.992],
    [100, 4.279],
    [200, 9.288],
    [400, 20.872],
  ],
  J: [
    [-200, -7.89],
    [-100, -4.633],
    [0, 0],
    [25, 1.277],
    [100, 5.269],
    [500, 27.393],
    [760, 42.919],
    [1000, 57.953],
    [1200, 69.553],
  ],
  N: [
    [-200, -3.99],
    [-100, -2.407],
    [0, 0],
    [100, 2.774],
    [500, 16.748],
    [1000, 36.256],
    [1300, 47.513],
  ],
};

describe.each(THERMOCOUPLE_TYPES)('type %s', (type) => {
  it('meets the published table to half a microvolt', () => {
    for (const [celsius, millivolts] of TABLE[type]) expect(thermocoupleVoltage(type, celsius), `${celsius} °C`).toBeCloseTo(millivolts, 3);
  });
  it('comes back to the temperature it started from, with any cold junction', () => {
    const { fromC, toC } = thermocoupleRange(type);
    fc.assert(
      fc.property(fc.double({ min: fromC, max: toC, noNaN: true }), fc.double({ min: 10, max: 45, noNaN: true }), (celsius, cold) => {
        const measured = thermocoupleVoltage(type, celsius) - thermocoupleVoltage(type, cold);
        expect(thermocoupleTemperature(type, measured, cold)).toBeCloseTo(celsius, 4);
      }),
    );
  });
});

describe('cold junction', () => {
  it('is added as a voltage: adding its temperature would be wrong by tenths of a kelvin', () => {
    const measured = thermocoupleVoltage('T', 120) - thermocoupleVoltage('T', 28);
    expect(thermocoupleTemperature('T', measured, 28)).toBeCloseTo(120, 4);
    expect(Math.abs(thermocoupleTemperature('T', measured, 0) + 28 - 120)).toBeGreaterThan(0.4);
  });
  it('reads 0 mV as the cold junction itself', () => {
    for (const type of THERMOCOUPLE_TYPES) expect(thermocoupleTemperature(type, 0, 23.4)).toBeCloseTo(23.4, 5);
  });
});

it('keeps a missing sample missing and refuses voltages of something else', () => {
  expect(thermocoupleTemperature('K', NaN, 25)).toBeNaN();
  expect(() => thermocoupleTemperature('K', 60, 25)).toThrow(/outside the range/);
  expect(() => thermocoupleVoltage('T', 500)).toThrow(RangeError);
});
