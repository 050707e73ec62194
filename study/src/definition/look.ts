import type { ComponentClass } from '../components.ts';
import type { BoardMapEntry } from './boardMap.ts';

/** Temperatures that a drive publishes about itself, °C; fields as the open NVM Express specification defines them. */
export interface DriveTemperaturesEntry {
  /** Warning composite temperature threshold. */
  warningC: number;

  /** Critical composite temperature threshold. */
  criticalC: number;

  /** Host-managed: light throttling from here; null where switched off. */
  managed1C: number | null;

  /** Host-managed: heavy throttling from here; null where switched off. */
  managed2C: number | null;
}

/** One part under test. Studies that compare boards have several. */
export interface SubjectEntry {
  id: string;
  name: string;
  details: string;

  /** By which a scratch drive is confirmed before it is written to. */
  serial?: string;
  drive: DriveTemperaturesEntry | null;
  map: BoardMapEntry | null;
}

/** What lies between a surface that is read and the part that is meant. */
export interface BeneathEntry {
  heatW: number;
  gapMm: number;
  gapToleranceMm: number;
  padMm: number;
  conductivityWPerMK: number;
  areaMm2: number;
  caseKPerW: number;
}

/** A place on the part whose temperature is read, its limits and its sensor. */
export interface SpotEntry {
  id: string;
  name: string;
  place: string;
  componentClass: ComponentClass;

  /** Worth a word from here, °C; null where nothing is said of it. */
  advisoryC: number | null;
  advisorySource: string;

  /** Never to be exceeded: the right end of the headroom strip. */
  limitC: number;
  limitSource: string;

  /** Load is cut when this is exceeded for `cutOutHoldS`. */
  cutOutC: number;
  cutOutHoldS: number;

  /** Where the part itself throttles on this spot, °C; null where unknown. */
  throttleC: number | null;
  throttleSource: string;

  /** How it is read. */
  method: 'attached' | 'own' | 'infrared';

  /** Typed in by the tester at set minutes instead of logged. */
  byHand: boolean;

  /** Channel of the rig that reads it; a short name for one that is read by hand. */
  channel: string;
  sensor: string;

  /** Channel of one of the bench's instruments, so that its calibration counts; null where none is written down. */
  instrumentChannelId: string | null;
  accuracyK: number;
  resolutionK: number;

  /** Half-width of what place and contact of the probe may cost. */
  placementK: number;

  /** Another spot that reads the same place, to be held against this one. */
  twinOf: string | null;
  beneath: BeneathEntry | null;
}
