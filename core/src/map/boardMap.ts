/** Faces of a board or drive: the one that looks at the tester, and the one behind it. Both use the same x and y. */
export type Face = 'top' | 'under';

/** Millimetres from the upper left corner of the outline, seen from the top. */
export interface Rect {
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

export interface MapPart extends Rect {
  id: string;
  name: string;
  face: Face;
  componentClass: string;
  /** How far it stands above the board. */
  tallMm: number;
  /** Of the map's heat, 0..1. */
  heatShare: number;
}

/** Something laid over parts: a sink, a lid, a plate. */
export interface MapCover extends Rect {
  id: string;
  name: string;
  face: Face;
  /** Height of its lower face above the board. */
  undersideMm: number;
  gapToleranceMm: number;
}

/** A pad between parts and the cover above them. */
export interface MapPad extends Rect {
  id: string;
  name: string;
  coverId: string;
  padMm: number;
  conductivityWPerMK: number;
}

/** Where a spot is read. */
export interface MapPlacement {
  spotId: string;
  face: Face;
  xMm: number;
  yMm: number;
}

export interface BoardMap {
  widthMm: number;
  heightMm: number;
  /** Heat of everything on the map in the load of interest, W. */
  heatW: number;
  parts: MapPart[];
  covers: MapCover[];
  pads: MapPad[];
  placements: MapPlacement[];
}

export function areaMm2(rect: Rect): number {
  return rect.widthMm * rect.heightMm;
}

/** Common part of two rectangles; null where they do not overlap (touching edges do not count). */
export function overlap(a: Rect, b: Rect): Rect | null {
  const xMm = Math.max(a.xMm, b.xMm);
  const yMm = Math.max(a.yMm, b.yMm);
  const widthMm = Math.min(a.xMm + a.widthMm, b.xMm + b.widthMm) - xMm;
  const heightMm = Math.min(a.yMm + a.heightMm, b.yMm + b.heightMm) - yMm;
  return widthMm > 1e-9 && heightMm > 1e-9 ? { xMm, yMm, widthMm, heightMm } : null;
}

function contains(rect: Rect, xMm: number, yMm: number): boolean {
  return xMm >= rect.xMm && yMm >= rect.yMm && xMm <= rect.xMm + rect.widthMm && yMm <= rect.yMm + rect.heightMm;
}

/** The part at a place; null on bare board. */
export function partAt(map: Pick<BoardMap, 'parts'>, face: Face, xMm: number, yMm: number): MapPart | null {
  return map.parts.findLast((part) => part.face === face && contains(part, xMm, yMm)) ?? null;
}

/**
 * Where a spot put near a part belongs: the middle of the part it lies on, or whose edge is within reach; else where it was put,
 * held to the outline.
 */
export function snapToPart(
  map: BoardMap,
  face: Face,
  xMm: number,
  yMm: number,
  reachMm = 2,
): { xMm: number; yMm: number; partId: string | null } {
  const distance = (part: MapPart) =>
    Math.hypot(Math.max(part.xMm - xMm, 0, xMm - part.xMm - part.widthMm), Math.max(part.yMm - yMm, 0, yMm - part.yMm - part.heightMm));
  const near = map.parts
    .filter((part) => part.face === face && distance(part) <= reachMm)
    .sort((p, q) => distance(p) - distance(q) || areaMm2(p) - areaMm2(q))[0];
  if (near) return { xMm: near.xMm + near.widthMm / 2, yMm: near.yMm + near.heightMm / 2, partId: near.id };
  const hold = (value: number, most: number) => Math.min(most, Math.max(0, value));
  return { xMm: hold(xMm, map.widthMm), yMm: hold(yMm, map.heightMm), partId: null };
}

export interface MapProblem {
  /** Which list and entry it is about, as in the map. */
  list: 'parts' | 'covers' | 'pads' | 'placements';
  index: number;
  sentence: string;
}

/** What cannot be on one board: overlapping parts, parts, covers or spots off the board, pads without a cover, too much heat. */
export function mapProblems(map: BoardMap, spotNames: Readonly<Record<string, string>> = {}): MapProblem[] {
  const problems: MapProblem[] = [];
  const off = (rect: Rect) =>
    rect.xMm < -1e-9 || rect.yMm < -1e-9 || rect.xMm + rect.widthMm > map.widthMm + 1e-9 || rect.yMm + rect.heightMm > map.heightMm + 1e-9;
  map.parts.forEach((part, index) => {
    if (off(part)) problems.push({ list: 'parts', index, sentence: `${part.name} reaches over the edge of the board.` });
    const other = map.parts.slice(0, index).find((candidate) => candidate.face === part.face && overlap(candidate, part));
    if (other) problems.push({ list: 'parts', index, sentence: `${part.name} and ${other.name} overlap.` });
  });
  const share = map.parts.reduce((sum, part) => sum + part.heatShare, 0);
  if (share > 1 + 1e-6)
    problems.push({
      list: 'parts',
      index: map.parts.length - 1,
      sentence: `The heat shares add up to ${Math.round(100 * share)} %, more than all of it.`,
    });
  map.pads.forEach((pad, index) => {
    const cover = map.covers.find((candidate) => candidate.id === pad.coverId);
    if (!cover) problems.push({ list: 'pads', index, sentence: `${pad.name} belongs to no cover.` });
    else if (!overlap(pad, cover)) problems.push({ list: 'pads', index, sentence: `${pad.name} does not lie under ${cover.name}.` });
  });
  map.placements.forEach((placement, index) => {
    const inside = contains({ xMm: 0, yMm: 0, widthMm: map.widthMm, heightMm: map.heightMm }, placement.xMm, placement.yMm);
    if (!inside) problems.push({ list: 'placements', index, sentence: `${spotNames[placement.spotId] ?? 'A spot'} lies off the board.` });
  });
  return problems;
}
