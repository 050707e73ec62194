import {
  snapToPart,
  type BoardMap,
  type Face,
  type MapCover,
  type MapPad,
  type MapPart,
  type MapPlacement,
  type Rect,
} from '@red-ember/core';
import type { BoardMapBody, MapScrewBody, MapZoneBody, SpotBody } from '@red-ember/contract';

/** Something on the map that can be taken hold of. A placement goes by the id of its spot. */
export interface Picked {
  list: 'parts' | 'covers' | 'pads' | 'placements' | 'screws' | 'zones';
  id: string;
}

export type MapEntry = MapPart | MapCover | MapPad | MapPlacement | MapScrewBody | MapZoneBody;

const idOf = (list: Picked['list'], entry: MapEntry) => (list === 'placements' ? (entry as MapPlacement).spotId : (entry as MapPart).id);

/** Coordinates are kept to a twentieth of a millimetre: finer is not in anybody's hand. */
const tidy = (mm: number) => Math.round(mm * 20) / 20;

/** One of the lists of a map; screws and zones may be missing. */
export const listOf = (map: BoardMapBody, list: Picked['list']) => (map[list] ?? []) as MapEntry[];

export function entryOf(map: BoardMapBody, picked: Picked | null): MapEntry | null {
  if (!picked) return null;
  const list = listOf(map, picked.list);
  return list.find((entry) => idOf(picked.list, entry) === picked.id) ?? null;
}

/** The map with one entry changed. */
export function withEntry(map: BoardMapBody, picked: Picked, part: object): BoardMapBody {
  const list = listOf(map, picked.list);
  return { ...map, [picked.list]: list.map((entry) => (idOf(picked.list, entry) === picked.id ? { ...entry, ...part } : entry)) };
}

/** The map with one entry taken away; a cover takes its pads and screws along. */
export function withoutEntry(map: BoardMapBody, picked: Picked): BoardMapBody {
  const list = listOf(map, picked.list);
  const rest = { ...map, [picked.list]: list.filter((entry) => idOf(picked.list, entry) !== picked.id) };
  if (picked.list !== 'covers') return rest;
  const others = <T extends { coverId: string }>(list: T[]) => list.filter((entry) => entry.coverId !== picked.id);
  return { ...rest, pads: others(rest.pads), ...(rest.screws ? { screws: others(rest.screws) } : {}) };
}

/** Moves by millimetres; a spot snaps to the part it comes to lie on. */
export function moved(map: BoardMapBody, picked: Picked, dxMm: number, dyMm: number, snap: boolean): BoardMapBody {
  const entry = entryOf(map, picked);
  if (!entry) return map;
  const to = { xMm: tidy(entry.xMm + dxMm), yMm: tidy(entry.yMm + dyMm) };
  if (picked.list !== 'placements') return withEntry(map, picked, to);
  const { face } = entry as MapPlacement;
  const { xMm, yMm } = snap ? snapToPart(map as BoardMap, face, to.xMm, to.yMm) : to;
  return withEntry(map, picked, { xMm: tidy(xMm), yMm: tidy(yMm) });
}

/** Puts a spot on the map, or moves it there, snapped to the part beneath. */
export function placed(map: BoardMapBody, spotId: string, face: Face, xMm: number, yMm: number): BoardMapBody {
  const at = snapToPart(map as BoardMap, face, xMm, yMm);
  const placement = { spotId, face, xMm: tidy(at.xMm), yMm: tidy(at.yMm) };
  return { ...map, placements: [...map.placements.filter((entry) => entry.spotId !== spotId), placement] };
}

/** A free rectangle for something new: the first of a grid of places that hits nothing on its face. */
function freePlace(map: BoardMapBody, face: Face, widthMm: number, heightMm: number): Rect {
  const hits = (rect: Rect) =>
    map.parts.some(
      (part) =>
        part.face === face &&
        rect.xMm < part.xMm + part.widthMm &&
        part.xMm < rect.xMm + rect.widthMm &&
        rect.yMm < part.yMm + part.heightMm &&
        part.yMm < rect.yMm + rect.heightMm,
    );
  for (let yMm = 1; yMm + heightMm <= map.heightMm; yMm += 2)
    for (let xMm = 1; xMm + widthMm <= map.widthMm; xMm += 2)
      if (!hits({ xMm, yMm, widthMm, heightMm })) return { xMm, yMm, widthMm, heightMm };
  return { xMm: 0, yMm: 0, widthMm: Math.min(widthMm, map.widthMm), heightMm: Math.min(heightMm, map.heightMm) };
}

export function newPart(map: BoardMapBody, face: Face): MapPart {
  const size = Math.min(10, map.widthMm / 4, map.heightMm / 3);
  return {
    ...freePlace(map, face, tidy(size), tidy(size)),
    id: crypto.randomUUID(),
    name: `Part ${map.parts.length + 1}`,
    face,
    componentClass: 'board',
    tallMm: 1,
    heatShare: 0,
  };
}

/** A cover over the whole outline, a little above the tallest part, with a pad as large as itself that reaches it. */
export function newCover(map: BoardMapBody, face: Face): { cover: MapCover; pad: MapPad } {
  const tallest = Math.max(1, ...map.parts.filter((part) => part.face === face).map((part) => part.tallMm));
  const rect = { xMm: 0, yMm: 0, widthMm: map.widthMm, heightMm: map.heightMm };
  const id = crypto.randomUUID();
  const name = `Cover ${map.covers.length + 1}`;
  return {
    cover: { ...rect, id, name, face, undersideMm: tidy(tallest + 1), gapToleranceMm: 0.1 },
    pad: padOf({ ...rect, id }, `${name} pad`),
  };
}

/** A pad of the usual thickness beneath the whole of a cover. */
function padOf(
  { xMm, yMm, widthMm, heightMm, id: coverId }: Pick<MapCover, 'xMm' | 'yMm' | 'widthMm' | 'heightMm' | 'id'>,
  name: string,
): MapPad {
  return { xMm, yMm, widthMm, heightMm, id: crypto.randomUUID(), name, coverId, padMm: 1.5, conductivityWPerMK: 5 };
}

/** One more pad beneath a cover. */
export const newPad = (map: BoardMapBody, cover: MapCover): MapPad => padOf(cover, `Pad ${map.pads.length + 1}`);

/** A screw in the middle of a cover, to be put where it belongs; named as the last one of the cover. */
export function newScrew(map: BoardMapBody, cover: MapCover): MapScrewBody {
  const last = map.screws?.findLast((screw) => screw.coverId === cover.id);
  const n = map.screws?.filter((screw) => screw.coverId === cover.id).length ?? 0;
  return {
    id: crypto.randomUUID(),
    coverId: cover.id,
    name: last?.name ?? 'M2 × 5',
    // From corner to corner: most covers have four.
    xMm: tidy(cover.xMm + (n % 2 === 0 ? 3 : cover.widthMm - 3)),
    yMm: tidy(cover.yMm + (n % 4 < 2 ? 3 : cover.heightMm - 3)),
  };
}

/** Room above the whole board, ended by something that is still to be named. */
export function newZone(map: BoardMapBody, face: Face): MapZoneBody {
  return {
    id: crypto.randomUUID(),
    name: `Zone ${(map.zones?.length ?? 0) + 1}`,
    face,
    xMm: 0,
    yMm: 0,
    widthMm: map.widthMm,
    heightMm: map.heightMm,
    clearMm: 20,
  };
}

/** Spots that this map does not show yet. */
export function unplaced(map: BoardMapBody, spots: readonly SpotBody[]): SpotBody[] {
  return spots.filter((spot) => !map.placements.some((placement) => placement.spotId === spot.id));
}
