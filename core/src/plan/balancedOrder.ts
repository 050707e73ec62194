import { requireFinite } from '../errors.ts';
import { seededUniform } from '../seeded.ts';

/**
 * Order of repeats that keeps a drift of the bench out of the comparison: blocks of all variants, forth and back (A B C, C B A, …),
 * the first of each pair of blocks shuffled by the seed.
 *
 * Within a pair of blocks every variant has the same mean place in time, so a steady drift falls out exactly; shuffling keeps
 * anything periodic from falling on one variant. Neighbouring blocks share their middle variant, which saves a refit.
 *
 * @param repeats how often each variant is run, shape [variants]; variants with fewer repeats drop out of the later blocks
 * @returns indices of variants in order of running, length Σ repeats
 * @throws RangeError repeats not whole or negative
 * @see Fisher 1935, The Design of Experiments, on blocking; Cox 1951, Biometrika 38, on designs against trends
 */
export function balancedOrder(repeats: readonly number[], seed = 1): number[] {
  requireFinite(seed, 'seed');
  for (const count of repeats)
    if (!Number.isInteger(count) || count < 0) throw new RangeError(`repeats must be whole and not negative, got ${count}`);
  const random = seededUniform(seed);
  const left = [...repeats];
  const order: number[] = [];
  let block: number[] = [];
  for (let round = 0; left.some((count) => count > 0); round++) {
    const due = left.flatMap((count, variant) => (count > 0 ? [variant] : []));
    if (round % 2 === 0) {
      block = due;
      for (let i = block.length - 1; i > 0; i--) {
        const j = Math.floor(random() * (i + 1));
        [block[i], block[j]] = [block[j]!, block[i]!];
      }
    } else {
      block = [...block].reverse().filter((variant) => left[variant]! > 0);
    }
    for (const variant of block) {
      order.push(variant);
      left[variant] = left[variant]! - 1;
    }
  }
  return order;
}

/** How far the mean places of the variants in an order lie apart, as a share of its length: 0 where a steady drift falls out. */
export function driftExposure(order: readonly number[]): number {
  const places = new Map<number, number[]>();
  order.forEach((variant, k) => places.set(variant, [...(places.get(variant) ?? []), k]));
  const means = [...places.values()].map((list) => list.reduce((sum, k) => sum + k / list.length, 0));
  return order.length < 2 ? 0 : (Math.max(...means) - Math.min(...means)) / (order.length - 1);
}
