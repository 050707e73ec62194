import { kneeOf } from '../../choice/tradeOffs.ts';
import type { LineUp } from './lineUp.ts';

/** What a step of a sweep stood at, from its name: "Case fans, 60" is case fans at 60; null where it is no step of a sweep. */
export function sweptAt(name: string): { what: string; value: number } | null {
  const tail = /^(.*), (-?\d+(?:\.\d+)?)(?: .*)?$/.exec(name);
  return tail ? { what: tail[1]!, value: Number(tail[2]) } : null;
}

export interface SweepKnee {
  /** Name of the step; null where the figure moves evenly. */
  name: string | null;
  noiseDb: number | null;
}

/**
 * Where a sweep, its loads side by side, stops helping at one spot.
 *
 * @returns null where the loads are no sweep, or fewer than three of them could be read
 */
export function kneeOfSweep(of: LineUp, spotId: string): SweepKnee | null {
  const points = of.sides.flatMap((side) => {
    const [at, run] = [sweptAt(side.name), side.runs[0]];
    const y = run?.figures[spotId]?.value;
    return at === null || y === undefined ? [] : [{ x: at.value, y, name: side.name, noiseDb: run!.outcomes.noise?.value ?? null }];
  });
  const alike = new Set(points.map((point) => point.x)).size < points.length || new Set(points.map((point) => point.y)).size < 2;
  if (points.length < 3 || alike || points[0]!.y === points.at(-1)!.y) return null;
  const knee = kneeOf(points);
  return knee === null ? { name: null, noiseDb: null } : { name: points[knee]!.name, noiseDb: points[knee]!.noiseDb };
}
