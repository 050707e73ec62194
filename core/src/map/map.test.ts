import { describe, expect, it } from 'vitest';
import { coverageOf, mapProblems, overlap, snapToPart, type BoardMap } from '../index.ts';

/** A two-sided drive under a lid that reaches the upper face only. */
const map = (over: Partial<BoardMap> = {}): BoardMap => ({
  widthMm: 80,
  heightMm: 22,
  heatW: 8,
  parts: [
    {
      id: 'c',
      name: 'Controller',
      face: 'top',
      componentClass: 'drive controller',
      xMm: 12,
      yMm: 4,
      widthMm: 14,
      heightMm: 14,
      tallMm: 1,
      heatShare: 0.5,
    },
    {
      id: 'f',
      name: 'Flash',
      face: 'top',
      componentClass: 'flash',
      xMm: 40,
      yMm: 4,
      widthMm: 14,
      heightMm: 14,
      tallMm: 1.4,
      heatShare: 0.25,
    },
    {
      id: 'u',
      name: 'Flash underside',
      face: 'under',
      componentClass: 'flash',
      xMm: 40,
      yMm: 4,
      widthMm: 14,
      heightMm: 14,
      tallMm: 1.4,
      heatShare: 0.2,
    },
  ],
  covers: [{ id: 'lid', name: 'slot lid', face: 'top', xMm: 5, yMm: 0, widthMm: 70, heightMm: 22, undersideMm: 2.4, gapToleranceMm: 0.1 }],
  pads: [{ id: 'p', name: 'lid pad', coverId: 'lid', xMm: 5, yMm: 0, widthMm: 70, heightMm: 22, padMm: 1.5, conductivityWPerMK: 5 }],
  placements: [],
  ...over,
});

describe('coverageOf', () => {
  it('shares out the heat: touched above, bare below, the rest in the board', () => {
    const coverage = coverageOf(map());
    expect(coverage.touchedHeatShare).toBeCloseTo(0.75, 12);
    expect(coverage.bareHeatShare).toBeCloseTo(0.2, 12);
    expect(coverage.unplacedHeatShare).toBeCloseTo(0.05, 12);
    expect(coverage.parts.map((part) => part.state)).toEqual(['touched', 'touched', 'bare']);
    expect(coverage.parts[0]!.fluxWPerCm2).toBeCloseTo(4 / 1.96, 12);
  });
  it('computes the pad over each part: uneven heights under one lid', () => {
    const [controller, flash] = coverageOf(map()).meetings;
    expect(controller!.pad!.gapMm).toBeCloseTo(1.4, 12);
    expect(controller!.contact).toBe('light');
    expect(controller!.pad!.worstCase.contact).toBe('none');
    expect(flash!.contact).toBe('good');
    expect(flash!.pad!.dropK).toBeCloseTo(((1000 * 1) / (5 * 196)) * 2, 9);
  });
  it('calls a part under a lid that does not touch it trapped, not bare', () => {
    expect(coverageOf(map({ pads: [] })).parts.map((part) => part.state)).toEqual(['trapped', 'trapped', 'bare']);
    const thin = map().pads.map((pad) => ({ ...pad, padMm: 1.2 }));
    const coverage = coverageOf(map({ pads: thin }));
    expect(coverage.parts.map((part) => part.state)).toEqual(['trapped', 'touched', 'bare']);
    expect(coverage.trappedHeatShare).toBeCloseTo(0.5, 12);
  });
  it('tells metal on part and a part too tall for its lid', () => {
    const at = (undersideMm: number) =>
      coverageOf(map({ pads: [], covers: [{ ...map().covers[0]!, undersideMm }] })).meetings.map((entry) => entry.meeting);
    expect(at(1.4)).toEqual(['air', 'direct']);
    expect(at(1)).toEqual(['direct', 'collides']);
  });
});

describe('mapProblems', () => {
  it('finds nothing wrong with a sound map', () => {
    expect(mapProblems(map())).toEqual([]);
  });
  it('names overlapping parts, parts off the board, lost pads and spots, and heat above all there is', () => {
    const base = map();
    const problems = mapProblems(
      map({
        parts: [
          ...base.parts,
          { ...base.parts[0]!, id: 'x', name: 'Hub', xMm: 20 },
          { ...base.parts[0]!, id: 'y', name: 'Far', xMm: 70, heatShare: 0 },
        ],
        pads: [{ ...base.pads[0]!, coverId: 'gone' }],
        placements: [{ spotId: 's', face: 'top', xMm: 90, yMm: 2 }],
      }),
      { s: 'Controller' },
    ).map((problem) => problem.sentence);
    expect(problems).toContain('Hub and Controller overlap.');
    expect(problems).toContain('Far reaches over the edge of the board.');
    expect(problems).toContain('lid pad belongs to no cover.');
    expect(problems).toContain('Controller lies off the board.');
    expect(problems.some((text) => text.includes('145 %'))).toBe(true);
  });
  it('lets one part stand behind another on the other face', () => {
    expect(overlap(map().parts[1]!, map().parts[2]!)).not.toBeNull();
    expect(mapProblems(map())).toEqual([]);
  });
});

describe('snapToPart', () => {
  it('goes to the middle of the part it is near, and stays elsewhere', () => {
    expect(snapToPart(map(), 'top', 13, 5)).toEqual({ xMm: 19, yMm: 11, partId: 'c' });
    expect(snapToPart(map(), 'top', 27.5, 11)).toMatchObject({ partId: 'c' });
    expect(snapToPart(map(), 'top', 32, 11)).toEqual({ xMm: 32, yMm: 11, partId: null });
    expect(snapToPart(map(), 'under', 13, 5)).toMatchObject({ partId: null });
    expect(snapToPart(map(), 'top', 300, -5)).toEqual({ xMm: 80, yMm: 0, partId: null });
  });
});
