import { padStack, type PadContact, type PadStack } from '../heat/padStack.ts';
import { areaMm2, overlap, type BoardMap, type MapCover, type MapPart } from './boardMap.ts';

/** How a cover meets a part: through a pad, metal on part, not at all although above it, or the part is too tall for it. */
export type Meeting = 'pad' | 'direct' | 'air' | 'collides';

export interface CoveredPart {
  coverId: string;
  partId: string;
  meeting: Meeting;
  /** Sink face to part; negative where it collides. */
  gapMm: number;
  /** Of the part's area that lies under the cover, 0..1. */
  shareUnder: number;
  /** Of the part's area that the pad reaches, 0..1. */
  shareTouched: number;
  contact: PadContact | null;
  /** With the part's heat through the pad; null without a pad. */
  pad: (PadStack & { worstCase: PadStack }) | null;
}

export interface PartHeat {
  partId: string;
  heatW: number;
  /** W/cm². */
  fluxWPerCm2: number;
  /** Touched: some cover takes its heat. Trapped: under a cover that does not touch it. Bare: no cover above it. */
  state: 'touched' | 'trapped' | 'bare';
}

export interface Coverage {
  meetings: CoveredPart[];
  parts: PartHeat[];
  /** Of all heat on the map, 0..1. */
  touchedHeatShare: number;
  trappedHeatShare: number;
  bareHeatShare: number;
  /** Heat of no part: spread over the board itself. */
  unplacedHeatShare: number;
}

/** A gap no wider than this counts as metal on part. */
const DIRECT_MM = 0.05;

function meet(map: BoardMap, cover: MapCover, part: MapPart): CoveredPart | null {
  if (cover.face !== part.face) return null;
  const under = overlap(cover, part);
  if (!under) return null;
  const gapMm = cover.undersideMm - part.tallMm;
  const base = { coverId: cover.id, partId: part.id, gapMm, shareUnder: areaMm2(under) / areaMm2(part) };
  if (gapMm < -DIRECT_MM) return { ...base, meeting: 'collides', shareTouched: 0, contact: null, pad: null };
  const pads = map.pads
    .filter((pad) => pad.coverId === cover.id)
    .flatMap((pad) => {
      const touched = overlap(pad, under);
      return touched ? [{ pad, area: areaMm2(touched) }] : [];
    })
    .sort((p, q) => q.area - p.area);
  const best = pads[0];
  if (!best) {
    const direct = gapMm <= DIRECT_MM;
    return { ...base, meeting: direct ? 'direct' : 'air', shareTouched: direct ? base.shareUnder : 0, contact: null, pad: null };
  }
  const stack = padStack({
    gapMm: Math.max(0, gapMm),
    gapToleranceMm: cover.gapToleranceMm,
    padMm: best.pad.padMm,
    conductivityWPerMK: best.pad.conductivityWPerMK,
    areaMm2: best.area,
    heatW: part.heatShare * map.heatW,
  });
  const touches = stack.contact !== 'none';
  return {
    ...base,
    meeting: touches ? 'pad' : 'air',
    shareTouched: touches ? best.area / areaMm2(part) : 0,
    contact: stack.contact,
    pad: stack,
  };
}

/**
 * What the covers on a map do for the parts beneath them: which each touches, what it leaves bare, where it traps air, and how
 * dense the heat is.
 *
 * A part is touched where a pad reaches it and is thicker than the gap (padStack), or the cover rests on it. Under a cover that
 * does not touch it, it is trapped: its air is held still, which is worse than bare.
 *
 * @returns shares of the map's heat; they add up to 1 with what was given to no part
 */
export function coverageOf(map: BoardMap): Coverage {
  const meetings = map.covers.flatMap((cover) => map.parts.flatMap((part) => meet(map, cover, part) ?? []));
  const parts = map.parts.map((part): PartHeat => {
    const own = meetings.filter((entry) => entry.partId === part.id);
    const touched = own.some((entry) => entry.meeting === 'pad' || entry.meeting === 'direct');
    const heatW = part.heatShare * map.heatW;
    const trapped = own.some((entry) => entry.shareUnder >= 0.5);
    return {
      partId: part.id,
      heatW,
      fluxWPerCm2: (100 * heatW) / areaMm2(part),
      state: touched ? 'touched' : trapped ? 'trapped' : 'bare',
    };
  });
  const shareOf = (state: PartHeat['state']) =>
    map.parts.reduce((sum, part, i) => sum + (parts[i]!.state === state ? part.heatShare : 0), 0);
  const shares = { touched: shareOf('touched'), trapped: shareOf('trapped'), bare: shareOf('bare') };
  return {
    meetings,
    parts,
    touchedHeatShare: shares.touched,
    trappedHeatShare: shares.trapped,
    bareHeatShare: shares.bare,
    unplacedHeatShare: Math.max(0, 1 - shares.touched - shares.trapped - shares.bare),
  };
}
