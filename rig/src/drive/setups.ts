/**
 * The M.2 drive of the simulated bench and what each set-up changes, in one place. Conductances in W/K, capacities in J/K,
 * powers in W. Order of magnitude from general engineering knowledge of still-air M.2 slots; no real product is meant.
 */
export const DRIVE = {
  /** Heat under a full sequential write and at idle. Two flash packages a face. */
  loadW: { controller: 3.7, flashTop: 1.25, flashUnder: 1.35, board: 0.65 },
  idleW: { controller: 0.85, flashTop: 0.12, flashUnder: 0.12, board: 0.25 },
  /** Leakage and regulator loss grow with temperature, 1/K about 25 °C. */
  powerTempCo: 0.0015,
  capacityJPerK: { controller: 2.2, flashTop: 3.6, flashUnder: 3.6, board: 14, slot: 160 },
  /** Through solder balls and copper planes. */
  toBoard: { controller: 0.34, flashTop: 0.36, flashUnder: 0.24 },
  /** Edge connector and stand-off into the main board, and the main board to room air. */
  boardToSlot: 0.075,
  slotToRoom: 0.42,
  /** Full sequential write, MB/s. */
  throughputMBps: 6100,
  /** The drive halves its throughput when its controller passes this, and recovers below the second figure, °C. */
  throttleAtC: 88,
  recoverAtC: 80,
} as const;

export interface DriveSetup {
  key: string;
  label: string;
  /** Bare surfaces to room air. */
  toRoom: { controller: number; flashTop: number; flashUnder: number; board: number };
  /** A lid or sink on the upper face; null where there is none. */
  cover: { capacityJPerK: number; toRoom: number; fromController: number; fromFlashTop: number } | null;
  reason: string;
}

export const DRIVE_SETUPS: DriveSetup[] = [
  {
    key: 'bare',
    label: 'Bare drive',
    toRoom: { controller: 0.014, flashTop: 0.034, flashUnder: 0.029, board: 0.024 },
    cover: null,
    reason:
      'Natural convection and radiation from small vertical faces, about 10 W/m²K; the underside faces the main board across a few millimetres and sheds less.',
  },
  {
    key: 'slot-lid',
    label: 'Slot lid',
    toRoom: { controller: 0.002, flashTop: 0.004, flashUnder: 0.009, board: 0.0125 },
    cover: { capacityJPerK: 26, toRoom: 0.103, fromController: 0.02, fromFlashTop: 0.33 },
    reason:
      "A thin metal lid on a soft pad spreads the upper face's heat over more area, but its skirt stops the air under the drive, so the underside sheds less than half of what it did.",
  },
];

export function driveSetup(key: string): DriveSetup {
  const setup = DRIVE_SETUPS.find((candidate) => candidate.key === key);
  if (!setup) throw new RangeError(`the simulated bench has no set-up "${key}"; it has ${DRIVE_SETUPS.map((s) => s.key).join(', ')}`);
  return setup;
}
