import type { OwnFigure } from '@red-ember/core';

/** A figure that no channel of a known kind carries: a score, minutes of a render, a rating, watts off a meter. */
export interface OwnFigureEntry extends OwnFigure {
  /** What it is read by, in words; empty where nobody said. */
  instrument: string;
  /** Key of the channel that records it; empty where it is typed. */
  channel: string;
}

/** A rating from 1 to 5 and a score come to mind first; whatever else is counted is written over them. */
export function blankOwnFigure(id: string): OwnFigureEntry {
  return { id, name: '', unit: '', better: 'high', doubt: 0, practical: 1, instrument: '', channel: '' };
}

/** Words of a name by which less is better, and by which more is; the tester has the last word at Ask. */
const LESS = /\b(time|duration|minutes?|seconds?|price|cost|weight|mass|effort|loudness|sound|noise|power|watts?|height|length)\b/i;
const MORE = /\b(score|rating|points|marks|grade|stars|ease|frames|fps|rate|conductivity|throughput)\b/i;

/** Which way a figure is better by its name; neither where the name does not tell. */
export const betterByName = (name: string): OwnFigure['better'] => (MORE.test(name) ? 'high' : LESS.test(name) ? 'low' : 'neither');

/** The figures of a study; none of one that was written before it could have any. */
export const ownFiguresOf = ({ figures = [] }: { figures?: readonly OwnFigureEntry[] }): readonly OwnFigureEntry[] => figures;
