import { typeB } from '../../uncertainty/typeB.ts';
import { mean } from '../../mean.ts';
import type { UncertaintyComponent } from '../../uncertainty/combineUncertainty.ts';
import type { JudgedRun } from '../types.ts';

/** What a part beside it took within this share, or these watts, was the same. */
const SAME_SHARE = 0.05;
const SAME_W = 5;
/**
 * What each watt of another part in one case warms a spot by, at most, K: the air that both stand in, or the water that both give to. Our
 * own figure: an open or closed case brings 0.03 to 0.05, a loop that two share 0.08.
 */
const MOST_K_PER_W = 0.1;

/** What the part beside it took over the window of the load, W; null where nobody recorded it. */
export function neighbourW({ besides = {}, review }: Pick<JudgedRun, 'besides' | 'review'>): number | null {
  return (review.besides ?? []).find(({ key }) => besides[key]?.neighbour)?.mean.value ?? null;
}

/** How far apart the parts beside two sides were, W; 0 where they were alike, or where nobody knows of one side. */
export function neighboursApartW(a: readonly (number | null)[], b: readonly (number | null)[]): number {
  const [known, other] = [a, b].map((side) => side.filter((value) => value !== null)) as [number[], number[]];
  if (known.length === 0 || other.length === 0) return 0;
  const [one, two] = [mean(known), mean(other)];
  const apart = Math.abs(one - two);
  return apart > Math.max(SAME_W, SAME_SHARE * Math.max(one, two)) ? apart : 0;
}

/** A part beside it that took more with one side than with the other: by how much it warmed the spot more, nobody knows. */
export function neighbourLine(apartW: number): UncertaintyComponent[] {
  return apartW > 0 ? [{ name: 'heat of the part beside it', u: typeB(MOST_K_PER_W * apartW, 'rectangular') }] : [];
}
