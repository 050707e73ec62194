import { describe, expect, it } from 'vitest';
import { laned } from './TraceChart.tsx';

const lanes = (events: { atS: number; text: string }[]) =>
  laned(events, 0, 1000).map(({ event, lane, toLeft }) => [event.atS, lane, toLeft]);

describe('names of marks over a trace', () => {
  it('share a row where they do not touch, and take the next where they do', () => {
    expect(lanes([{ atS: 0, text: 'short' }, { atS: 500, text: 'short' }])).toEqual([[0, 0, false], [500, 0, false]]); // prettier-ignore
    expect(lanes([{ atS: 100, text: 'a long name' }, { atS: 150, text: 'another' }])).toEqual([[100, 0, false], [150, 1, false]]); // prettier-ignore
  });
  it('stand to the left of a mark near the end, out of the way of the name before it', () => {
    expect(lanes([{ atS: 700, text: 'Power limit to 290 W' }, { atS: 960, text: 'Vent open again' }])).toEqual([[700, 0, false], [960, 1, true]]); // prettier-ignore
    expect(lanes([{ atS: 300, text: 'Power limit' }, { atS: 960, text: 'Vent open again' }])).toEqual([[300, 0, false], [960, 0, true]]); // prettier-ignore
    // What is not named takes no room.
    expect(lanes([{ atS: 700, text: '' }, { atS: 705, text: 'named' }])).toEqual([[700, 0, false], [705, 0, false]]); // prettier-ignore
  });
});
