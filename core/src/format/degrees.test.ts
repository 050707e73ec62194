import * as fc from 'fast-check';
import { expect, it } from 'vitest';
import { inDegrees, shownStep, shownTemperature, toCelsius } from '../index.ts';

it.each([
  ['61.3 ± 0.8 K', '110.3 ± 1.4 °F'],
  ['−9.1 ± 1.6 K', '−16.4 ± 2.9 °F'],
  ['+4.1 ± 1.5 K', '+7.4 ± 2.7 °F'],
  ['56.3 ± 0.8 °C', '133.3 ± 1.4 °F'],
  ['a band of 20 to 25 °C', 'a band of 68 to 77 °F'],
  ['room 22.0 to 22.9 °C, same sensors', 'room 71.6 to 73.2 °F, same sensors'],
  ['limit 95 °C · general figure', 'limit 203 °F · general figure'],
  ['0.08 K per minute', '0.14 °F per minute'],
  ['40.1, 40.9, 41.2 °C', '104.2, 105.6, 106.2 °F'],
  ['−40 °C', '−40 °F'],
  ['by graphics chip 51.5 against 54.7 K.', 'by graphics chip 92.7 against 98.5 °F.'],
  ['0.412 K/W and 2.4 W/K stay', '0.412 K/W and 2.4 W/K stay'],
  ['paste K leads', 'paste K leads'],
  ['0.25 ± under 0.01 K', '0.45 ± under 0.02 °F'],
])('%s is %s', (text, shown) => {
  expect(inDegrees(text, 'F')).toBe(shown);
  expect(inDegrees(text, 'C')).toBe(text);
});

it('shows what the exact conversion says, there and back', () => {
  fc.assert(
    fc.property(fc.double({ min: -60, max: 200, noNaN: true }), (celsius) => {
      expect(toCelsius(shownTemperature(celsius, 'F'), 'F')).toBeCloseTo(celsius, 9);
      expect(shownTemperature(celsius + 5, 'F') - shownTemperature(celsius, 'F')).toBeCloseTo(shownStep(5, 'F'), 9);
    }),
  );
});
