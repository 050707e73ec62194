import { riseOverAmbient } from '@red-ember/core';

interface Points {
  t: number[];
  y: (number | null)[];
}

const toSeries = ({ t, y }: Points) => ({ t: Float64Array.from(t), y: Float64Array.from(y, (value) => value ?? NaN) });

/** Rise of a thinned trace over a thinned room, for drawing only: points lie further apart than in the record. */
export function aboveRoom(spot: Points, room: Points): Points {
  const rise = riseOverAmbient(toSeries(spot), toSeries(room), { maxGapS: 600 });
  const t: number[] = [];
  const y: (number | null)[] = [];
  rise.y.forEach((value, i) => {
    const gap = spot.y[i] === null;
    if (Number.isNaN(value) && !gap) return;
    t.push(rise.t[i]!);
    y.push(gap ? null : value);
  });
  return { t, y };
}
