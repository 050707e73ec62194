import { mean } from '../../mean.ts';
import type { UncertaintyComponent } from '../../uncertainty/combineUncertainty.ts';
import type { FigureReading } from './figureOf.ts';

/** Powers nearer to each other than this share are one. */
const ONE_POWER = 0.001;
/** Powers further apart are two loads, and not one that a meter, a supply or a leaking chip moved. */
export const RESTATED_UP_TO = 0.08;
/** Rise goes with power to the 1, less over a passive sink, more at a regulator: how far the exponent may be off, as a standard deviation. */
const EXPONENT_U = 0.25;

export interface OnePower {
  a: FigureReading[];
  b: FigureReading[];
  /** W that both sides' figures were brought to. */
  powerW: number;
  line: UncertaintyComponent;
}

/** What a reading would be more at this power, K: rise in proportion to it. */
const shiftTo =
  (powerW: number) =>
  ({ heat }: FigureReading): number =>
    heat!.riseK * (powerW / heat!.powerW - 1);

const movedTo = (powerW: number, side: readonly FigureReading[]): FigureReading[] =>
  side.map((reading) => ({ ...reading, figure: { ...reading.figure, value: reading.figure.value + shiftTo(powerW)(reading) } }));

/** Readings of one side at the mean of their powers, so that what crept with the watts is no drift; as they are where powers are not known. */
export function toOwnPower(side: readonly FigureReading[]): readonly FigureReading[] {
  const powers = side.flatMap((reading) => reading.heat?.powerW ?? []);
  return powers.length < side.length || powers.length < 2 ? side : movedTo(mean(powers), side);
}

/**
 * Readings of two sides brought to one power, in between: rise in proportion to it.
 *
 * @returns null where nothing is to be done: alike already, too far apart, or not read in every run
 */
export function toOnePower(a: readonly FigureReading[], b: readonly FigureReading[]): OnePower | null {
  const powers = [a, b].map((side) => side.flatMap((reading) => reading.heat?.powerW ?? []));
  if (powers[0]!.length < a.length || powers[1]!.length < b.length) return null;
  const [pa, pb] = powers.map(mean) as [number, number];
  const apart = Math.abs(pb / pa - 1);
  if (!(apart > ONE_POWER) || apart > RESTATED_UP_TO) return null;
  const powerW = (pa + pb) / 2;
  const by = Math.abs(mean(b.map(shiftTo(powerW))) - mean(a.map(shiftTo(powerW))));
  return { a: movedTo(powerW, a), b: movedTo(powerW, b), powerW, line: { name: 'restated to one power', u: EXPONENT_U * by } };
}
