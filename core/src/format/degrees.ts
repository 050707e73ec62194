import { capital } from './words.ts';

/** In which degrees temperatures are shown. What is stored and computed stays in °C and K. */
export type Degrees = 'C' | 'F';

/** A temperature in °C as it is shown. */
export const shownTemperature = (celsius: number, degrees: Degrees): number => (degrees === 'C' ? celsius : 1.8 * celsius + 32);

/** A difference of temperatures in K as it is shown. */
export const shownStep = (kelvin: number, degrees: Degrees): number => (degrees === 'C' ? kelvin : 1.8 * kelvin);

const NUMBER = String.raw`[+−-]?\d+(?:\.\d+)?`;
/** One or two numbers before a unit of temperature that is no part of another unit: "61.3 ± 0.8 K", "20 to 25 °C", "0.4 K" but not "0.4 K/W". */
const QUANTITY = new RegExp(
  String.raw`(${NUMBER})(?:( ± under | ± | to | against |, )(${NUMBER}))?(?:(, )(${NUMBER}))? (K|°C)(?![\w/])`,
  'g',
);

const FEW_K = 5;

function converted(text: string, step: boolean): string {
  const [sign, digits] = /^[+−-]/.test(text) ? [text[0]!, text.slice(1)] : ['', text];
  const value = Number(digits) * (sign === '−' || sign === '-' ? -1 : 1);
  // A whole kelvin or two are a figure that somebody set: of 1.8 °F nothing may be rounded off.
  const decimals = digits.split('.')[1]?.length ?? (step && Number.isInteger(value) && Math.abs(value) < FEW_K && value % 5 !== 0 ? 1 : 0);
  const shown = step ? 1.8 * value : 1.8 * value + 32;
  const plain = Math.abs(shown).toFixed(decimals);
  return `${shown < 0 ? '−' : sign === '+' ? '+' : ''}${plain}`;
}

/**
 * A sentence with its temperatures in other degrees: "61.3 ± 0.8 K" becomes "110.3 ± 1.4 °F", "20 to 25 °C" becomes "68 to 77 °F".
 * Decimals stay as many as they were. Units that hold a kelvin, such as K/W, stay what they are.
 *
 * @param names what testers called their things; it stays as it was typed: "Grease 705 K" is no temperature
 */
export function inDegrees(text: string, degrees: Degrees, names: readonly string[] = []): string {
  if (degrees === 'C') return text;
  const [name, ...others] = names;
  if (name !== undefined) {
    return text
      .split(name)
      .map((between) => inDegrees(between, degrees, others))
      .join(name);
  }
  return text.replace(
    QUANTITY,
    (
      _all,
      first: string,
      link: string | undefined,
      second: string | undefined,
      comma: string | undefined,
      third: string | undefined,
      unit: string,
    ) => {
      const step = unit === 'K';
      const two = link && second ? `${link}${converted(second, step || link.includes('±'))}` : '';
      const three = comma && third ? `${comma}${converted(third, step)}` : '';
      return `${converted(first, step)}${two}${three} °F`;
    },
  );
}

/** Every text in a value, however deep. */
export function* textsIn(value: unknown): Generator<string> {
  if (typeof value === 'string') yield value;
  else if (typeof value === 'object' && value !== null) for (const inner of Object.values(value)) yield* textsIn(inner);
}

/**
 * The names, of all that testers typed, in which a temperature would be seen: those have to be named to `inDegrees`. The longest comes
 * first, for a name may hold another, and each once more as it begins a sentence. A name that is a temperature and nothing else is one.
 */
export function namesWithDegrees(typed: Iterable<string>): string[] {
  const holds = (name: string) => name.replace(QUANTITY, '') !== name && name.replace(QUANTITY, '').trim() !== '';
  const written = [...typed].filter(holds).flatMap((name) => [name, capital(name)]);
  return [...new Set(written)].sort((a, b) => b.length - a.length || (a < b ? -1 : 1));
}
