import { mean } from '../mean.ts';
import { slice, usable, type Series, type Window } from './series.ts';

/** Plain mean of what is there of a series, over a window or the whole of it; null where nothing is. Its doubt is another matter (`readWindow`). */
export function meanWithin(series: Series, window?: Window): number | null {
  const { y } = usable(window ? slice(series, window) : series);
  return y.length === 0 ? null : mean([...y]);
}
