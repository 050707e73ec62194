/** Middle of the places, and each place's angle about it. */
function angles(places: readonly { xMm: number; yMm: number }[]): number[] {
  const middle = (key: 'xMm' | 'yMm') => places.reduce((sum, place) => sum + place[key] / places.length, 0);
  const [x, y] = [middle('xMm'), middle('yMm')];
  return places.map((place) => Math.atan2(place.yMm - y, place.xMm - x));
}

/**
 * Order in which screws are tightened so that a sink comes down level: each next one lies as far as can be, by angle about the
 * middle, from the one before, and of two that are equally far the one that is farther from the one before that.
 *
 * @param places millimetres on the board; may be empty
 * @returns indices into `places`, each once, starting with the first
 */
export function crosswiseOrder(places: readonly { xMm: number; yMm: number }[]): number[] {
  if (places.length === 0) return [];
  const angle = angles(places);
  const apart = (i: number, j: number) => {
    const turn = Math.abs(angle[i]! - angle[j]!) % (2 * Math.PI);
    return Math.min(turn, 2 * Math.PI - turn);
  };
  const order = [0];
  const left = places.map((_, i) => i).slice(1);
  while (left.length > 0) {
    const [last, before] = [order.at(-1)!, order.at(-2)];
    const score = (i: number) => apart(i, last) + (before === undefined ? 0 : 1e-3 * apart(i, before));
    left.sort((i, j) => score(j) - score(i) || i - j);
    order.push(left.shift()!);
  }
  return order;
}
