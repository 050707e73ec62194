import type { ComponentClass } from '../components.ts';

/** A rectangle on the map, millimetres from its upper left corner. */
export interface RectEntry {
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

export interface MapPartEntry extends RectEntry {
  id: string;
  name: string;
  face: 'top' | 'under';
  componentClass: ComponentClass;
  tallMm: number;
  heatShare: number;
}

export interface MapCoverEntry extends RectEntry {
  id: string;
  name: string;
  face: 'top' | 'under';
  undersideMm: number;
  gapToleranceMm: number;

  /** Height of its upper face above the board; nothing is said of fit where it is not known. */
  topMm?: number;
}

export interface MapPadEntry extends RectEntry {
  id: string;
  name: string;
  coverId: string;
  padMm: number;
  conductivityWPerMK: number;
}

/** A screw of a cover, as it was found at strip-down. */
export interface MapScrewEntry {
  id: string;
  coverId: string;

  /** Such as M2 × 5. */
  name: string;
  xMm: number;
  yMm: number;
}

/** Room above a stretch of the board that something else ends: a neighbour card, a clip, a panel. */
export interface MapZoneEntry extends RectEntry {
  id: string;
  name: string;
  face: 'top' | 'under';
  clearMm: number;
}

export interface MapPlacementEntry {
  spotId: string;
  face: 'top' | 'under';
  xMm: number;
  yMm: number;
}

/** Where parts, covers, pads and spots lie on one subject. */
export interface BoardMapEntry {
  widthMm: number;
  heightMm: number;
  heatW: number;
  parts: MapPartEntry[];
  covers: MapCoverEntry[];
  pads: MapPadEntry[];
  placements: MapPlacementEntry[];
  screws?: MapScrewEntry[];
  zones?: MapZoneEntry[];
}
