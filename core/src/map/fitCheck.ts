import { areaMm2, overlap, type BoardMap, type Face, type MapCover, type Rect } from './boardMap.ts';

/** Room above a stretch of the board, or beside it: a neighbour card, a clip, a lid, a panel. */
export interface MapZone extends Rect {
  id: string;
  /** What ends the room. */
  name: string;
  face: Face;
  /** Height above the board that stays free. */
  clearMm: number;
}

/** A cover as it stands in the enclosure. */
export interface Envelope {
  coverId: string;
  /** Height of its upper face above the board. */
  topMm: number;
  weightG: number;
}

export interface FitFinding {
  kind: 'blocked' | 'tight' | 'collides' | 'covers-clash' | 'overhang' | 'heavy';
  coverId: string;
  /** What it meets; empty for overhang and weight. */
  other: string;
  /** Millimetres it lacks (negative: what is left), or grams. */
  amount: number;
  /** Of the cover's area that hangs over the edge, 0..1. */
  share?: number;
}

/** Less than this is not enough for a hand and a board that bends. */
const TIGHT_MM = 2;
const OVERHANG_SHARE = 0.05;
/** Above this a board that stands upright sags in time, grams. */
const HEAVY_G = 900;

/**
 * Whether covers fit where they go: under every zone, over every part, beside each other, on the board. Zones may reach over the
 * board's edge; so may covers, which is then said.
 *
 * @param covers those of one variant
 * @returns blocked first, in the order of gravity
 * @throws RangeError an envelope that is lower than its cover's lower face
 */
export function fitCheck(map: BoardMap, zones: readonly MapZone[], covers: readonly Envelope[]): FitFinding[] {
  const found: FitFinding[] = [];
  const placed = covers.flatMap((envelope) => {
    const cover = map.covers.find((candidate) => candidate.id === envelope.coverId);
    if (!cover) return [];
    if (envelope.topMm < cover.undersideMm) throw new RangeError(`${cover.name} ends lower than its own lower face`);
    return [{ cover, ...envelope }];
  });
  placed.forEach(({ cover, topMm, weightG }, i) => {
    for (const zone of zones) {
      if (zone.face !== cover.face || !overlap(zone, cover)) continue;
      const lacks = topMm - zone.clearMm;
      if (lacks > 0) found.push({ kind: 'blocked', coverId: cover.id, other: zone.name, amount: lacks });
      else if (lacks > -TIGHT_MM) found.push({ kind: 'tight', coverId: cover.id, other: zone.name, amount: lacks });
    }
    for (const part of map.parts) {
      if (part.face !== cover.face || !overlap(part, cover)) continue;
      const lacks = part.tallMm - cover.undersideMm;
      if (lacks > 0.05) found.push({ kind: 'collides', coverId: cover.id, other: part.name, amount: lacks });
    }
    for (const below of placed.slice(i + 1)) {
      const apart = Math.max(cover.undersideMm - below.topMm, below.cover.undersideMm - topMm);
      if (below.cover.face === cover.face && overlap(cover, below.cover) && apart < 0)
        found.push({ kind: 'covers-clash', coverId: cover.id, other: below.cover.name, amount: -apart });
    }
    found.push(...overhangOf(map, cover));
    if (weightG > HEAVY_G) found.push({ kind: 'heavy', coverId: cover.id, other: '', amount: weightG });
  });
  const gravity: FitFinding['kind'][] = ['blocked', 'collides', 'covers-clash', 'tight', 'overhang', 'heavy'];
  return found.sort((a, b) => gravity.indexOf(a.kind) - gravity.indexOf(b.kind));
}

function overhangOf(map: BoardMap, cover: MapCover): FitFinding[] {
  const on = overlap(cover, { xMm: 0, yMm: 0, widthMm: map.widthMm, heightMm: map.heightMm });
  const share = 1 - (on ? areaMm2(on) / areaMm2(cover) : 0);
  if (share <= OVERHANG_SHARE) return [];
  const farthest = Math.max(-cover.xMm, -cover.yMm, cover.xMm + cover.widthMm - map.widthMm, cover.yMm + cover.heightMm - map.heightMm);
  return [{ kind: 'overhang', coverId: cover.id, other: '', amount: farthest, share }];
}
