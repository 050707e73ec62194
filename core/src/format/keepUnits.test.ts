import { describe, expect, it } from 'vitest';
import { keepUnits } from './keepUnits.ts';

/** The blanks at which no line ends, made visible. */
const shown = (text: string) => keepUnits(text).replaceAll('\u00a0', '~');

describe('numbers and their units', () => {
  it.each([
    ['B heats peak by 2.3 ± 1.0 K.', 'B heats peak by 2.3 ±~1.0~K.'],
    ['20 to 25 °C, 3.2 % of the work lost after 5.2 min', '20 to 25~°C, 3.2~% of the work lost after 5.2~min'],
    ['0.234 K/W at 2500 rpm, 39.6 dB(A)', '0.234~K/W at 2500~rpm, 39.6~dB(A)'],
  ])('stay together: %s', (text, kept) => {
    expect(shown(text)).toBe(kept);
  });
  it.each(['2 runs, group a', 'run 3 was sound', '4 Kits and 5 seats', 'Wren 8 A/B', '3 As', 'see 5 minutes'])(
    'are not seen in words: %s',
    (text) => {
      expect(shown(text)).toBe(text);
    },
  );
});
